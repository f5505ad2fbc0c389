import { Injectable, type OnDestroy } from '@angular/core';
import { type AskedMeans } from '@plain-relief/core/making';
import {
  type Correction,
  type PlateFile,
  type ReportedRow,
  reportFile,
  type RunSheet,
  sheetTroubles,
  type Values,
} from '@plain-relief/core/runs';
import { type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';
import { proxy, type Remote } from 'comlink';
import { BehaviorSubject, type Observable } from 'rxjs';
import { LimitedWorker, Stopped } from '../platform/limited-worker';
import type { AskedPlate, AskedRow, DrawnSheets, PlatePicture, ToldRow } from './run-desk';
import type { RunCounter } from './run.worker';

/** Rows and what is put into their slots. */
export interface RunRows {
  readonly sign: Sign;
  readonly rows: readonly (PlateWords & { readonly id: number })[];
}

/** What a plate says, and what is otherwise on it alone. */
export interface PlateWords {
  readonly values: Values;
  readonly corrections?: readonly Correction[];
}

const askedOf = ({ values, corrections }: PlateWords): AskedPlate => ({
  pairs: [...values],
  ...(corrections && { corrections }),
});
const keyOf = ({ pairs, corrections }: AskedPlate): string => JSON.stringify(corrections ? [pairs, corrections] : pairs);

/** How far the rows of a run are laid out. */
export interface LaidOut {
  readonly byId: ReadonlyMap<number, ToldRow>;
  readonly done: number;
  readonly of: number;
  readonly isPaused: boolean;
}

/** Rows that a worker is given at a time: so few that a picture that is asked for meanwhile does not wait long. */
const LOT = 8;
/** ms after which a lot, one row, a picture, or the sheets are given up. */
const LONGEST_LOT_MS = 30_000;
const LONGEST_SHEETS_MS = 120_000;
const LONGEST_PROGRAMS_MS = 900_000;
/** Part of the work that rows are where they are laid on sheets, or programs are made as well. */
const PILING = 0.3;
/** ms between two times at which the page hears of what is done. */
const TOLD_MS = 120;

/** Lays out the rows of a run in a worker, a lot after the other, each once for what it says; makes their pictures, sheets and files. */
@Injectable()
export class PlateDesk implements OnDestroy {
  private readonly worker = new LimitedWorker<RunCounter>(() => this.startWorker());
  private readonly state = new BehaviorSubject<LaidOut>({ byId: new Map(), done: 0, of: 0, isPaused: false });
  readonly laidOut$: Observable<LaidOut> = this.state;
  private asked: { readonly sign: Sign; readonly rows: readonly (AskedRow & { readonly key: string })[] } | undefined; // prettier-ignore
  /** What is known, by what a row says. */
  private known = new Map<string, Omit<ToldRow, 'id'>>();
  /** What lies on the pile of the worker, for sheets alone. */
  private pile = '';
  private isAtWork = false;
  private heard = 0;
  /** Rows that are seen: they come first. */
  private first: readonly number[] = [];

  /** Says what is to be laid out; rows that say what they said are not laid out anew. */
  lay({ sign, rows }: RunRows): void {
    if (sign !== this.asked?.sign) this.known = new Map();
    const asked = rows.map((row) => {
      const plate = askedOf(row);
      return { id: row.id, ...plate, key: keyOf(plate) };
    });
    this.asked = { sign, rows: asked };
    this.tell(true);
    void this.work();
  }

  /** Rows that are seen by somebody. */
  see(ids: readonly number[]): void {
    this.first = ids;
  }

  pause(): void {
    this.state.next({ ...this.state.value, isPaused: true });
  }

  resume(): void {
    this.state.next({ ...this.state.value, isPaused: false });
    void this.work();
  }

  /** A plate as it will look; undefined where it cannot be made. @throws Error with a sentence */
  async picture(sign: Sign, plate: PlateWords, longest: number): Promise<PlatePicture | undefined> {
    const drawn = () => this.limited(LONGEST_LOT_MS, 'Drawing this plate', (desk) => desk.picture(sign, askedOf(plate), longest));
    try {
      return await drawn();
    } catch (error) {
      // Something else was stopped, and its worker with it.
      if (error instanceof Stopped) return drawn();
      throw error;
    }
  }

  /**
   * Lays rows on sheets. @param rows with their numbers from 0
   * @param onProgress told the share that is done
   * @throws Stopped where it was stopped, and Error with a sentence
   */
  async sheets(
    sign: Sign,
    rows: readonly NumberedRow[],
    sheet: RunSheet,
    onProgress: (done: number) => void,
  ): Promise<DrawnSheets> {
    // What lies otherwise is no other pile.
    const pile = JSON.stringify([sign, rows.map((row) => [row.row, askedOf(row)])]);
    if (pile !== this.pile) {
      this.pile = '';
      await this.piled(sign, rows, [], (done) => onProgress(PILING * done));
      this.pile = pile;
    }
    let isWaiting = true;
    // What is done may be heard of after it was stopped.
    const heard = proxy((done: number) => {
      if (isWaiting) onProgress(PILING + (1 - PILING) * done);
    });
    try {
      return await this.limited(LONGEST_SHEETS_MS, 'Laying these plates on sheets', (desk) => desk.lay(sign, sheet, [], heard));
    } finally {
      isWaiting = false;
    }
  }

  /** Files of rows, of their sheets, and a report, in one file. @throws Stopped where it was stopped, and Error with a sentence */
  async files(
    sign: Sign,
    rows: readonly NumberedRow[],
    sheet: RunSheet,
    kinds: readonly PlateFile[],
    report: Report,
    onProgress: (done: number) => void,
    programs?: ProgramsAsked,
  ): Promise<MadeFiles> {
    const share = programs ? PILING : 1;
    this.pile = '';
    const trouble = await this.piled(sign, rows, kinds, (done) => onProgress(share * done));
    const { count } = await this.limited(LONGEST_SHEETS_MS, 'Laying these plates on sheets', (desk) => desk.lay(sign, sheet, kinds)); // prettier-ignore
    const wrong: { readonly sheet: number; readonly text: string }[] = [];
    let minutes = 0;
    for (let i = 0; programs && i < count; i++) {
      const told = await this.limited(LONGEST_PROGRAMS_MS, `Planning sheet ${i + 1}`, (desk) => desk.programs(sign, i, programs.shop, programs.means)); // prettier-ignore
      minutes += told.minutes ?? 0;
      if (told.trouble !== undefined) wrong.push({ sheet: i, text: told.trouble });
      onProgress(share + ((1 - share) * (i + 1)) / count);
    }
    if (wrong.length > 0) trouble.push(sheetTroubles(wrong));
    const { columns, rows: told } = report;
    const bytes = await this.limited(LONGEST_SHEETS_MS, 'Packing the files', (desk) => desk.zipped(reportFile(columns, told)));
    return { bytes, trouble, ...(programs && { minutes }) };
  }

  /** Ends sheets and files that are being made. */
  stop(): void {
    this.pile = '';
    this.worker.end();
  }

  ngOnDestroy(): void {
    this.asked = undefined;
    this.stop();
  }

  private async piled(
    sign: Sign,
    rows: readonly NumberedRow[],
    kinds: readonly PlateFile[],
    onProgress: (done: number) => void,
  ): Promise<string[]> {
    // prettier-ignore
    await this.limited(LONGEST_LOT_MS, 'Beginning', (desk) => desk.begin());
    const trouble: string[] = [];
    for (let at = 0; at < rows.length; at += LOT) {
      const lot = rows.slice(at, at + LOT).map((row) => ({ id: row.id, row: row.row, ...askedOf(row) }));
      trouble.push(...(await this.limited(LONGEST_LOT_MS, `Making rows ${lot[0].row + 1} to ${lot.at(-1)!.row + 1}`, (desk) => desk.add(sign, lot, kinds)))); // prettier-ignore
      onProgress(Math.min(1, (at + LOT) / rows.length));
    }
    return trouble;
  }

  private async work(): Promise<void> {
    if (this.isAtWork) return;
    this.isAtWork = true;
    try {
      for (;;) {
        const { asked } = this;
        const lot = this.state.value.isPaused ? [] : this.nextLot();
        if (!asked || lot.length === 0) break;
        await this.lotOf(asked.sign, lot);
        this.tell(Date.now() - this.heard > TOLD_MS);
      }
    } finally {
      this.isAtWork = false;
      if (this.asked) this.tell(true);
    }
  }

  /** Rows that nothing is known of, those that are seen first; of such that say the same only one. */
  private nextLot(): readonly AskedRow[] {
    const { rows = [] } = this.asked ?? {};
    const seen = new Set(this.first);
    const lot = new Map<string, AskedRow>();
    const take = (isSeen: boolean): void => {
      for (const { key, ...row } of rows) {
        if (lot.size >= LOT) return;
        if (seen.has(row.id) === isSeen && !this.known.has(key) && !lot.has(key)) lot.set(key, row);
      }
    };
    take(true);
    take(false);
    return [...lot.values()];
  }

  /** A lot in which one takes too long is laid out row by row, so that only that one is given up. */
  private async lotOf(sign: Sign, lot: readonly AskedRow[]): Promise<void> {
    const keep = (row: AskedRow, { state, title, told, narrowed }: Omit<ToldRow, 'id'>): void => {
      if (this.asked?.sign === sign) this.known.set(keyOf(row), { state, title, told, ...(narrowed !== undefined && { narrowed }) }); // prettier-ignore
    };
    try {
      const told = await this.limited(LONGEST_LOT_MS, 'Laying out these rows', (desk) => desk.told(sign, lot));
      told.forEach((each, i) => keep(lot[i], each));
    } catch (error) {
      if (error instanceof Stopped) return;
      if (lot.length > 1) for (const row of lot) await this.lotOf(sign, [row]);
      else keep(lot[0], { state: 'refused', title: '', told: [(error as Error).message] });
    }
  }

  private tell(isDue: boolean): void {
    if (!isDue) return;
    this.heard = Date.now();
    const { rows = [] } = this.asked ?? {};
    const byId = new Map<number, ToldRow>();
    for (const { id, key } of rows) {
      const known = this.known.get(key);
      if (known) byId.set(id, { ...known, id });
    }
    this.state.next({ ...this.state.value, byId, done: byId.size, of: rows.length });
  }

  private async limited<T>(ms: number, what: string, question: (desk: Remote<RunCounter>) => Promise<T>): Promise<T> {
    try {
      return await this.worker.ask(ms, `${what} takes longer than ${ms / 1000} s and was given up: make the sign plainer, or take fewer rows.`, question); // prettier-ignore
    } catch (error) {
      // The worker may be another one by now.
      this.pile = '';
      throw error;
    }
  }

  protected startWorker(): Worker {
    return new Worker(new URL('./run.worker', import.meta.url), { type: 'module' });
  }
}

/** A row with its number in the list, from 0. */
export interface NumberedRow extends PlateWords {
  readonly id: number;
  readonly row: number;
}

/** Programs are made for a machine of the shop, with its tools. */
export interface ProgramsAsked {
  readonly shop: Shop;
  readonly means: AskedMeans;
}

export interface MadeFiles {
  readonly bytes: Uint8Array;
  /** What could not be made, and what is wrong, in sentences. */
  readonly trouble: readonly string[];
  /** Of all programs, where they were asked for. */
  readonly minutes?: number;
}

export interface Report {
  readonly columns: readonly string[];
  readonly rows: readonly ReportedRow[];
}
