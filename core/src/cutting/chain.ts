import Flatbush from 'flatbush';
import { closestShare, type Contour, type Outline } from '../geometry/index.js';
import { Border } from './border.js';
import { type Ring } from './regions.js';

/** Places of a ring at which its neighbours inside are looked for. */
const MOST_PROBES = 48;

/** Rings that a tool runs along one after the other without leaving the material, each from the place where it is entered back to it. */
export type Chain = readonly Contour[];

/** Where a ring comes nearest to a place. */
interface Nearest {
  readonly ring: number;
  readonly edge: number;
  readonly x: number;
  readonly y: number;
  readonly distance: number;
}

/**
 * An order of rings in which each is followed by a neighbour farther out wherever there is one: from the innermost outwards, so that the
 * tool cuts with a part of its width, and goes straight from one ring to the next within what it may pass over.
 * @param region within which links stay
 * @param step mm between neighbours
 * @param from where the tool comes from
 */
export function chained(rings: readonly Ring[], region: Outline, step: number, from: readonly [number, number]): Chain[] {
  const order = new Order(rings, region, step);
  const chains: Chain[] = [];
  let [x, y] = from;
  for (let start = order.startNear(x, y); start; start = order.startNear(x, y)) {
    const chain: Contour[] = [];
    for (let next: Nearest | undefined = start; next; next = order.linkedTo(x, y)) {
      const ring = order.take(next);
      chain.push(ring);
      [x, y] = [ring[0], ring[1]];
    }
    chains.push(chain);
  }
  return chains;
}

class Order {
  private readonly isDone: Uint8Array;
  private left: number;
  /** Ring of every entry of the index: those that were left when it was made. */
  private ringOf = new Int32Array(0);
  private index = new Flatbush(1);
  /** Entries of the index whose rings are done. */
  private stale = 0;
  private readonly border: Border;

  constructor(
    private readonly rings: readonly Ring[],
    region: Outline,
    private readonly step: number,
  ) {
    this.left = rings.length;
    this.isDone = new Uint8Array(rings.length);
    this.border = new Border(region);
    this.indexed();
  }

  /** Puts the edges of all rings that are left into the index: what is done would have to be passed over again and again. */
  private indexed(): void {
    const left = this.rings.map((_, ring) => ring).filter((ring) => !this.isDone[ring]);
    const count = left.reduce((sum, ring) => sum + this.rings[ring].points.length / 2, 0);
    this.ringOf = new Int32Array(count);
    this.index = new Flatbush(Math.max(1, count));
    this.stale = 0;
    let at = 0;
    for (const ring of left) {
      const { points } = this.rings[ring];
      for (let i = 0; i < points.length; i += 2) {
        const j = (i + 2) % points.length;
        this.ringOf[at++] = ring;
        const [ax, ay, bx, by] = [points[i], points[i + 1], points[j], points[j + 1]];
        this.index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
      }
    }
    if (count === 0) this.index.add(0, 0, 0, 0);
    this.index.finish();
  }

  /** The nearest ring that is left, or the innermost one about it. */
  startNear(x: number, y: number): Nearest | undefined {
    if (this.left === 0) return undefined;
    const [entry] = this.index.neighbors(x, y, 1, Infinity, (e) => !this.isDone[this.ringOf[e]]);
    let ring = this.ringOf[entry];
    for (let deeper = this.deeperBeside(ring); deeper !== undefined; deeper = this.deeperBeside(ring)) ring = deeper;
    return this.nearestOf(ring, x, y);
  }

  /** The innermost ring that is left and that the tool can go on to straight from a place. */
  linkedTo(x: number, y: number): Nearest | undefined {
    const reach = this.step * 1.3;
    const rings = new Set(this.index.search(x - reach, y - reach, x + reach, y + reach, (e) => !this.isDone[this.ringOf[e]]).map((e) => this.ringOf[e])); // prettier-ignore
    const near = [...rings].map((ring) => this.nearestOf(ring, x, y)).filter(({ distance }) => distance <= reach);
    near.sort((a, b) => this.rings[b.ring].depth - this.rings[a.ring].depth || a.distance - b.distance || a.ring - b.ring);
    return near.find((each) => this.border.isWithin(x, y, each.x, each.y));
  }

  /** The ring from where it is entered. */
  take({ ring, edge, x, y }: Nearest): Contour {
    this.isDone[ring] = 1;
    this.left--;
    const { points } = this.rings[ring];
    this.stale += points.length / 2;
    if (this.stale > this.ringOf.length / 2 && this.left > 0) this.indexed();
    const after = (edge + 2) % points.length;
    const turned = [...points.subarray(after), ...points.subarray(0, after)];
    return Float64Array.from([x, y, ...turned].filter((_, i, all) => !isRepeat(all, i)));
  }

  private deeperBeside(ring: number): number | undefined {
    const { points, depth } = this.rings[ring];
    const stride = 2 * Math.max(1, Math.ceil(points.length / 2 / MOST_PROBES));
    const reach = this.step * 1.1;
    for (let i = 0; i < points.length; i += stride) {
      const [x, y] = [points[i], points[i + 1]];
      const found = this.index.search(x - reach, y - reach, x + reach, y + reach, (e) => {
        const other = this.ringOf[e];
        return !this.isDone[other] && this.rings[other].depth > depth + 1e-9;
      });
      if (found.length > 0) return this.ringOf[found[0]];
    }
    return undefined;
  }

  private nearestOf(ring: number, x: number, y: number): Nearest {
    const { points } = this.rings[ring];
    let best: Nearest = { ring, edge: 0, x: points[0], y: points[1], distance: Infinity };
    for (let i = 0; i < points.length; i += 2) {
      const j = (i + 2) % points.length;
      const [dx, dy] = [points[j] - points[i], points[j + 1] - points[i + 1]];
      const share = closestShare(points[i], points[i + 1], dx, dy, x, y);
      const [px, py] = [points[i] + share * dx, points[i + 1] + share * dy];
      const distance = Math.hypot(px - x, py - y);
      if (distance < best.distance) best = { ring, edge: i, x: px, y: py, distance };
    }
    return best;
  }
}

/** Whether x (i even) begins a point that is the one before it again. */
function isRepeat(all: readonly number[], i: number): boolean {
  const at = i - (i % 2);
  const before = (at + all.length - 2) % all.length;
  return all.length > 2 && at > 0 && all[at] === all[before] && all[at + 1] === all[before + 1];
}
