import { type Sign, upgraded } from '@plain-relief/core/sign';
import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import { BINNED } from './binned.js';
import type { Job } from './jobs.js';

/** A sign as it stands now. */
export class SignRow extends Model<InferAttributes<SignRow>, InferCreationAttributes<SignRow>> {
  declare id: string;
  declare jobId: string;
  declare title: string;
  declare revision: number;
  declare document: Sign;
  declare savedAt: Date;
  declare createdAt: Date;
  /** Since when it lies in the bin. */
  declare removedAt: CreationOptional<Date | null>;
  /** The words of its texts, as a list in JSON; kept by the database. */
  declare readonly words: CreationOptional<string>;
  declare job?: NonAttribute<Job>;
}

/** A document as it once was saved, or one that came too late and was set aside. */
export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare id: string;
  declare signId: string;
  /** Of `saved`, its own number; of `aside`, the number it began from. */
  declare revision: number;
  declare kind: 'saved' | 'aside';
  declare document: Sign;
  declare savedAt: Date;
}

export function defineSigns(sequelize: Sequelize) {
  const whole = { type: DataTypes.INTEGER, allowNull: false };
  const document = {
    type: DataTypes.JSONB,
    allowNull: false,
    // Documents are kept as they were written, and read as this release writes them.
    get(this: Model): unknown {
      return upgraded(this.getDataValue('document' as never));
    },
  };
  SignRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      jobId: DataTypes.UUID,
      title: DataTypes.STRING(200),
      revision: whole,
      document,
      savedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
      removedAt: DataTypes.DATE,
      words: DataTypes.TEXT,
    },
    { sequelize, tableName: 'signs', ...BINNED },
  );
  RevisionRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      signId: DataTypes.UUID,
      revision: whole,
      kind: DataTypes.STRING(10),
      document,
      savedAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'sign_revisions' },
  );
  return { SignRow, RevisionRow };
}
