import type { MachineRun, MadeWith, PlanOrder, Release } from '@plain-relief/api';
import type { PlanOutcome } from '@plain-relief/core/making';
import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';
import type { SignRow } from './signs.js';
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
  declare sign?: NonAttribute<SignRow>;
}

/** A program that was sent to the machine. */
export class MachineRunRow extends Model<InferAttributes<MachineRunRow>, InferCreationAttributes<MachineRunRow>> {
  declare id: string;
  declare planId: string;
  declare file: number;
  declare sentBy: string;
  declare sentAt: Date;
  declare line: number;
  declare end: MachineRun['end'];
  declare plan?: NonAttribute<PlanRow>;
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
  MachineRunRow.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      planId: { type: DataTypes.UUID, allowNull: false },
      file: { type: DataTypes.INTEGER, allowNull: false },
      sentBy: { type: DataTypes.STRING(200), allowNull: false },
      sentAt: { type: DataTypes.DATE, allowNull: false },
      line: { type: DataTypes.INTEGER, allowNull: false },
      end: DataTypes.STRING(10),
    },
    { sequelize, tableName: 'machine_runs' },
  );
  return { PlanRow, MachineRunRow };
}
