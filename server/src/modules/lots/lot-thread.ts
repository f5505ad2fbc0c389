import { getHeapStatistics } from 'node:v8';
import type { MessagePort } from 'node:worker_threads';
import { crc32, deflateRawSync } from 'node:zlib';
import { type Drawing } from '@plain-relief/core/drawing';
import { type Outline } from '@plain-relief/core/geometry';
import { evaluationsToCut, filesOfPrograms, type KeptMeans, meansOf, programsOfSheet } from '@plain-relief/core/making';
import { type NestChoice } from '@plain-relief/core/nesting';
import { Evaluator } from '@plain-relief/core/relief';
import {
  filled,
  filesOfSheet,
  laidOnSheets,
  type MappedItem,
  type NamedFile,
  nestChoiceOf,
  type PlateFile,
  plateOf,
  type RunSheet,
  withBraille,
  writtenPlate,
} from '@plain-relief/core/runs';
import { fontsOf, type Sign } from '@plain-relief/core/sign';
import type { LaidRow, LaidSheets, MadeRow, OrderedRow, PackedFile } from '../../platform/database/models/lots.js';
import { rowBraille } from '../braille/row-braille.js';
import type { LoadedFont } from '../fonts/fonts.js';
import { ThreadBook } from '../fonts/thread-book.js';
import { broughtBack, laidAside, type OfRow } from './laid-aside.js';
import { pictureOfPlate, stateBelow } from '../production/plate-picture.js';
import { contactPdf, mapsPdf } from '../production/run-pdf.js';

/** What a thread is asked to make of a run. */
export type LotWork =
  | {
      readonly kind: 'rows';
      readonly sign: Sign;
      readonly fonts: readonly LoadedFont[];
      readonly rows: readonly OrderedRow[];
      readonly kinds: readonly PlateFile[];
      readonly forSheets: boolean;
      readonly forContact: boolean;
    }
  | {
      readonly kind: 'nest';
      readonly title: string;
      /** Locked plates by the numbers of their rows, from 0. */
      readonly sheet: RunSheet;
      /** Packed, as lots of rows gave them. */
      readonly edges: readonly Uint8Array[];
      readonly date: Date;
    }
  | {
      readonly kind: 'sheet';
      readonly sign: Pick<Sign, 'title' | 'unit'>;
      readonly choice: NestChoice;
      readonly sheet: number;
      readonly laid: readonly LaidRow[];
      readonly kinds: readonly PlateFile[];
      /** Packed edges and drawings of the lots that have the rows which lie there. */
      readonly lots: readonly { readonly edges: Uint8Array; readonly drawings: Uint8Array }[];
    }
  | {
      readonly kind: 'programs';
      readonly sign: Sign;
      readonly fonts: readonly LoadedFont[];
      /** Those that lie there, and others perhaps. */
      readonly rows: readonly OrderedRow[];
      readonly choice: NestChoice;
      readonly sheet: number;
      readonly laid: readonly LaidRow[];
      readonly cutting: KeptMeans;
      /** Packed edges of the lots that have the rows. */
      readonly edges: readonly Uint8Array[];
      /** Where it is told which part of the work is done. */
      readonly port: MessagePort;
    }
  | {
      readonly kind: 'contact';
      readonly title: string;
      readonly number: number;
      readonly lots: readonly { readonly made: readonly MadeRow[]; readonly pictures: Uint8Array }[];
      readonly date: Date;
    };

export interface LotOrder {
  readonly fontsDir: string;
  readonly work: LotWork;
}

/** What came of a lot: files, packed one after the other, and what later lots need of it. */
export interface LotAnswer {
  readonly files: readonly PackedFile[];
  readonly data: Uint8Array;
  readonly made?: readonly MadeRow[];
  readonly edges?: Uint8Array;
  readonly drawings?: Uint8Array;
  readonly pictures?: Uint8Array;
  readonly laid?: LaidSheets;
  /** Of programs. */
  readonly minutes?: number;
  /** Why there are no programs, or what is wrong with them. */
  readonly wrong?: string;
}

/** Quick, and half of what it was: most of the time goes into what is packed. */
const LEVEL = 3;
const fonts = new ThreadBook();
let evaluator: Evaluator | undefined;
/** Bytes of this thread's heap from which on what the evaluator remembers of earlier plates is forgotten. */
const MUCH = 160e6;

/** Runs in a thread: makes one lot of the files of a run. */
export default async function lotMade({ fontsDir, work }: LotOrder): Promise<LotAnswer> {
  switch (work.kind) {
    case 'rows':
      return rowsMade(fontsDir, work);
    case 'nest':
      return sheetsLaid(fontsDir, work);
    case 'sheet':
      return sheetMade(work);
    case 'programs':
      return programsMade(fontsDir, work);
    case 'contact':
      return contactMade(fontsDir, work);
  }
}

type WorkOf<Kind extends LotWork['kind']> = Extract<LotWork, { readonly kind: Kind }>;

async function rowsMade(
  fontsDir: string,
  { sign, fonts: own, rows, kinds, forSheets, forContact }: WorkOf<'rows'>,
): Promise<LotAnswer> {
  const book = fonts.with(fontsDir, own);
  if (!evaluator || getHeapStatistics().used_heap_size > MUCH) evaluator = new Evaluator(book);
  await book.need(fontsOf(sign));
  const cellsOf = await rowBraille(sign, rows.map(({ slots, corrections }) => ({ values: new Map(slots), corrections }))); // prettier-ignore
  const made: MadeRow[] = [];
  const files: NamedFile[] = [];
  const [edges, drawings, pictures]: [OfRow<Outline>[], OfRow<Drawing>[], OfRow<Uint8Array>[]] = [[], [], []];
  for (const { row, slots, corrections } of rows) {
    const plate = plateOf(sign, new Map(slots), evaluator, corrections, cellsOf);
    const { refused, notes, state, narrowed, evaluation } = plate;
    const written = writtenPlate(plate, row, kinds);
    files.push(...written.files);
    const told = [...refused, ...notes.map(({ text }) => text), ...written.trouble];
    made.push({ row, state, title: plate.sign.title, told, ...(narrowed !== undefined && { narrowed }) });
    if (forSheets && written.item) {
      edges.push([row, written.item.edge]);
      drawings.push([row, written.item.drawing]);
    }
    if (forContact && evaluation) pictures.push([row, pictureOfPlate(evaluation)]);
  }
  return {
    ...packed(files),
    made,
    ...(forSheets && { edges: laidAside(edges), drawings: laidAside(drawings) }),
    ...(forContact && { pictures: laidAside(pictures) }),
  };
}

async function sheetsLaid(fontsDir: string, { title, sheet, edges, date }: WorkOf<'nest'>): Promise<LotAnswer> {
  const rows = edges.flatMap((lot) => broughtBack<Outline>(lot));
  const choice = nestChoiceOf({ sheet }, rows.map(([row]) => row)); // prettier-ignore
  const items = rows.map(([row, edge]): MappedItem => ({ name: String(row + 1), edge }));
  const nest = laidOnSheets(items.map(({ edge }) => edge), choice); // prettier-ignore
  const maps = { name: 'sheets map.pdf', content: await mapsPdf(items, nest, choice, title, date, fontsDir) };
  const laid = nest.laid.map(({ item, ...where }) => ({ row: rows[item][0], ...where }));
  const left = nest.left.map((item) => rows[item][0] + 1);
  return { ...packed([maps]), laid: { count: nest.sheets, share: nest.share, lastMm: nest.lastMm, laid, left } };
}

function sheetMade({ sign, choice, sheet, laid, kinds, lots }: WorkOf<'sheet'>): LotAnswer {
  const wanted = new Set(laid.map(({ row }) => row));
  const edgeOf = new Map<number, Outline>();
  const drawingOf = new Map<number, Drawing>();
  for (const { edges, drawings } of lots) {
    for (const [row, edge] of broughtBack<Outline>(edges)) if (wanted.has(row)) edgeOf.set(row, edge);
    for (const [row, drawing] of broughtBack<Drawing>(drawings)) if (wanted.has(row)) drawingOf.set(row, drawing);
  }
  const items = laid.map(({ row }) => ({ name: String(row + 1), edge: edgeOf.get(row)!, drawing: drawingOf.get(row)! }));
  const nest = { laid: laid.map(({ row: _, ...where }, item) => ({ item, ...where })) };
  const { map, outlines } = filesOfSheet(items, nest, sheet, choice, sign, kinds);
  return packed([...outlines, map]);
}

async function programsMade(
  fontsDir: string,
  { sign, fonts: own, rows, choice, sheet, laid, cutting, edges, port }: WorkOf<'programs'>,
): Promise<LotAnswer> {
  const book = fonts.with(fontsDir, own);
  await book.need(fontsOf(sign));
  const rowOf = new Map(rows.map((each) => [each.row, each]));
  const plates = laid.map(({ row }) => ({ values: new Map(rowOf.get(row)!.slots), corrections: rowOf.get(row)!.corrections }));
  const cellsOf = await rowBraille(sign, plates);
  const edgeOf = new Map(edges.flatMap((lot) => broughtBack<Outline>(lot)));
  const items = laid.map(({ row }): MappedItem => ({ name: String(row + 1), edge: edgeOf.get(row)! }));
  const nest = { laid: laid.map(({ row: _, ...where }, item) => ({ item, ...where })) };
  const evaluationOf = evaluationsToCut(new Evaluator(book), (item) => withBraille(filled(sign, plates[item].values, plates[item].corrections).sign, cellsOf)); // prettier-ignore
  const { title } = filled(sign, new Map()).sign;
  const { plan, trouble } = programsOfSheet({ title, items, nest, choice, evaluationOf }, sheet, meansOf(cutting), { progress: (part) => port.postMessage(part) }); // prettier-ignore
  const files = plan ? filesOfPrograms(plan, sheet) : [];
  return { ...packed(files), ...(plan && { minutes: plan.minutes }), ...(trouble !== undefined && { wrong: trouble }) };
}

async function contactMade(fontsDir: string, { title, number, lots, date }: WorkOf<'contact'>): Promise<LotAnswer> {
  const plates = lots.flatMap(({ made, pictures }) => {
    const pictureOf = new Map(broughtBack<Uint8Array>(pictures));
    return made.map((each) => ({ ...each, state: stateBelow(each), picture: pictureOf.get(each.row) }));
  });
  const shown = plates.map(({ row, title: name, state, picture }) => ({ row, title: name, state, ...(picture && { picture }) }));
  const content = await contactPdf(shown, title, date, fontsDir);
  return packed([{ name: `contact sheet ${number + 1}.pdf`, content }]);
}

function packed(files: readonly NamedFile[]): Pick<LotAnswer, 'files' | 'data'> {
  const all = files.map(({ name, content }) => {
    const bytes = Buffer.from(content as string);
    return { name, crc: crc32(bytes), size: bytes.length, bytes: deflateRawSync(bytes, { level: LEVEL }) };
  });
  return {
    files: all.map(({ bytes, ...file }) => ({ ...file, packed: bytes.length })),
    data: Buffer.concat(all.map(({ bytes }) => bytes)),
  };
}
