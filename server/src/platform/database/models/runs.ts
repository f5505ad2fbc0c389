import type { CorrectionEnd } from '@plain-relief/api/states';
import { type ReadSlot, type Run } from '@plain-relief/core/runs';
import { type Sign, upgraded } from '@plain-relief/core/sign';
import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import type { Proof } from './proofs.js';

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

/** A run as it was when a proof was frozen; its sign is among the proof's contents. */
export class FrozenRun extends Model<InferAttributes<FrozenRun>, InferCreationAttributes<FrozenRun>> {
  declare id: string;
  declare proofId: string;
  declare position: number;
  declare runId: string;
  declare signId: string;
  declare title: string;
  declare rowCount: number;
  declare slots: readonly ReadSlot[];
  declare document: Run;
  /** The option that its plates are made as, where it names one. */
  declare option: string | null;
  /** The sign as its first plate has it, before any option; null where there are no rows. */
  declare sample: Sign | null;
  declare proof?: NonAttribute<Proof>;
}

/** A value of a frozen run that its customer would have otherwise. */
export class CorrectionRow extends Model<InferAttributes<CorrectionRow>, InferCreationAttributes<CorrectionRow>> {
  declare id: string;
  declare proofId: string;
  /** The frozen one. */
  declare run: string;
  declare row: number;
  declare number: number;
  declare column: string;
  declare was: string;
  declare value: string;
  declare who: string;
  declare at: Date;
  declare end: CorrectionEnd | null;
  declare proof?: NonAttribute<Proof>;
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
  FrozenRun.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      proofId: DataTypes.UUID,
      position: DataTypes.INTEGER,
      runId: DataTypes.UUID,
      signId: DataTypes.UUID,
      title: DataTypes.STRING(120),
      rowCount: DataTypes.INTEGER,
      slots: DataTypes.JSONB,
      document: { type: DataTypes.JSONB, allowNull: false },
      option: DataTypes.STRING(64),
      sample: {
        type: DataTypes.JSONB,
        get(this: Model): unknown {
          const kept = this.getDataValue('sample' as never) as unknown as Sign | null | undefined;
          return kept && upgraded(kept);
        },
      },
    },
    { sequelize, tableName: 'proof_runs' },
  );
  CorrectionRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      proofId: DataTypes.UUID,
      run: DataTypes.UUID,
      row: DataTypes.INTEGER,
      number: DataTypes.INTEGER,
      column: DataTypes.STRING(90),
      was: DataTypes.TEXT,
      value: DataTypes.TEXT,
      who: DataTypes.STRING(120),
      at: DataTypes.DATE,
      end: DataTypes.STRING(10),
    },
    { sequelize, tableName: 'proof_corrections' },
  );
  return { RunRow, FrozenRun, CorrectionRow };
}
