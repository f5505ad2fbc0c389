import { productionOutlines } from '@plain-relief/core/drawing';
import { assertClosed, dxfFile, NothingToWriteError, OpenSolidError, readStl, stlFile, svgFile } from '@plain-relief/core/format';
import { reliefPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import {
  edgeOfPlate,
  laidOnSheets,
  nestChoiceOf,
  plateFileName,
  plateOf,
  type PlateState,
  type Plate,
  type RunSheet,
  type SheetItem,
  sheetDrawing,
  sheetMap,
} from '@plain-relief/core/runs';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import { strToU8, zipSync } from 'fflate';
import type { Fetch } from '../relief/fetch-bytes';
import { pageFonts } from '../relief/page-fonts';

/** Values by the names of slots, as they go to a worker and back. */
export type Pairs = readonly (readonly [string, string])[];

/** A row, by its id, that is to be laid out. */
export interface AskedRow {
  readonly id: number;
  readonly pairs: Pairs;
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

/** Sheets as they are drawn: the map of each, with the numbers of rows, and what is taken. */
export interface DrawnSheets {
  readonly maps: readonly string[];
  readonly share: number;
  readonly lastMm: number;
  /** Numbers of rows that no sheet is large enough for. */
  readonly left: readonly string[];
  readonly plates: number;
}

export const RUN_FILES = ['svg', 'dxf', 'stl'] as const;
export type RunFile = (typeof RUN_FILES)[number];

/** The worker's side of runs: lays out plates, draws them, lays them on sheets, and writes their files. */
export class RunDesk {
  private book: Promise<FontBook> | undefined;
  private evaluator: Evaluator | undefined;
  private items: SheetItem[] = [];
  private files: Record<string, Uint8Array> = {};

  constructor(private readonly fetch: Fetch) {}

  /** Lays rows out by themselves. */
  async told(sign: Sign, rows: readonly AskedRow[]): Promise<ToldRow[]> {
    const evaluator = await this.ready(sign);
    return rows.map(({ id, pairs }): ToldRow => {
      const { state, narrowed, notes, refused, sign: own } = plateOf(sign, new Map(pairs), evaluator);
      const told = [...refused, ...notes.map(({ text }) => text)];
      return { id, state, title: own.title, told, ...(narrowed !== undefined && { narrowed }) };
    });
  }

  /** A plate as it will look; undefined where it cannot be made. @param longest pixels of its longer side */
  async picture(sign: Sign, pairs: Pairs, longest: number): Promise<PlatePicture | undefined> {
    const { evaluation } = plateOf(sign, new Map(pairs), await this.ready(sign));
    if (!evaluation) return undefined;
    const solid = coloured(evaluation, solidOf(evaluation));
    const { positions } = solid.mesh;
    let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let i = 0; i < positions.length; i += 3) {
      [minX, maxX] = [Math.min(minX, positions[i]), Math.max(maxX, positions[i])];
      [minY, maxY] = [Math.min(minY, positions[i + 1]), Math.max(maxY, positions[i + 1])];
    }
    if (minX > maxX) return undefined;
    const scale = longest / Math.max(maxX - minX, maxY - minY);
    const side = (mm: number): number => Math.max(1, Math.round(mm * scale));
    const { width, height, rgba } = reliefPicture(solid, side(maxX - minX), side(maxY - minY));
    return { width, height, rgba: new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.byteLength) };
  }

  /** Begins a pile of plates: those of sheets and of files before are gone. */
  begin(): void {
    [this.items, this.files] = [[], {}];
  }

  /**
   * Lays rows on the pile, and writes the files of each.
   * @param rows with their numbers in the list, from 0
   * @returns what could not be written
   */
  async add(sign: Sign, rows: readonly (AskedRow & { readonly row: number })[], kinds: readonly RunFile[]): Promise<string[]> {
    const evaluator = await this.ready(sign);
    const trouble: string[] = [];
    for (const { row, pairs } of rows) {
      const plate = plateOf(sign, new Map(pairs), evaluator);
      const { evaluation, state } = plate;
      if (!evaluation) continue;
      const drawing = productionOutlines(evaluation);
      if (state === 'fits' || state === 'fitted')
        this.items.push({ name: String(row + 1), edge: edgeOfPlate(evaluation), drawing });
      for (const kind of kinds) {
        try {
          this.files[`${plateFileName(row, plate.sign.title)}.${kind}`] = contentOf(plate, kind);
        } catch (error) {
          if (!(error instanceof OpenSolidError) && !(error instanceof NothingToWriteError)) throw error;
          trouble.push(`Row ${row + 1}: ${error.message}`);
        }
      }
    }
    return trouble;
  }

  /** Lays the pile on sheets, and draws their maps; with files of outlines each sheet has one of its own. */
  lay(sign: Sign, sheet: RunSheet, kinds: readonly RunFile[]): DrawnSheets {
    const choice = nestChoiceOf({ sheet });
    const { items } = this;
    const nest = laidOnSheets(items.map(({ edge }) => edge), choice); // prettier-ignore
    const { unit, title } = sign;
    const maps = Array.from({ length: nest.sheets }, (_, at) => {
      const map = svgFile(sheetMap(items, nest, at, choice), { unit, title: `${title}, sheet ${at + 1}` });
      const name = `sheet ${at + 1}`;
      this.files[`${name} map.svg`] = strToU8(map);
      const drawing = kinds.length > 0 ? sheetDrawing(items, nest, at, choice) : undefined;
      if (drawing && kinds.includes('svg'))
        this.files[`${name}.svg`] = strToU8(svgFile(drawing, { unit, title: `${title}, ${name}` }));
      if (drawing && kinds.includes('dxf')) this.files[`${name}.dxf`] = strToU8(dxfFile(drawing, unit));
      return map;
    });
    const left = nest.left.map((item) => items[item].name);
    return { maps, share: nest.share, lastMm: nest.lastMm, left, plates: items.length - left.length };
  }

  /** All files of the pile in one, with a report beside them. */
  zipped(report: string): Uint8Array {
    const bytes = zipSync({ ...this.files, 'report.csv': strToU8(`\ufeff${report}`) }, { level: 4 });
    this.begin();
    return bytes;
  }

  private async ready(sign: Sign): Promise<Evaluator> {
    this.book ??= pageFonts(this.fetch);
    this.book.catch(() => (this.book = undefined));
    const book = await this.book;
    await book.need(fontsOf(sign));
    return (this.evaluator ??= new Evaluator(book));
  }
}

function contentOf({ evaluation, sign }: Plate, kind: RunFile): Uint8Array {
  const made = evaluation!;
  if (kind === 'svg') return strToU8(svgFile(productionOutlines(made), { unit: sign.unit, title: sign.title }));
  if (kind === 'dxf') return strToU8(dxfFile(productionOutlines(made), sign.unit));
  const bytes = stlFile(solidOf(made), sign.title);
  assertClosed('STL', [readStl(bytes)]);
  return bytes;
}
