import type { MakingState } from '@plain-relief/api/states';
import type { KeptMeans } from '@plain-relief/core/making';
import type { Correction, PlateFile, PlateState, RunSheet } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize';

/** A row as it was when its files were asked for. */
export interface OrderedRow {
  /** In the list, from 0. */
  readonly row: number;
  /** Into slots, by their names. */
  readonly slots: readonly (readonly [string, string])[];
  readonly corrections?: readonly Correction[];
  /** By the columns of the list. */
  readonly values: readonly string[];
  /** What is remarked of it beside the others, in sentences. */
  readonly remarks: readonly string[];
}

/** A row whose files are made. */
export interface MadeRow {
  readonly row: number;
  readonly state: PlateState;
  readonly title: string;
  readonly narrowed?: number;
  /** What is refused, noted, and what could not be written. */
  readonly told: readonly string[];
}

/** A file among those of a lot, as it is packed (deflate, RFC 1951). */
export interface PackedFile {
  readonly name: string;
  /** CRC-32 of its bytes, how many they are, and how many packed. */
  readonly crc: number;
  readonly size: number;
  readonly packed: number;
}

/** Where plates of a run lie: by the number of their rows, from 0. */
export interface LaidRow {
  readonly row: number;
  readonly sheet: number;
  readonly x: number;
  readonly y: number;
  readonly turn: number;
}

/** Plates on sheets as they were laid. */
export interface LaidSheets {
  readonly count: number;
  /** Of their area that is plates. */
  readonly share: number;
  readonly lastMm: number;
  readonly laid: readonly LaidRow[];
  /** Numbers of rows, from 1, that no sheet is large enough for. */
  readonly left: readonly number[];
}

/** Why a sheet, from 0, has no programs, or what is wrong with them. */
export interface SheetTrouble {
  readonly sheet: number;
  readonly text: string;
}

/** Files of a run that workers make: what of, and how far they are. */
export class RunMaking extends Model<InferAttributes<RunMaking>, Partial<InferCreationAttributes<RunMaking>>> {
  declare id: string;
  declare runId: string;
  declare title: string;
  /** As it was when this was asked for, with what lies on it. */
  declare sign: Sign;
  declare columns: readonly string[];
  declare kinds: readonly PlateFile[];
  declare sheet: RunSheet | null;
  declare hasContact: boolean;
  /** What sheets are cut with, where programs are made; how long those take that are made, and what is wrong with them. */
  declare cutting: KeptMeans | null;
  declare minutes: number;
  declare troubles: readonly SheetTrouble[];
  declare who: string;
  declare state: MakingState;
  /** Of the list, and how many of them are made. */
  declare rows: number;
  declare made: number;
  /** Lots of rows, all that are known of, and those that are done. */
  declare rowLots: number;
  declare lots: number;
  declare lotsMade: number;
  declare laid: LaidSheets | null;
  declare error: string | null;
  declare askedAt: Date;
  declare finishedAt: Date | null;
  /** When a lot was begun or ended last. */
  declare beatAt: Date;
}

/** What a lot is: some rows, the laying on sheets, one sheet, its programs, or pages of the contact sheet. */
export type LotKind = 'rows' | 'nest' | 'sheet' | 'programs' | 'contact';

/** A part of the work on a run's files that one worker does at a time. */
export class RunLot extends Model<InferAttributes<RunLot>, Partial<InferCreationAttributes<RunLot>>> {
  declare makingId: string;
  /** In the order of the files. */
  declare position: number;
  declare kind: LotKind;
  /** Of a sheet its number, of pages of the contact sheet the first, from 0. */
  declare number: number;
  declare state: 'waiting' | 'running' | 'done';
  declare rows: readonly OrderedRow[] | null;
  declare made: readonly MadeRow[] | null;
  /** Of the worker that has it, anew for every time. */
  declare claim: string | null;
  declare tries: number;
  /** Of it that is done while a worker has it, where that is known. */
  declare part: number;
  declare beatAt: Date | null;
  declare files: readonly PackedFile[] | null;
  declare data: Buffer | null;
  /** What is laid on sheets: edges of the rows, and their drawings; and pictures of all. */
  declare edges: Buffer | null;
  declare drawings: Buffer | null;
  declare pictures: Buffer | null;
}

export function defineLots(sequelize: Sequelize) {
  const count = () => ({ type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 });
  RunMaking.init(
    {
      id: { type: DataTypes.UUID, primaryKey: true },
      runId: DataTypes.UUID,
      title: DataTypes.STRING(120),
      sign: { type: DataTypes.JSONB, allowNull: false },
      columns: { type: DataTypes.JSONB, allowNull: false },
      kinds: { type: DataTypes.JSONB, allowNull: false },
      sheet: DataTypes.JSONB,
      hasContact: DataTypes.BOOLEAN,
      cutting: DataTypes.JSONB,
      minutes: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      troubles: { type: DataTypes.JSONB, allowNull: false, defaultValue: [] },
      who: DataTypes.STRING(120),
      state: DataTypes.STRING(12),
      rows: count(),
      made: count(),
      rowLots: count(),
      lots: count(),
      lotsMade: count(),
      laid: DataTypes.JSONB,
      error: DataTypes.TEXT,
      askedAt: DataTypes.DATE,
      finishedAt: DataTypes.DATE,
      beatAt: DataTypes.DATE,
    },
    { sequelize, tableName: 'run_makings' },
  );
  RunLot.init(
    {
      makingId: { type: DataTypes.UUID, primaryKey: true },
      position: { type: DataTypes.INTEGER, primaryKey: true },
      kind: DataTypes.STRING(8),
      number: count(),
      state: DataTypes.STRING(8),
      rows: DataTypes.JSONB,
      made: DataTypes.JSONB,
      claim: DataTypes.UUID,
      tries: count(),
      part: { type: DataTypes.DOUBLE, allowNull: false, defaultValue: 0 },
      beatAt: DataTypes.DATE,
      files: DataTypes.JSONB,
      data: DataTypes.BLOB,
      edges: DataTypes.BLOB,
      drawings: DataTypes.BLOB,
      pictures: DataTypes.BLOB,
    },
    { sequelize, tableName: 'run_lots' },
  );
  return { RunMaking, RunLot };
}
