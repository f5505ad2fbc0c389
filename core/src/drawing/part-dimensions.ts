import { type Box } from '../geometry/index.js';
import { type Evaluation, partsSeen } from '../relief/index.js';
import { dimension, FIGURE_WIDTH, isTooShort } from './dimension.js';
import { type Item } from './drawing.js';

/** A stretch along an edge of the plan that is to be dimensioned. */
interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** Lanes of dimension lines beside each other: the stretches of each, and how far from the edge its line runs. */
interface Lanes {
  readonly lines: readonly { readonly beside: number; readonly stretches: readonly Stretch[] }[];
  /** How far they reach from the edge in all. */
  readonly depth: number;
}

/** What lies between lines of dimensions, and between the plan and the first, in heights of the figures. */
const PITCH = 2.4;
/** Lengths that differ by less, in mm, are dimensioned once; what is nearer to the middle than this is in the middle. */
const SAME = 0.02;

/**
 * Size and place of the parts that are to stand on the proof: widths with the distance from the left edge below the plan, heights with
 * the distance from the lower edge on its right; of a text its capitals. What stands in the middle needs no distance. No figure lies
 * on another: stretches whose figures would meet go to lanes of their own.
 */
export function partDimensions(
  evaluation: Evaluation,
  { minX, minY, maxX, maxY }: Box,
  textHeight: number,
  words: (mm: number) => string,
): { readonly items: readonly Item[]; readonly below: number; readonly right: number } {
  const wanted = new Set(evaluation.sign.parts.filter(({ dimensioned, hidden }) => dimensioned && !hidden).map(({ id }) => id));
  const parts = partsSeen(evaluation).filter(({ id, ink }) => wanted.has(id) && ink);
  const stretch = (from: number, to: number): Stretch => ({ from, to, text: words(to - from) });
  const along = (low: number, high: number, from: number, to: number): Stretch[] => {
    const isMiddle = Math.abs(from - low - (high - to)) < SAME || from - low < SAME;
    return isMiddle ? [stretch(from, to)] : [stretch(low, from), stretch(from, to)];
  };
  const across = parts.map(({ ink }) => along(minX, maxX, ink!.minX, ink!.maxX));
  const upward = parts.map(({ ink, caps }) => along(minY, maxY, (caps ?? ink!).minY, (caps ?? ink!).maxY));
  const below = lanes(across, textHeight, (length) => ({ along: length, aside: 1 }));
  const right = lanes(upward, textHeight, (length) => ({ along: 1, aside: length }));
  const items = [
    ...below.lines.flatMap(({ beside, stretches }) =>
      stretches.flatMap(({ from, to, text }) => dimension({ from: [to, minY], to: [from, minY], beside, text, textHeight })),
    ),
    ...right.lines.flatMap(({ beside, stretches }) =>
      stretches.flatMap(({ from, to, text }) => dimension({ from: [maxX, to], to: [maxX, from], beside, text, textHeight })),
    ),
  ];
  return { items, below: below.depth, right: right.depth };
}

/**
 * Puts chains of stretches into lanes.
 * @param figure the room that a figure too long for its stretch takes along the edge and away from its line, by its length; all in
 * heights of the figures
 */
function lanes(
  chains: readonly (readonly Stretch[])[],
  textHeight: number,
  figure: (length: number) => { readonly along: number; readonly aside: number },
): Lanes {
  const isShort = ({ from, to, text }: Stretch): boolean => isTooShort(to - from, text, textHeight);
  /** The room that a stretch takes along the edge with its figure. */
  const room = (one: Stretch): [number, number] => {
    const middle = (one.from + one.to) / 2;
    const half = isShort(one) ? (figure(one.text.length * FIGURE_WIDTH).along * textHeight) / 2 : 0;
    return [Math.min(one.from, middle - half), Math.max(one.to, middle + half)];
  };
  const known = new Set<string>();
  const key = ({ from, to }: Stretch): string => `${Math.round(from / SAME)} ${Math.round(to / SAME)}`;
  const taken: Stretch[][] = [];
  const clear = (one: Stretch, lane: readonly Stretch[]): boolean => {
    const [from, to] = room(one);
    return lane.every((other) => {
      const [start, end] = room(other);
      return to <= start + 1e-6 || from >= end - 1e-6;
    });
  };
  for (const chain of [...chains].sort((a, b) => spanOf(a) - spanOf(b))) {
    for (const one of chain) {
      if (one.to - one.from < SAME || known.has(key(one))) continue;
      known.add(key(one));
      const lane = taken.find((stretches) => clear(one, stretches));
      if (lane) lane.push(one);
      else taken.push([one]);
    }
  }
  let depth = 0;
  const lines = taken.map((stretches) => {
    const beside = depth + PITCH * textHeight;
    // A figure beside its line holds the next line off.
    const reach = Math.max(0, ...stretches.filter(isShort).map(({ text }) => figure(text.length * FIGURE_WIDTH).aside + 0.8));
    depth = beside + reach * textHeight;
    return { beside, stretches };
  });
  return { lines, depth };
}

const spanOf = (chain: readonly Stretch[]): number => chain[chain.length - 1].to - chain[0].from;
