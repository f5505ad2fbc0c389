import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** A file that came with a job, kept as it came. */
export class JobFile extends Model<InferAttributes<JobFile>, InferCreationAttributes<JobFile>> {
  declare id: string;
  declare jobId: string;
  declare name: string;
  declare size: number;
  declare content: Buffer;
  declare createdAt: Date;
}

export function defineFiles(sequelize: Sequelize) {
  JobFile.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      name: { type: DataTypes.STRING(200), allowNull: false },
      size: { type: DataTypes.INTEGER, allowNull: false },
      content: { type: DataTypes.BLOB, allowNull: false },
      createdAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'job_files' },
  );
  return { JobFile };
}
