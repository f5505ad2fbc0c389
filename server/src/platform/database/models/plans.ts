import type { MadeWith, PlanOrder, Release } from '@plain-relief/api';
import type { PlanOutcome } from '@plain-relief/core/making';
import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import type { Task } from './tasks.js';

/** A program as it leaves. */
export interface KeptProgram {
  readonly name: string;
  readonly text: string;
}

/** How a sign of a revision is cut: what was asked, with what it is made, and what came of it. */
export class PlanRow extends Model<InferAttributes<PlanRow>, InferCreationAttributes<PlanRow>> {
  declare id: string;
  declare signId: string;
  declare revision: number;
  declare taskId: string;
  declare order: PlanOrder;
  declare madeWith: MadeWith;
  declare askedBy: string;
  declare askedAt: Date;
  /** What came of it; null until it is done. */
  declare outcome: PlanOutcome | null;
  declare programs: readonly KeptProgram[] | null;
  /** What the programs leave, seen from above, as PNG; and what they begin from and end with, for the setup sheet. */
  declare picture: Buffer | null;
  /** The setup sheet, as PDF. */
  declare sheet: Buffer | null;
  declare released: Release | null;
  declare task?: NonAttribute<Task>;
}

export function definePlans(sequelize: Sequelize) {
  PlanRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      signId: { type: DataTypes.UUID, allowNull: false },
      revision: { type: DataTypes.INTEGER, allowNull: false },
      taskId: { type: DataTypes.UUID, allowNull: false },
      order: { type: DataTypes.JSONB, allowNull: false },
      madeWith: { type: DataTypes.JSONB, allowNull: false },
      askedBy: { type: DataTypes.STRING(200), allowNull: false },
      askedAt: { type: DataTypes.DATE, allowNull: false },
      outcome: DataTypes.JSONB,
      programs: DataTypes.JSONB,
      picture: DataTypes.BLOB,
      sheet: DataTypes.BLOB,
      released: DataTypes.JSONB,
    },
    { sequelize, tableName: 'cut_plans' },
  );
  return { PlanRow };
}
