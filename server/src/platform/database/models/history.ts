import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** Something that happened to a job, for good: rows are added and never changed. */
export class JobEvent extends Model<InferAttributes<JobEvent>, InferCreationAttributes<JobEvent>> {
  declare id: string;
  declare jobId: string;
  declare at: Date;
  /** Whose doing it was: the shop, or the name that a customer gave. */
  declare who: string;
  declare text: string;
}

export function defineHistory(sequelize: Sequelize) {
  JobEvent.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      at: DataTypes.DATE,
      who: DataTypes.STRING(120),
      text: DataTypes.TEXT,
    },
    { sequelize, tableName: 'job_events' },
  );
  return { JobEvent };
}
