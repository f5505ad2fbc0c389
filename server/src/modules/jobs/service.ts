import { randomUUID } from 'node:crypto';
import type { JobChange, JobRun, NewJob } from '@plain-relief/api';
import { UniqueConstraintError } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { SignProof } from '@plain-relief/api';
import { signProofs } from '../proof-states/sign-proofs.js';
import { jobRuns } from './job-runs.js';
import type { Customer, Job } from '../../platform/database/models/jobs.js';

/** What a board shows of a job, with where each of its signs stands with the customer. */
function jobView(job: Job, proofs: ReadonlyMap<string, SignProof>, runs: ReadonlyMap<string, readonly JobRun[]>) {
  const { id, number, title, state, dueOn, quantity, unit } = job;
  return {
    id,
    number,
    title,
    state,
    dueOn,
    quantity,
    unit,
    customer: job.customer?.name ?? '',
    contact: String(job.customer?.contact ?? ''),
    signs: (job.signs ?? []).map(({ id: signId, title: name, revision, savedAt, words }) => ({
      ...{ id: signId, title: name, revision, savedAt },
      words: (JSON.parse(words) as string[]).join(' ').slice(0, MOST_WORDS),
      proof: proofs.get(signId),
    })),
    runs: [...(runs.get(id) ?? [])],
  };
}

/** "2026-02-31" reads as a date and is none. */
function checkDate(dueOn: string | null | undefined): void {
  if (!dueOn) return;
  const date = new Date(`${dueOn}T00:00:00Z`);
  // PostgreSQL knows no year 0, and nobody is due before 1900.
  if (Number.isNaN(date.getTime()) || date.toISOString().slice(0, 10) !== dueOn || date.getUTCFullYear() < 1900)
    throw errors.badRequest([{ path: 'dueOn', message: `“${dueOn}” is not a day of the calendar: write it as 2026-11-25.` }]);
}

/** Characters of a sign's words that the board searches. */
const MOST_WORDS = 2000;

/** Events of a job that are told. */
const MOST_EVENTS = 500;

export class JobService {
  constructor(private readonly db: Database) {}

  private readonly whole = [
    { association: 'customer' },
    { association: 'signs', attributes: ['id', 'title', 'revision', 'savedAt', 'createdAt', 'words'] },
  ];

  async all() {
    const jobs = await this.db.Job.findAll({
      include: this.whole,
      order: [
        ['dueOn', 'ASC NULLS LAST'],
        ['number', 'ASC'],
        ['signs', 'createdAt', 'ASC'],
      ],
    });
    const ids = jobs.map(({ id }) => id);
    const [proofs, runs] = await Promise.all([signProofs(this.db, ids), jobRuns(this.db, ids)]);
    return jobs.map((job) => jobView(job, proofs, runs));
  }

  /** A job as the board shows it. */
  async shown(job: Job) {
    const [proofs, runs] = await Promise.all([signProofs(this.db, [job.id]), jobRuns(this.db, [job.id])]);
    return jobView(job, proofs, runs);
  }

  async customers(): Promise<{ name: string }[]> {
    const rows = await this.db.Customer.findAll({ order: [['name', 'ASC']] });
    return rows.map(({ name }) => ({ name }));
  }

  async find(id: string): Promise<Job> {
    const job = isUuid(id)
      ? await this.db.Job.findByPk(id, { include: this.whole, order: [['signs', 'createdAt', 'ASC']] })
      : null;
    if (!job) throw errors.notFound('job', id);
    return job;
  }

  /** What happened to a job, the newest first. */
  async history(id: string) {
    const { id: jobId } = await this.find(id);
    return this.db.JobEvent.findAll({ where: { jobId }, order: [['at', 'DESC']], limit: MOST_EVENTS });
  }

  /** A job with the next free number of its customer, who is made if not there. */
  async create(wanted: NewJob, attempt = 0): Promise<Job> {
    checkDate(wanted.dueOn);
    try {
      const id = await this.db.sequelize.transaction(async (transaction) => {
        const customer = await this.customerNamed(wanted.customer.trim(), transaction);
        // Of those in the bin, too, which may come back.
        const where = { customerId: customer.id };
        const numbers = await this.db.Job.findAll({ where, attributes: ['number'], paranoid: false, transaction });
        const last = Math.max(100, ...numbers.map(({ number }) => Number(number.split('-')[1]) || 0));
        const job = await this.db.Job.create(
          {
            id: randomUUID(),
            customerId: customer.id,
            number: `${customer.code}-${String(last + 1).padStart(4, '0')}`,
            title: wanted.title.trim(),
            state: 'brief',
            dueOn: wanted.dueOn,
            quantity: wanted.quantity,
            unit: wanted.unit,
            createdAt: new Date(),
          },
          { transaction },
        );
        return job.id;
      });
      return await this.find(id);
    } catch (error) {
      // Two jobs or customers at once took the same number or letters: the next ones are free.
      if (error instanceof UniqueConstraintError && attempt < 5) return this.create(wanted, attempt + 1);
      throw error;
    }
  }

  async change(id: string, wanted: JobChange): Promise<Job> {
    checkDate(wanted.dueOn);
    const job = await this.find(id);
    await job.update(wanted as Partial<Job>);
    return this.find(id);
  }

  /** Puts a job into the bin. @throws ServerError where the customer has approved something of it */
  async remove(id: string): Promise<void> {
    const job = await this.find(id);
    const approved = await this.db.Proof.findOne({ where: { jobId: id, state: 'approved' }, attributes: ['letter'] });
    if (approved) throw errors.jobIsApproved(approved.letter);
    await job.destroy();
  }

  private async customerNamed(
    name: string,
    transaction: NonNullable<Parameters<Job['save']>[0]>['transaction'],
  ): Promise<Customer> {
    const known = await this.db.Customer.findOne({ where: { name }, transaction });
    if (known) return known;
    const taken = new Set((await this.db.Customer.findAll({ attributes: ['code'], transaction })).map(({ code }) => code));
    return this.db.Customer.create(
      { id: randomUUID(), name, code: freeCode(name, taken), createdAt: new Date() },
      { transaction },
    );
  }
}

/** Two letters from a name, with a figure where they are taken: "Quill Street Library" becomes QS. */
export function freeCode(name: string, taken: ReadonlySet<string>): string {
  const letters =
    name
      .normalize('NFKD')
      .toUpperCase()
      .match(/\p{L}+/gu) ?? [];
  const initials = letters
    .map((word) => word[0])
    .join('')
    .replace(/[^A-Z]/gu, '');
  const stem = (initials.length >= 2 ? initials : letters.join('').replace(/[^A-Z]/gu, '')).slice(0, 2).padEnd(2, 'X');
  if (!taken.has(stem)) return stem;
  let n = 2;
  while (taken.has(`${stem}${n}`)) n++;
  return `${stem}${n}`;
}
