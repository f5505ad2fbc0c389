import { type Run } from '@plain-relief/core/runs';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** A sign of a job with a list. */
export class RunRow extends Model<InferAttributes<RunRow>, InferCreationAttributes<RunRow>> {
  declare id: string;
  declare jobId: string;
  declare title: string;
  declare revision: number;
  declare document: Run;
  /** Of the document, so that runs are listed without their rows. */
  declare sign: string;
  declare rowCount: number;
  declare savedAt: Date;
  declare createdAt: Date;
}

export function defineRuns(sequelize: Sequelize) {
  RunRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      title: DataTypes.STRING(120),
      revision: { type: DataTypes.INTEGER, allowNull: false },
      document: { type: DataTypes.JSONB, allowNull: false },
      sign: DataTypes.STRING(64),
      rowCount: { type: DataTypes.INTEGER, allowNull: false },
      savedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'runs' },
  );
  return { RunRow };
}
