import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { type Outline } from '@plain-relief/core/geometry';
import { type Nest, type NestChoice, type Size, sizeOfSheet } from '@plain-relief/core/nesting';
import { type AskedMeans } from '@plain-relief/core/making';
import { type Shop } from '@plain-relief/core/shop';
import {
  brailleOfRows,
  type CellsOf,
  type Correction,
  laidOnSheets,
  type NamedFile,
  nestChoiceOf,
  type PlateFile,
  plateOf,
  type PlateState,
  type RunSheet,
  sheetFiles,
  type SheetItem,
  writtenPlate,
} from '@plain-relief/core/runs';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import { strToU8, zipSync } from 'fflate';
import type { Fetch } from '../relief/fetch-bytes';
import { pageFonts } from '../relief/page-fonts';
import type { ToldPrograms } from './run-programs';

/** Values by the names of slots, as they go to a worker and back. */
export type Pairs = readonly (readonly [string, string])[];

/** What a plate says, and what is otherwise on it alone. */
export interface AskedPlate {
  readonly pairs: Pairs;
  readonly corrections?: readonly Correction[];
}

/** A row, by its id, that is to be laid out. */
export interface AskedRow extends AskedPlate {
  readonly id: number;
}

/** How a row came out. */
export interface ToldRow {
  readonly id: number;
  readonly state: PlateState;
  readonly title: string;
  /** Percent of their width that letters were narrowed to. */
  readonly narrowed?: number;
  /** What is refused and noted, in sentences. */
  readonly told: readonly string[];
}

export interface PlatePicture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
}

/** A plate on a sheet, by the id of its row and its number in the list. */
export interface LaidPlate {
  readonly id: number;
  readonly name: string;
  readonly edge: Outline;
  readonly sheet: number;
  readonly x: number;
  readonly y: number;
  readonly turn: number;
}

/** Sheets as they are shown: what lies on each, and what is taken. */
export interface DrawnSheets {
  /** Where each lies; and the size of each sheet. */
  readonly laid: readonly LaidPlate[];
  readonly sizes: readonly Size[];
  readonly share: number;
  readonly lastMm: number;
  /** Numbers of rows that no sheet is large enough for. */
  readonly left: readonly string[];
  readonly plates: number;
  readonly count: number;
}

/** ms between two times at which the page hears of what is done. */
const TOLD_MS = 120;
/** Words whose cells are kept. */
const MOST_CELLS = 20_000;

/** The worker's side of runs: lays out plates, draws them, lays them on sheets, and writes their files. */
export class RunDesk {
  private book: Promise<FontBook> | undefined;
  private evaluator: Evaluator | undefined;
  private items: SheetItem[] = [];
  /** What the items are made of, in their order; and how they were laid last. */
  private signs: Sign[] = [];
  private ids: number[] = [];
  private laid: { readonly nest: Nest; readonly choice: NestChoice } | undefined;
  private files: Record<string, Uint8Array> = {};

  /** Cells of what braille says, by table and words. */
  private readonly cells = new Map<string, string>();

  constructor(
    private readonly fetch: Fetch,
    private readonly translate: (words: string, table: string) => Promise<string>,
  ) {}

  /** What braille of these rows says, each words asked for once. */
  private async braille(sign: Sign, rows: readonly AskedPlate[]): Promise<CellsOf> {
    const own = rows.map(({ pairs, corrections }) => ({ values: new Map(pairs), corrections }));
    if (this.cells.size > MOST_CELLS) this.cells.clear();
    return brailleOfRows(sign, own, this.translate, this.cells);
  }

  /** Lays rows out by themselves. */
  async told(sign: Sign, rows: readonly AskedRow[]): Promise<ToldRow[]> {
    const evaluator = await this.ready(sign);
    const cellsOf = await this.braille(sign, rows);
    return rows.map(({ id, pairs, corrections }): ToldRow => {
      const { state, narrowed, notes, refused, sign: own } = plateOf(sign, new Map(pairs), evaluator, corrections, cellsOf);
      const told = [...refused, ...notes.map(({ text }) => text)];
      return { id, state, title: own.title, told, ...(narrowed !== undefined && { narrowed }) };
    });
  }

  /** A plate as it will look; undefined where it cannot be made. @param longest pixels of its longer side */
  async picture(sign: Sign, plate: AskedPlate, longest: number): Promise<PlatePicture | undefined> {
    const { pairs, corrections } = plate;
    const cellsOf = await this.braille(sign, [plate]);
    const { evaluation } = plateOf(sign, new Map(pairs), await this.ready(sign), corrections, cellsOf);
    if (!evaluation) return undefined;
    const size = pictureSize(evaluation, longest);
    const { width, height, rgba } = reliefPicture(coloured(evaluation, solidOf(evaluation)), size.width, size.height);
    return { width, height, rgba: new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.byteLength) };
  }

  /** Begins a pile of plates: those of sheets and of files before are gone. */
  begin(): void {
    [this.items, this.signs, this.ids, this.files, this.laid] = [[], [], [], {}, undefined];
  }

  /**
   * Lays rows on the pile, and writes the files of each.
   * @param rows with their numbers in the list, from 0
   * @returns what could not be written
   */
  async add(sign: Sign, rows: readonly (AskedRow & { readonly row: number })[], kinds: readonly PlateFile[]): Promise<string[]> {
    const evaluator = await this.ready(sign);
    const cellsOf = await this.braille(sign, rows);
    const trouble: string[] = [];
    for (const { id, row, pairs, corrections } of rows) {
      const plate = plateOf(sign, new Map(pairs), evaluator, corrections, cellsOf);
      const written = writtenPlate(plate, row, kinds);
      if (written.item) {
        this.items.push(written.item);
        this.signs.push(plate.sign);
        this.ids.push(id);
      }
      this.keep(written.files);
      trouble.push(...written.trouble.map((sentence) => `Row ${row + 1}: ${sentence}`));
    }
    return trouble;
  }

  /**
   * Lays the pile on sheets, and draws their maps; with files of outlines each sheet has one of its own.
   * @param onProgress told the share that is done, not more often than a page can show
   */
  lay(sign: Sign, sheet: RunSheet, kinds: readonly PlateFile[], onProgress?: (done: number) => void): DrawnSheets {
    const { items, ids } = this;
    let told = performance.now();
    const tell = (done: number): void => {
      if (performance.now() - told < TOLD_MS) return;
      told = performance.now();
      onProgress?.(done);
    };
    const choice = { ...nestChoiceOf({ sheet }, ids), onProgress: tell };
    const nest = laidOnSheets(items.map(({ edge }) => edge), choice); // prettier-ignore
    this.laid = { nest, choice };
    const sheets = sheetFiles(items, nest, choice, sign, kinds);
    for (const { map, outlines } of sheets) this.keep([map, ...outlines]);
    const left = nest.left.map((item) => items[item].name);
    const laid = nest.laid.map(({ item, ...where }): LaidPlate => ({ id: ids[item], name: items[item].name, edge: items[item].edge, ...where })); // prettier-ignore
    const sizes = sheets.map((_, at) => sizeOfSheet(choice, at));
    return { laid, sizes, count: nest.sheets, share: nest.share, lastMm: nest.lastMm, left, plates: items.length - left.length };
  }

  /** Programs that cut a sheet of the pile, kept with its files; or why there are none. */
  async programs(sign: Sign, sheet: number, shop: Shop, asked: AskedMeans): Promise<ToldPrograms> {
    const { items, signs, laid } = this;
    if (!laid) return { trouble: 'it is not laid.' };
    // What plans cuts comes when it is needed.
    const [{ writtenPrograms }, evaluator] = await Promise.all([import('./run-programs'), this.ready(sign)]);
    const { files, ...told } = writtenPrograms({ sign, items, signs, ...laid, evaluator }, sheet, shop, asked);
    this.keep(files);
    return told;
  }

  /** All files of the pile in one, with a report beside them. */
  zipped(report: string): Uint8Array {
    const bytes = zipSync({ ...this.files, 'report.csv': strToU8(`\ufeff${report}`) }, { level: 4 });
    this.begin();
    return bytes;
  }

  private keep(files: readonly NamedFile[]): void {
    for (const { name, content } of files) this.files[name] = typeof content === 'string' ? strToU8(content) : content;
  }

  private async ready(sign: Sign): Promise<Evaluator> {
    this.book ??= pageFonts(this.fetch);
    this.book.catch(() => (this.book = undefined));
    const book = await this.book;
    await book.need(fontsOf(sign));
    return (this.evaluator ??= new Evaluator(book));
  }
}
