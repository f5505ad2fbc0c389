import { type Left, type LeftCause } from '../cutting/index.js';
import { type OverAt, type Stock } from '../dry-run/index.js';
import { type Outline } from '../geometry/index.js';

/** Something that stays: where, why, and how much of it the dry run finds. */
export interface ToldLeft {
  /** Contours, as x and y in turn. */
  readonly region: readonly (readonly number[])[];
  readonly areaMm2: number;
  readonly volumeMm3: number;
  readonly deepestMm: number;
  readonly reason: string;
  /** Plans that were kept before it was told have none. */
  readonly cause?: LeftCause | 'inner corners';
  /** Diameter of an end mill that would clear most of it, in mm. */
  readonly needs?: number;
  /** Length of the cutting edges that an end mill would have to have, in mm. */
  readonly needsLength?: number;
}

/** mm² that stay where nobody foresaw it, from which on it is told. */
const LEAST_ELSEWHERE = 0.5;
/** Regions of which it is kept which places are theirs. */
const MOST_REGIONS = 65_000;

/**
 * What a plan foresees to stay, with the heights that the dry run of its programs finds there; and what stays besides: inner corners of
 * slopes, and feet of walls that a round tool does not come to.
 */
export function leftStanding(foreseen: readonly Left[], stock: Stock, overAt: OverAt): ToldLeft[] {
  const { columns, rows, cell } = stock;
  const owners = new Uint16Array(columns * rows);
  foreseen.slice(0, MOST_REGIONS).forEach(({ region }, i) => claim(owners, stock, region, i + 1));
  const sums = Array.from({ length: foreseen.length + 1 }, () => ({ places: 0, heights: 0, highest: 0 }));
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const over = overAt(column, row);
      if (over <= 0) continue;
      const sum = sums[owners[row * columns + column]];
      sum.places++;
      sum.heights += over;
      sum.highest = Math.max(sum.highest, over);
    }
  }
  const mm2 = cell ** 2;
  const [elsewhere, ...found] = sums;
  const told = foreseen.map(({ areaMm2, reason, cause, region, needs, needsLength, ...guessed }, i): ToldLeft => {
    // What has no place of its own is known by its area alone, as where a sign is not cut out at all.
    const isSeen = found[i].places > 0;
    return {
      region: region.map((contour) => Array.from(contour, (mm) => Math.round(mm * 100) / 100)),
      areaMm2,
      volumeMm3: isSeen || region.length > 0 ? found[i].heights * mm2 : guessed.volumeMm3,
      deepestMm: isSeen || region.length > 0 ? found[i].highest : guessed.deepestMm,
      reason,
      cause,
      ...(needsLength !== undefined && { needsLength }),
      ...(needs !== undefined && { needs }),
    };
  });
  const areaMm2 = elsewhere.places * mm2;
  if (areaMm2 < LEAST_ELSEWHERE) return told;
  const reason = 'Feet of walls and inner corners that the tools which finish them do not come into.';
  return [
    ...told,
    { region: [], areaMm2, volumeMm3: elsewhere.heights * mm2, deepestMm: elsewhere.highest, reason, cause: 'inner corners' },
  ];
}

/** Marks the places of a stock that lie in a region: row by row between the crossings of its edges. */
function claim(owners: Uint16Array, stock: Stock, region: Outline, owner: number): void {
  const { columns, rows, cell } = stock;
  const from = stock.placeOf(0, 0);
  const crossings = new Map<number, number[]>();
  for (const contour of region) {
    for (let i = 0, j = contour.length - 2; i < contour.length; j = i, i += 2) {
      const [x0, y0, x1, y1] = [contour[j], contour[j + 1], contour[i], contour[i + 1]];
      const [low, high] = y0 < y1 ? [y0, y1] : [y1, y0];
      const last = Math.min(rows - 1, Math.ceil((high - from.y) / cell) - 1);
      for (let row = Math.max(0, Math.ceil((low - from.y) / cell)); row <= last; row++) {
        const x = x0 + ((from.y + row * cell - y0) / (y1 - y0)) * (x1 - x0);
        const known = crossings.get(row);
        if (known) known.push(x);
        else crossings.set(row, [x]);
      }
    }
  }
  for (const [row, xs] of crossings) {
    xs.sort((a, b) => a - b);
    for (let i = 0; i + 1 < xs.length; i += 2) {
      const first = Math.max(0, Math.ceil((xs[i] - from.x) / cell));
      const last = Math.min(columns - 1, Math.floor((xs[i + 1] - from.x) / cell));
      if (first <= last) owners.fill(owner, row * columns + first, row * columns + last + 1);
    }
  }
}
