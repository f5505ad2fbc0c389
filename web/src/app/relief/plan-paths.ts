import type { AreaItem, Drawing } from '@plain-relief/core/drawing';
import { polygonsOf, type Polygon } from '@plain-relief/core/outline';
import { screenPath } from './screen-path';
import type { DrawnPath } from './views';

/** A piece with more holes than this is painted whole, and what lies in its holes over it. */
const MOST_HOLES = 12;
/** Pieces in one path: browsers draw many small paths far sooner than one with all outlines of a sign. */
const PIECES_A_PATH = 24;

interface Painted {
  readonly polygon: Polygon;
  readonly fill: string;
  readonly isHole: boolean;
}

/**
 * The plan's areas as paths in painting order. Large grounds come first, without their holes; every place in such a hole
 * belongs to some other area, which is painted over it.
 */
export function planPaths(drawing: Drawing): DrawnPath[] {
  const grounds: Painted[] = [];
  const rest: Painted[][] = [];
  for (const item of drawing.items) {
    if (item.kind !== 'area') continue;
    const painted = polygonsOf(item.outline).map((polygon) => ({ polygon, ...fillOf(item) }));
    grounds.push(...painted.filter(({ polygon }) => polygon.holes.length > MOST_HOLES));
    rest.push(painted.filter(({ polygon }) => polygon.holes.length <= MOST_HOLES));
  }
  const size = ({ polygon }: Painted) => boxArea(polygon.outer);
  grounds.sort((a, b) => size(b) - size(a));
  return [
    ...grounds.map(({ polygon, fill, isHole }) => ({ d: screenPath([polygon.outer], true), fill, isHole, isLine: false })),
    ...rest.flatMap((pieces) => inPaths(pieces)),
    ...drawing.items.flatMap((item): DrawnPath[] =>
      item.kind === 'line' && item.layer === 'centre lines'
        ? [{ d: screenPath([item.points], item.closed), fill: 'none', isHole: false, isLine: true }]
        : [],
    ),
  ];
}

function inPaths(pieces: readonly Painted[]): DrawnPath[] {
  const out: DrawnPath[] = [];
  for (let i = 0; i < pieces.length; i += PIECES_A_PATH) {
    const runs = pieces.slice(i, i + PIECES_A_PATH).flatMap(({ polygon }) => [polygon.outer, ...polygon.holes]);
    out.push({ d: screenPath(runs, true), fill: pieces[i].fill, isHole: pieces[i].isHole, isLine: false });
  }
  return out;
}

function fillOf({ fill }: AreaItem): { fill: string; isHole: boolean } {
  return { fill: fill?.kind === 'plain' ? fill.colour : 'none', isHole: fill?.kind === 'cross-hatch' };
}

function boxArea(ring: Float64Array): number {
  let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < ring.length; i += 2) {
    [minX, maxX] = [Math.min(minX, ring[i]), Math.max(maxX, ring[i])];
    [minY, maxY] = [Math.min(minY, ring[i + 1]), Math.max(maxY, ring[i + 1])];
  }
  return (maxX - minX) * (maxY - minY);
}
