import { circle, orient2d } from '../geometry/index.js';
import { type Finish, finishWords } from '../sign/index.js';
import { type ColouredMesh, type FinishArea } from '../solid/index.js';
import { FIGURE_WIDTH } from './dimension.js';
import { type Drawing, type Item, type LineItem } from './drawing.js';
import { INK, PAPER } from './palette.js';

/** A finish that is called out by a number. */
export interface CallOut {
  readonly number: number;
  readonly finish: Finish;
  /** Places in the plan where it is seen, from the top down, each with more room about it than those above; none where only upright sides wear it. */
  readonly places: readonly Spot[];
}

/** A point of the plan, and the radius of a disc about it that one triangle of the solid holds, in mm. */
interface Spot {
  readonly x: number;
  readonly y: number;
  readonly room: number;
}

/** A facet whose normal leans further from the reader than this is not pointed at. */
const STEEPEST = 0.2;
/** The radius of a numbered disc, the room between two, and that above the plan, in heights of the figures. */
const RADIUS = 1;
const PITCH = 2.6;
const ABOVE = 1.4;
/** The radius of the dot at the end of a leader, in heights of the figures: a place with as much room needs no better one. */
const DOT = 0.28;
const NEARLY = 0.6;

/** A side of a sign: its solid, and the areas that its finishes cover. */
export interface FinishedSide {
  readonly solid: ColouredMesh;
  readonly areas: readonly FinishArea[];
}

/** The finishes of a sign with their numbers: those that cover most come first, and those of the front before those of the back. */
export function callOutsOf(sides: readonly FinishedSide[]): CallOut[][] {
  const numbers = new Map<string, number>();
  return sides.map(({ solid, areas }) => {
    const spots = spotsOf(solid);
    return areas.map(({ finish }) => {
      if (!numbers.has(finish.id)) numbers.set(finish.id, numbers.size + 1);
      return { number: numbers.get(finish.id)!, finish, places: spots.get(finish.id) ?? [] };
    });
  });
}

/** By finish the incentres of triangles that are turned to the reader, as far as none above them has as much room. */
function spotsOf({ mesh, finishes, wears }: ColouredMesh): Map<string, readonly Spot[]> {
  const { positions: p, triangles } = mesh;
  const found: (readonly Spot[])[] = finishes.map(() => []);
  wears.forEach((finish, f) => {
    const [a, b, c] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const twice = ux * vy - uy * vx;
    if (twice <= STEEPEST * Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, twice)) return;
    // The incentre is the mean of the corners, each weighed by the length of the side across from it.
    const [la, lb, lc] = [Math.hypot(vx - ux, vy - uy), Math.hypot(vx, vy), Math.hypot(ux, uy)];
    const around = la + lb + lc;
    const spot = {
      x: (la * p[a] + lb * p[b] + lc * p[c]) / around,
      y: (la * p[a + 1] + lb * p[b + 1] + lc * p[c + 1]) / around,
      room: twice / around,
    };
    if (found[finish].some(({ y, room }) => y >= spot.y && room >= spot.room)) return;
    const kept = found[finish].filter(({ y, room }) => y > spot.y || room > spot.room);
    found[finish] = [...kept, spot].sort((one, other) => other.y - one.y);
  });
  return new Map(finishes.map(({ id }, i) => [id, found[i]]));
}

/** What a call-out says: the finish, and where that is where no leader can show it. */
export const callOutWords = ({ finish, places }: CallOut, material: string): string =>
  `${finishWords(finish, material)}${places.length > 0 ? '' : ' (upright sides)'}`;

/**
 * A drawing with the numbers of finishes in a row over it, and a leader from each to a place that wears it; no leader crosses another.
 * Where everything wears one finish nothing is pointed at.
 */
export function withCallOuts(drawing: Drawing, callOuts: readonly CallOut[], textHeight: number): Drawing {
  const { minX, maxX, maxY } = drawing.bounds;
  const radius = RADIUS * textHeight;
  const y = maxY + ABOVE * textHeight + radius;
  const seen = callOuts
    .flatMap(({ number, places }) => {
      // Where none has room for the dot, one that has nearly as much as the best.
      const enough = Math.min(DOT * textHeight, NEARLY * (places.at(-1)?.room ?? 0));
      const spot = places.find(({ room }) => room >= enough);
      return spot ? [{ number, spot }] : [];
    })
    .sort((one, other) => one.spot.x - other.spot.x);
  if (callOuts.length < 2 || seen.length === 0) return drawing;
  const row = spread(
    seen.map(({ spot }) => spot.x),
    PITCH * textHeight,
    minX + radius,
    maxX - radius,
  );
  const order = uncrossed(
    row,
    y,
    seen.map(({ spot }) => spot),
  );
  const items = row.flatMap((x, i) => callOut(seen[order[i]].number, { x, y }, seen[order[i]].spot, textHeight));
  return {
    items: [...drawing.items, ...items],
    bounds: {
      ...drawing.bounds,
      minX: Math.min(minX, row[0] - radius),
      maxX: Math.max(maxX, row[row.length - 1] + radius),
      maxY: y + radius + 0.1 * textHeight,
    },
  };
}

/** Moves places, in ascending order, apart to at least a pitch: as little as it takes, between two ends where there is room. */
function spread(wanted: readonly number[], pitch: number, low: number, high: number): number[] {
  const at: number[] = [];
  wanted.forEach((x, i) => at.push(Math.max(x, low, i > 0 ? at[i - 1] + pitch : -Infinity)));
  let end = Math.max(high, low + (at.length - 1) * pitch);
  for (let i = at.length - 1; i >= 0; i--) {
    at[i] = Math.min(at[i], end);
    end = at[i] - pitch;
  }
  return at;
}

type Point = Pick<Spot, 'x' | 'y'>;

/** Which of the ends each place of the row leads to: leaders that cross change their ends, which makes them shorter in all. */
function uncrossed(row: readonly number[], y: number, ends: readonly Point[]): number[] {
  const order = row.map((_, i) => i);
  for (let isChanged = true; isChanged;) {
    isChanged = false;
    for (let i = 0; i < order.length; i++)
      for (let j = i + 1; j < order.length; j++) {
        if (!isCrossing({ x: row[i], y }, ends[order[i]], { x: row[j], y }, ends[order[j]])) continue;
        [order[i], order[j]] = [order[j], order[i]];
        isChanged = true;
      }
  }
  return order;
}

const sideOf = (a: Point, b: Point, c: Point): number => orient2d(a.x, a.y, b.x, b.y, c.x, c.y);

const isCrossing = (a: Point, b: Point, c: Point, d: Point): boolean =>
  sideOf(a, b, c) * sideOf(a, b, d) < 0 && sideOf(c, d, a) * sideOf(c, d, b) < 0;

/** Height of a line of the list of finishes, and the size of a swatch, in heights of the figures. */
const LINE = 1.9;
const SWATCH = { width: 2, height: 1.2 };

/** A drawing with the list of finishes below it: number, swatch, and what they are. */
export function withFinishList(drawing: Drawing, callOuts: readonly CallOut[], material: string, textHeight: number): Drawing {
  const { minX, minY } = drawing.bounds;
  const label = { kind: 'label', layer: 'finishes', height: textHeight, align: 'left', turn: 0, colour: INK } as const;
  const items = callOuts.flatMap((callOut, i): Item[] => {
    const y = minY - (i + 1.6) * LINE * textHeight;
    const [left, right] = [minX + 1.6 * textHeight, minX + (1.6 + SWATCH.width) * textHeight];
    const [low, high] = [y - 0.1 * textHeight, y + (SWATCH.height - 0.1) * textHeight];
    return [
      { ...label, x: minX, y, text: String(callOut.number) },
      {
        kind: 'area',
        layer: 'finishes',
        outline: [Float64Array.of(left, low, right, low, right, high, left, high)],
        fill: { kind: 'plain', colour: callOut.finish.colour },
        pen: { width: textHeight / 14, colour: INK },
      },
      { ...label, x: right + 0.8 * textHeight, y, text: callOutWords(callOut, material) },
    ];
  });
  const depth = callOuts.length > 0 ? (callOuts.length + 1) * LINE * textHeight : 0;
  const longest = Math.max(0, ...callOuts.map((callOut) => callOutWords(callOut, material).length));
  const maxX = Math.max(drawing.bounds.maxX, minX + (2.4 + SWATCH.width + longest * FIGURE_WIDTH) * textHeight);
  return { items: [...drawing.items, ...items], bounds: { ...drawing.bounds, minY: minY - depth, maxX } };
}

function callOut(number: number, from: Point, to: Point, textHeight: number): Item[] {
  const radius = RADIUS * textHeight;
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const points = Float64Array.of(
    from.x + ((to.x - from.x) * radius) / length,
    from.y + ((to.y - from.y) * radius) / length,
    to.x,
    to.y,
  );
  const layer = 'call-outs';
  const line = (width: number, colour: string): LineItem => ({ kind: 'line', layer, points, closed: false, pen: { width: width * textHeight, colour } }); // prettier-ignore
  const disc = (at: Point, size: number, fill: string, pen: string): Item => ({
    kind: 'area',
    layer,
    outline: [circle(at.x, at.y, size, size / 100)],
    fill: { kind: 'plain', colour: fill },
    pen: { width: textHeight / 14, colour: pen },
  });
  return [
    // A light line under the dark one: it is seen on every finish.
    line(0.22, PAPER),
    line(0.08, INK),
    disc(to, DOT * textHeight, INK, PAPER),
    disc(from, radius, PAPER, INK),
    {
      kind: 'label',
      layer,
      x: from.x,
      y: from.y - 0.46 * textHeight,
      text: String(number),
      height: 0.92 * textHeight,
      align: 'centre',
      turn: 0,
      colour: INK,
    },
  ];
}
