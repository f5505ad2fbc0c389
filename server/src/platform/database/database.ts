import { Sequelize } from 'sequelize';
import { defineFiles } from './models/files.js';
import { defineHistory } from './models/history.js';
import { defineJobs } from './models/jobs.js';
import { defineLots } from './models/lots.js';
import { defineMail } from './models/mail.js';
import { definePeople } from './models/people.js';
import { definePlans } from './models/plans.js';
import { definePlaces } from './models/places.js';
import { defineProofs } from './models/proofs.js';
import { defineShop } from './models/shop.js';
import { defineKeptPictures } from './models/kept-pictures.js';
import { defineRuns } from './models/runs.js';
import { defineSigns } from './models/signs.js';
import { defineTasks } from './models/tasks.js';

/** The connection and every model on it. */
export type Database = ReturnType<typeof openDatabase>;

/** Opens a pool of connections; nothing is asked of the database yet. */
export function openDatabase(url: string) {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    define: { underscored: true, timestamps: false },
    pool: { max: 10, acquire: 10_000 },
    dialectOptions: { connectionTimeoutMillis: 5_000 },
  });
  const { Customer, Job } = defineJobs(sequelize);
  const { SignRow, RevisionRow } = defineSigns(sequelize);
  const { KeptPicture } = defineKeptPictures(sequelize);
  const { Task } = defineTasks(sequelize);
  const { PlanRow, MachineRunRow } = definePlans(sequelize);
  const { JobFile } = defineFiles(sequelize);
  const ofShop = defineShop(sequelize);
  const { Proof, ProofRemark } = defineProofs(sequelize);
  const { JobEvent } = defineHistory(sequelize);
  const { Mail } = defineMail(sequelize);
  const { Person, Session, AuditEntry } = definePeople(sequelize);
  Job.belongsTo(Customer, { foreignKey: 'customerId', as: 'customer' });
  Customer.hasMany(Job, { foreignKey: 'customerId', as: 'jobs' });
  Job.hasMany(SignRow, { foreignKey: 'jobId', as: 'signs' });
  MachineRunRow.belongsTo(PlanRow, { foreignKey: 'planId', as: 'plan' });
  PlanRow.belongsTo(SignRow, { foreignKey: 'signId', as: 'sign' });
  PlanRow.belongsTo(Task, { foreignKey: 'taskId', as: 'task' });
  SignRow.belongsTo(Job, { foreignKey: 'jobId', as: 'job' });
  Proof.belongsTo(Job, { foreignKey: 'jobId', as: 'job' });
  Proof.hasMany(ProofRemark, { foreignKey: 'proofId', as: 'remarks' });
  const { RunRow, FrozenRun, CorrectionRow } = defineRuns(sequelize);
  const { RunMaking, RunLot } = defineLots(sequelize);
  RunMaking.belongsTo(RunRow, { foreignKey: 'runId', as: 'run' });
  Proof.hasMany(FrozenRun, { foreignKey: 'proofId', as: 'runs' });
  FrozenRun.belongsTo(Proof, { foreignKey: 'proofId', as: 'proof' });
  Proof.hasMany(CorrectionRow, { foreignKey: 'proofId', as: 'corrections' });
  CorrectionRow.belongsTo(Proof, { foreignKey: 'proofId', as: 'proof' });
  const { PlaceRow, ProofPlace } = definePlaces(sequelize);
  Proof.hasMany(ProofPlace, { foreignKey: 'proofId', as: 'places' });
  const ofProofs = { Proof, ProofRemark, ProofPlace, FrozenRun, CorrectionRow, JobEvent, Mail };
  const ofPeople = { Person, Session, AuditEntry };
  return {
    sequelize,
    Customer,
    Job,
    SignRow,
    RevisionRow,
    KeptPicture,
    Task,
    PlanRow,
    MachineRunRow,
    JobFile,
    PlaceRow,
    RunRow,
    RunMaking,
    RunLot,
    ...ofShop,
    ...ofProofs,
    ...ofPeople,
  };
}
