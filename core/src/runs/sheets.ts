import { type Drawing, type Item } from '../drawing/index.js';
import { bounds, direction, type Outline, placePolyline, placeRings } from '../geometry/index.js';
import { colliding, type Laid, laidOutline, type Nest, nested, type NestChoice, packed, sizeOfSheet } from '../nesting/index.js';
import { type Evaluation } from '../relief/index.js';
import { numbersInWords } from './held-plates.js';

/** What is laid on sheets: its outlines for production, and what it is called on the map. */
export interface SheetItem extends MappedItem {
  readonly drawing: Drawing;
}

/** What a map shows of it. */
export interface MappedItem {
  readonly name: string;
  readonly edge: Outline;
}

/** The edge of what is made of a sign. */
export const edgeOfPlate = ({ blank, kept }: Evaluation): Outline => kept ?? [blank];

/** Plates on sheets: rectangles exactly by their sides, anything else by its true shape. */
export function laidOnSheets(edges: readonly Outline[], choice: NestChoice): Nest {
  const { offcuts = [], clamps = [], locked = [] } = choice;
  // Whole empty sheets of one size are what a packer knows.
  const areRectangles = offcuts.length + clamps.length + locked.length === 0 && edges.every((edge) => edge.length === 1 && isBox(edge)); // prettier-ignore
  return areRectangles ? packed(edges, choice) : nested(edges, choice);
}

/** Whether an outline fills its box but for its corners. */
function isBox(edge: Outline): boolean {
  const { minX, minY, maxX, maxY } = bounds(edge)!;
  // Middles of all four sides lie on it.
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const sides = [[x, minY], [x, maxY], [minX, y], [maxX, y]]; // prettier-ignore
  const [ring] = edge;
  return sides.every(([px, py]) => {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const isLevel = ring[i + 1] === py && ring[j + 1] === py && (ring[i] - px) * (ring[j] - px) <= 0;
      const isUp = ring[i] === px && ring[j] === px && (ring[i + 1] - py) * (ring[j + 1] - py) <= 0;
      if (isLevel || isUp) return true;
    }
    return false;
  });
}

/** What lies on one sheet, counted from 0, alone: with places of its own in the list of what is laid. */
export function onSheet<T>(
  items: readonly T[],
  nest: Pick<Nest, 'laid'>,
  sheet: number,
): { readonly items: T[]; readonly nest: Pick<Nest, 'laid'> } {
  const own = nest.laid.filter((each) => each.sheet === sheet);
  return { items: own.map(({ item }) => items[item]), nest: { laid: own.map((each, item) => ({ ...each, item })) } };
}

/** The outlines of a sheet by layer, every plate where it lies; the sheet's lower left corner is the origin. */
export function sheetDrawing(items: readonly SheetItem[], nest: Pick<Nest, 'laid'>, sheet: number, choice: NestChoice): Drawing {
  const size = sizeOfSheet(choice, sheet);
  const own = nest.laid.filter((each) => each.sheet === sheet);
  return {
    items: own.flatMap((laid) => items[laid.item].drawing.items.flatMap((item) => moved(item, laid))),
    bounds: { minX: 0, minY: 0, maxX: size.width, maxY: size.height },
  };
}

function moved(item: Item, laid: Laid): Item[] {
  const { cos, sin } = direction(laid.turn);
  const placement = { a: cos, b: sin, c: -sin, d: cos, e: laid.x, f: laid.y };
  if (item.kind === 'area') return [{ ...item, outline: placeRings(item.outline, placement) }];
  return item.kind === 'line' ? [{ ...item, points: placePolyline(item.points, placement) }] : [];
}

/** The map of a sheet: edges, with the name of each in its middle. */
export function sheetMap(items: readonly MappedItem[], nest: Pick<Nest, 'laid'>, sheet: number, choice: NestChoice): Drawing {
  const size = sizeOfSheet(choice, sheet);
  const pen = { width: 0.3, colour: '#000000' };
  const frame: Item = { kind: 'area', layer: 'sheet', outline: [Float64Array.of(0, 0, size.width, 0, size.width, size.height, 0, size.height)], pen }; // prettier-ignore
  const own = nest.laid.filter((each) => each.sheet === sheet);
  const plates = own.flatMap((laid): Item[] => {
    const outline = laidOutline(items[laid.item].edge, laid);
    const { minX, minY, maxX, maxY } = bounds(outline)!;
    const { name } = items[laid.item];
    const height = Math.min((maxY - minY) / 4, ((maxX - minX) / Math.max(3, name.length)) * 1.2, 12);
    return [
      { kind: 'area', layer: 'plates', outline, pen },
      { kind: 'label', layer: 'names', x: (minX + maxX) / 2, y: (minY + maxY - height) / 2, text: name, height, align: 'centre', turn: 0, colour: '#000000' },
    ]; // prettier-ignore
  });
  const isWhole = sheet >= (choice.offcuts?.length ?? 0);
  const clamps = (isWhole ? (choice.clamps ?? []) : []).map(({ x, y, width, height }): Item => ({ kind: 'area', layer: 'clamps', outline: [Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height)], pen: { width: 0.3, colour: '#8a8a8a' } })); // prettier-ignore
  return { items: [frame, ...clamps, ...plates], bounds: { minX: 0, minY: 0, maxX: size.width, maxY: size.height } };
}

/** Names of plates that were put too near to something on a sheet, by hand: nothing can be cut between them. @param sheet from 0 */
export function tooNearOnSheet(
  items: readonly MappedItem[],
  nest: Pick<Nest, 'laid'>,
  sheet: number,
  choice: NestChoice,
): string[] {
  const laid = nest.laid.filter((each) => each.sheet === sheet);
  return [...colliding(items.map(({ edge }) => edge), { laid }, choice)].map((item) => items[item].name); // prettier-ignore
}

/** Why nothing is cut of such a sheet. */
export const tooNearWords = (names: readonly string[]): string => `${names.length === 1 ? `plate ${names[0]} lies` : `plates ${names.join(', ')} lie`} too near to something: put it elsewhere, or let it be laid again.`; // prettier-ignore

/** What is wrong with programs of sheets, each sentence once with the sheets that it is about. @param sheet from 0 */
export function sheetTroubles(troubles: readonly { readonly sheet: number; readonly text: string }[]): string {
  const sheetsOf = new Map<string, number[]>();
  for (const { sheet, text } of troubles) sheetsOf.set(text, [...(sheetsOf.get(text) ?? []), sheet + 1]);
  return [...sheetsOf].map(([text, sheets]) => `${sheets.length === 1 ? 'Sheet' : 'Sheets'} ${numbersInWords(sheets)}: ${text}`).join(' '); // prettier-ignore
}
