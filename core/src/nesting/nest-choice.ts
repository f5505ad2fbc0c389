import { area, direction, type Outline, placeRings } from '../geometry/index.js';

/** In mm. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

export interface Clamp extends Size {
  readonly x: number;
  readonly y: number;
}

/** How large a sheet is: offcuts come first. @param sheet from 0 */
export const sizeOfSheet = ({ sheet: whole, offcuts = [] }: Pick<NestChoice, 'sheet' | 'offcuts'>, sheet: number): Size => offcuts[sheet] ?? whole; // prettier-ignore

/** What is laid on sheets. Lengths in mm. */
export interface NestChoice {
  readonly sheet: Size;
  /** Between any two outlines at least, and between them and the edge of the sheet. */
  readonly spacing: number;
  readonly margin: number;
  /** Degrees by which outlines may be turned: grain allows 0 and 180. */
  readonly turns: readonly number[];
  /** Whether outlines are laid in the order in which they come, else the largest first. */
  readonly keepsOrder?: boolean;
  /** mm of a cell, in which places are looked for. */
  readonly cell?: number;
  /** Orders that are tried where the order is free: the more, the less is wasted. */
  readonly tries?: number;
  /** How often outlines are looked at anew to take less of the last sheet, where their order is free. */
  readonly effort?: number;
  /** What is left of other sheets: taken first, in this order, before whole ones. */
  readonly offcuts?: readonly Size[];
  /** Places of every whole sheet, from its lower left corner, that nothing may come near to, such as those of clamps. */
  readonly clamps?: readonly Clamp[];
  /** Outlines that lie where somebody has put them; others are laid around them. */
  readonly locked?: readonly Laid[];
  /** Told how much is done, up to 1; what it throws ends the nesting. */
  readonly onProgress?: (done: number) => void;
}

/** Where an outline lies: turned about its origin, then moved. */
export interface Laid {
  readonly item: number;
  readonly sheet: number;
  readonly x: number;
  readonly y: number;
  readonly turn: number;
}

export interface Nest {
  readonly laid: readonly Laid[];
  /** Outlines that are larger than a sheet has room for. */
  readonly left: readonly number[];
  readonly sheets: number;
  /** Area of outlines in that of the sheets that they lie on. */
  readonly share: number;
  /** How far up the last sheet is taken; what is above can be used again. */
  readonly lastMm: number;
}

/** Fewer sheets, or less of the last. */
export const isBetter = (a: Nest, b: Nest): boolean => a.sheets < b.sheets || (a.sheets === b.sheets && a.lastMm < b.lastMm);

/** Area of outlines in that of the sheets that they lie on. */
export function shareOf(outlines: readonly Outline[], laid: readonly Laid[], sheets: number, choice: NestChoice): number {
  const used = laid.reduce((sum, { item }) => sum + area(outlines[item]), 0);
  let whole = 0;
  for (let sheet = 0; sheet < sheets; sheet++) whole += sizeOfSheet(choice, sheet).width * sizeOfSheet(choice, sheet).height;
  return whole > 0 ? used / whole : 0;
}

/** An outline as it lies: turned, moved. */
export function laidOutline(outline: Outline, { x, y, turn }: Pick<Laid, 'x' | 'y' | 'turn'>): Outline {
  const { cos, sin } = direction(turn);
  return placeRings(outline, { a: cos, b: sin, c: -sin, d: cos, e: x, f: y });
}

/** The outline of a clamp. */
export const rectangleOf = ({ x, y, width, height }: Clamp): Outline => [Float64Array.of(x, y, x + width, y, x + width, y + height, x, y + height)]; // prettier-ignore

/** Numbers from 0 to 1 that follow from a seed (a linear congruential generator, D. E. Knuth, The Art of Computer Programming 2, 3.3.4). */
export function numbersFrom(seed: number): () => number {
  let state = (seed * 2654435761 + 1) >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}
