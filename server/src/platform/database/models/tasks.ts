import { randomUUID } from 'node:crypto';
import type { ProcessChoice } from '@plain-relief/api';
import type { PlanKind, SheetKind, TaskKind, TaskState } from '@plain-relief/api/states';
import { type SheetLayout, type TemplatePaper } from '@plain-relief/core/sheet';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** What things are made from: only as the customer approved them. */
export const PRODUCTION_KINDS: ReadonlySet<TaskKind> = new Set([
  'stl',
  '3mf',
  'pieces',
  'svg',
  'dxf',
  'laser',
  'masks',
  'pattern',
  'inlays',
  'print',
  'template',
  'package',
]);

/** A piece of long work, from being asked for to its file. */
export class Task extends Model<InferAttributes<Task>, Partial<InferCreationAttributes<Task>>> {
  declare id: string;
  /** The sign as it stood at a revision; or the proof, of which sheets are made. */
  declare signId: string | null;
  declare proofId: string | null;
  declare revision: number;
  declare kind: TaskKind | SheetKind | PlanKind;
  /** Id of the option that it is of; null for the sign as it stands. */
  declare option: string | null;
  /** Paper that a template is printed on. */
  declare paper: TemplatePaper | null;
  /** What a sheet shows; everything where none is chosen. */
  declare layout: SheetLayout | null;
  /** How files of a laser, masks and patterns are made. */
  declare process: ProcessChoice | null;
  declare state: TaskState;
  /** 0 to 1. */
  declare progress: number;
  /** What is being done at the moment. */
  declare step: string;
  declare error: string | null;
  declare cancelAsked: boolean;
  declare askedAt: Date;
  /** When the worker last gave a sign of life. */
  declare beatAt: Date | null;
  declare finishedAt: Date | null;
  /** How often a worker has begun it. */
  declare tries: number;
  declare fileName: string | null;
  declare fileType: string | null;
  declare file: Buffer | null;
}

export function defineTasks(sequelize: Sequelize) {
  Task.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      signId: DataTypes.UUID,
      proofId: DataTypes.UUID,
      revision: DataTypes.INTEGER,
      kind: DataTypes.STRING(20),
      option: DataTypes.STRING(64),
      paper: DataTypes.STRING(10),
      layout: DataTypes.JSONB,
      process: DataTypes.JSONB,
      state: DataTypes.STRING(12),
      progress: DataTypes.FLOAT,
      step: DataTypes.STRING(120),
      error: DataTypes.TEXT,
      cancelAsked: DataTypes.BOOLEAN,
      askedAt: DataTypes.DATE,
      beatAt: DataTypes.DATE,
      finishedAt: DataTypes.DATE,
      tries: { type: DataTypes.INTEGER, defaultValue: 0 },
      fileName: DataTypes.STRING(200),
      fileType: DataTypes.STRING(100),
      file: DataTypes.BLOB,
    },
    { sequelize, tableName: 'tasks' },
  );
  return { Task };
}

/** Writes a task down that waits for a worker. */
export const waitingTask = (
  { Task: tasks }: { readonly Task: typeof Task },
  what: Pick<Task, 'signId' | 'proofId' | 'revision' | 'kind' | 'option'> & Partial<Pick<Task, 'paper' | 'layout' | 'process'>>,
): Promise<Task> =>
  tasks.create({
    ...what,
    id: randomUUID(),
    state: 'waiting',
    progress: 0,
    step: '',
    askedAt: new Date(),
    cancelAsked: false,
  });
