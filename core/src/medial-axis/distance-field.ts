import Flatbush from 'flatbush';
import {
  bounds,
  contains,
  type Contour,
  keyX,
  keyY,
  type Outline,
  pointKey,
  reversed,
  squareToSegment,
  STEPS_PER_MM,
  Weld,
} from '../geometry/index.js';
import { type AxisPoint, type Flank, flankOf } from './flanks.js';
import { FREE, sitesOf } from './sites.js';
import { contourOf, type Linked, linked, type Strand, Strands } from './equal-distance.js';
import { type NarrowLine, narrowLines, narrowPlaces } from './narrow.js';
import { type ReturnBorder } from './mitre-returns.js';
import { MitredGrowth } from './mitred-sites.js';
import { offset } from '../arrangement/index.js';

/** The distance of every place inside an outline from its edge, up to a greatest one, `maxDistance`. */
export interface Field {
  readonly outline: Outline;
  readonly maxDistance: number;
  readonly tolerance: number;
  /** The greatest distance that is found inside, at most `maxDistance`. */
  readonly deepest: number;
  distanceAt(x: number, y: number): number;
  /** What lies at least so far from the edge: slow, and right whatever the sites are like. */
  beyond(distance: number): Outline;
  /**
   * The borders of the places over which the distance grows evenly, with lines of equal distance.
   * @param levels distances of those lines, ascending
   * @param isLevelBeyond nothing is asked of the distance beyond the last line: no borders are drawn there
   */
  drawn(levels: readonly number[], isLevelBeyond?: boolean): DrawnField;
}

/**
 * How far every place inside an outline is from the outline's edge, up to a greatest one, `maxDistance`: as places over which the
 * distance grows evenly. Their borders are the medial axis of the outline, rays in the fans of its inner corners, and lines of
 * equal distance. Surfaces that are a function of that distance (slopes, ridges, vees, rounded edges) are flat over each of them
 * to within the tolerance.
 */
export class DistanceField implements Field {
  private readonly flanks: readonly Flank[];
  private near?: NearEdges;

  /**
   * @param outline rings with the inside on their left, that meet in corners at most
   * @param maxDistance mm; the distance is not told apart beyond it
   * @param tolerance mm by which a distance may be off, in the middle of its chords
   */
  constructor(
    readonly outline: Outline,
    readonly maxDistance: number,
    readonly tolerance: number,
  ) {
    const sites = sitesOf(outline, maxDistance);
    this.flanks = sites.map((site) => flankOf(site, sites, tolerance));
  }

  /** The greatest distance from the edge that is found inside, at most `maxDistance`. */
  get deepest(): number {
    return this.flanks.reduce((most, { points }) => points.reduce((m, { d }) => Math.max(m, d), most), 0);
  }

  /** Distance of a point inside from the edge, at most `maxDistance`. */
  distanceAt(x: number, y: number): number {
    if (this.flanks.length === 0) return 0;
    return (this.near ??= new NearEdges(this.outline)).distance(x, y, this.maxDistance);
  }

  beyond(distance: number): Outline {
    return offset(this.outline, -distance);
  }

  drawn(levels: readonly number[], isLevelBeyond = false): DrawnField {
    return new DrawnField(this, this.outline, this.flanks, levels, { last: isLevelBeyond ? levels.at(-1) : undefined });
  }

  /**
   * The lines of equal distance alone, without borders: for every level its rings, with the farther places on their left.
   * @param levels distances above 0, at most `maxDistance`
   */
  lines(levels: readonly number[]): Contour[][] {
    const weld = new Weld(Math.max(2, Math.round((this.tolerance / 2) * STEPS_PER_MM)));
    const deepest = this.flanks.map(({ points }) => points.reduce((most, { d }) => Math.max(most, d), 0));
    let reaching = this.flanks.map((_, i) => i);
    return [...levels.keys()]
      .sort((a, b) => levels[a] - levels[b])
      .map((at) => {
        const level = levels[at];
        reaching = reaching.filter((i) => deepest[i] > level - HAIR);
        const strands = new Strands();
        for (const i of reaching) follow(this.flanks[i].points, level, (x, y) => weld.place(x, y), strands);
        const rings = linked(strands.all, PATH_GAP * STEPS_PER_MM)?.rings ?? this.beyond(level);
        return { at, rings: rings.filter((ring) => ring.length >= 6) };
      })
      .sort((a, b) => a.at - b.at)
      .map(({ rings }) => [...rings]);
  }

  /**
   * What discs of a radius cannot cover without leaving the outline: the outline less its opening. Undefined where lines do not close.
   * @param radius mm, at most `maxDistance`
   * @param least mm that a corner reaches beyond a disc in it to be told: those between chords of curves do not
   */
  narrow(radius: number, least = 0): Outline | undefined {
    return narrowPlaces(this.flanks, radius, this.tolerance, least);
  }

  /** The same in places that are known to be narrow for a larger disc: only what comes into their boxes is looked at. */
  narrowAmong(places: Outline): (radius: number, least: number) => Outline | undefined {
    const index = new Flatbush(places.length);
    for (const place of places) {
      const { minX, minY, maxX, maxY } = bounds([place])!;
      index.add(minX - BESIDE, minY - BESIDE, maxX + BESIDE, maxY + BESIDE);
    }
    index.finish();
    const isNear = ({ points }: Flank): boolean => {
      let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
      for (const { footX, footY } of points) {
        [minX, maxX] = [Math.min(minX, footX), Math.max(maxX, footX)];
        [minY, maxY] = [Math.min(minY, footY), Math.max(maxY, footY)];
      }
      return minX <= maxX && index.search(minX, minY, maxX, maxY).length > 0;
    };
    const near = this.flanks.filter(isNear);
    return (radius, least) => narrowPlaces(near, radius, this.tolerance, least);
  }

  /**
   * The lines of a distance as far as they run beside places at which discs that touch the edge there are smaller than `below`: what is
   * left for a small disc where a large one has been.
   * @param level mm, below `below`, that at most `maxDistance`
   */
  linesBelow(level: number, below: number, least = 0): NarrowLine[] {
    return narrowLines(this.flanks, level, below, this.tolerance, least);
  }
}

/** Edges of an outline, by where they lie. */
class NearEdges {
  private readonly index: Flatbush;
  private readonly edges: Float64Array;

  /** @param outline with one edge at least */
  constructor(outline: Outline) {
    const count = outline.reduce((sum, { length }) => sum + length / 2, 0);
    this.index = new Flatbush(count);
    this.edges = new Float64Array(4 * count);
    let at = 0;
    for (const contour of outline) {
      const n = contour.length;
      for (let i = 0, j = n - 2; i < n; j = i, i += 2, at += 4) {
        const [ax, ay, bx, by] = [contour[j], contour[j + 1], contour[i], contour[i + 1]];
        this.edges.set([ax, ay, bx, by], at);
        this.index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
      }
    }
    this.index.finish();
  }

  /** Distance of the nearest edge in mm, at most so many. */
  distance(x: number, y: number, most: number): number {
    const { edges } = this;
    for (let reach = Math.min(most, 0.5); ; reach = Math.min(most, reach * 4)) {
      let best = reach * reach;
      this.index.search(x - reach, y - reach, x + reach, y + reach, (e) => {
        best = Math.min(best, squareToSegment(edges[4 * e], edges[4 * e + 1], edges[4 * e + 2], edges[4 * e + 3], x, y));
        return false;
      });
      if (best < reach * reach || reach >= most) return Math.sqrt(best);
    }
  }
}

/**
 * How far every place of a grown outline is from where its growth ended: nothing on its edge, and the whole growth in all of what was
 * grown. Corners are mitred, so that where slopes lean outwards what is level is the outline itself, with its inner corners as sharp as
 * they are. Their borders are straight everywhere.
 */
export class GrowthField implements Field {
  private readonly growth: MitredGrowth;

  /**
   * @param outline what was grown to, rings with the inside on their left
   * @param inner what was grown
   * @param maxDistance mm by which it was grown, corners mitred
   */
  constructor(
    readonly outline: Outline,
    readonly inner: Outline,
    readonly maxDistance: number,
    readonly tolerance: number,
  ) {
    this.growth = new MitredGrowth(inner, maxDistance);
  }

  get deepest(): number {
    return this.maxDistance;
  }

  distanceAt(x: number, y: number): number {
    if (contains(this.inner, x, y)) return this.maxDistance;
    return Math.max(0, this.maxDistance - this.growth.at(x, y));
  }

  beyond(distance: number): Outline {
    return distance >= this.maxDistance ? this.inner : offset(this.inner, this.maxDistance - distance, undefined, 'mitred');
  }

  drawn(levels: readonly number[]): DrawnField {
    const flanks = this.growth.sites.map((site): Flank => {
      const points = site.pieces.flatMap((piece, i) =>
        (i === 0 ? [piece.from, piece.to] : [piece.to]).map((t): AxisPoint => {
          const d = site.growthAt(piece, t);
          const [footX, footY] = site.footAt(t);
          const [nx, ny] = site.rayAt(t);
          return { x: footX + d * nx, y: footY + d * ny, d, isFree: piece.owner === FREE, footX, footY, nx, ny };
        }),
      );
      return { isCorner: site.isCorner, points };
    });
    return new DrawnField(this, this.outline, flanks, levels, { inner: this.inner, returns: this.growth.returns });
  }
}

/** mm by which a distance may miss its line by rounding and still lie on it. */
const HAIR = 1e-9;
/** mm around narrow places within which the edge belongs to them. */
const BESIDE = 0.01;

/** mm between two ends that lie on a line of equal distance and may be joined where nothing is built on it. */
const PATH_GAP = 0.05;

/** mm by which borders are drawn beyond the last line. */
const NARROW = 0.02;

/** Measured distances nearer than this, in mm, to that of a line of equal distance are on it. */
const ON_LINE = 4 / STEPS_PER_MM;

interface DrawnChoice {
  /** What the outline was grown from: distances count from where that growth ended. */
  readonly inner?: Outline;
  /** Distance, a level, beyond which no borders are drawn. */
  readonly last?: number;
  /** Further borders between places over which the growth is even. */
  readonly returns?: readonly ReturnBorder[];
}

/** A distance field with its lines, on the grid. */
export class DrawnField {
  /** Borders of the places over which the distance grows evenly, the lines of equal distance behind all others. */
  readonly constraints: Int32Array;
  /** Where in the constraints the lines begin. */
  readonly firstLine: number;
  /** For every level the line of that distance, as rings with the farther places on their left. */
  readonly rings: readonly (readonly Contour[])[];
  /** Distances of the points of constraints and lines, by place. */
  private readonly known = new Map<number, number>();
  private readonly weld: Weld;
  private readonly inner?: Outline;
  /** The distance beyond which no borders are drawn. */
  private readonly last: number;

  /**
   * @param flanks with distances from the outline, or from `inner` outwards where that is given
   */
  constructor(
    readonly field: Field,
    outline: Outline,
    flanks: readonly Flank[],
    readonly levels: readonly number[],
    { inner, last = Infinity, returns = [] }: DrawnChoice = {},
  ) {
    this.inner = inner;
    this.last = last;
    this.weld = new Weld(Math.max(2, Math.round((field.tolerance / 2) * STEPS_PER_MM)));
    for (const contour of outline)
      for (let i = 0; i < contour.length; i += 2) this.known.set(this.weld.place(contour[i], contour[i + 1]), 0);
    for (const contour of inner ?? [])
      for (let i = 0; i < contour.length; i += 2) this.placeOnLine(contour[i], contour[i + 1], field.maxDistance);
    const constraints: number[] = [];
    for (const { isCorner, points } of flanks) {
      points.forEach((point, i) => {
        if (isCorner) this.ray(point, constraints);
        const next = points[i + 1];
        if (next && !(point.isFree && next.isFree)) this.axis(point, next, constraints);
      });
    }
    for (const { from, to } of returns) push(this.place(from), this.place(to), constraints);
    this.firstLine = constraints.length;
    this.rings = levels.map((level) => {
      const lines = new Strands();
      for (const { points } of flanks) follow(points, this.onFlank(level), (x, y) => this.placeOnLine(x, y, level), lines);
      const linkedLines = linked(lines.all);
      // Where a mitre comes to places that something else came to and left again its site has no rays to show it.
      const { rings, strands } = linkedLines ?? this.measured(level);
      for (const { keys } of strands ?? lines.all) for (let i = 1; i < keys.length; i++) push(keys[i - 1], keys[i], constraints);
      // Flanks of what grew have the farther places on their other side.
      return linkedLines && inner ? rings.map(reversed) : rings;
    });
    this.constraints = Int32Array.from(constraints);
  }

  /** Distance of a grid point, in steps: what was meant where a constraint or a line has it, else as measured. */
  distanceOfPoint(x: number, y: number): number {
    const known = this.known.get(pointKey(x, y));
    if (known !== undefined) return known;
    const measured = this.field.distanceAt(x / STEPS_PER_MM, y / STEPS_PER_MM);
    if (measured < ON_LINE) return 0;
    return this.levels.find((level) => Math.abs(level - measured) < ON_LINE) ?? measured;
  }

  /** The line of a level from what lies beyond it, for where the flanks do not close. */
  private measured(level: number): Linked {
    const strands: Pick<Strand, 'keys'>[] = [];
    const rings = this.field.beyond(level).map((ring) => {
      const keys = Array.from({ length: ring.length / 2 }, (_, i) => this.placeOnLine(ring[2 * i], ring[2 * i + 1], level));
      strands.push({ keys: [...keys, keys[0]] });
      return contourOf(keys);
    });
    return { rings: rings.filter((ring) => ring.length >= 6), strands };
  }

  /** A distance as flanks count it, and the other way round. */
  private onFlank(d: number): number {
    return this.inner ? this.field.maxDistance - d : d;
  }

  private place({ x, y, d }: Pick<AxisPoint, 'x' | 'y' | 'd'>): number {
    const key = this.weld.place(x, y);
    if (!this.known.has(key)) this.known.set(key, this.onFlank(d));
    return key;
  }

  private placeOnLine(x: number, y: number, level: number): number {
    const key = this.weld.place(x, y);
    if (this.known.get(key) !== 0) this.known.set(key, level);
    return key;
  }

  /** A stretch of the axis, as far as borders are drawn. */
  private axis(a: AxisPoint, b: AxisPoint, constraints: number[]): void {
    // Where strokes are about as wide as the line is far the axis stands for what the line encloses.
    const last = this.last + NARROW;
    const [isBeyond, isNextBeyond] = [a.d > last, b.d > last];
    if (isBeyond && isNextBeyond) return;
    push(
      isBeyond ? this.placeBetween(a, b, last, last) : this.place(a),
      isNextBeyond ? this.placeBetween(a, b, last, last) : this.place(b),
      constraints,
    );
  }

  /** Where a stretch of the axis comes to a distance. */
  private placeBetween(a: AxisPoint, b: AxisPoint, along: number, distance: number): number {
    const t = (along - a.d) / (b.d - a.d);
    return this.placeOnLine(a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), distance);
  }

  private ray(point: AxisPoint, constraints: number[]): void {
    const { footX, footY, nx, ny, d } = point;
    let from = this.weld.place(footX, footY);
    for (const level of this.inner ? [...this.levels].reverse() : this.levels) {
      const along = this.onFlank(level);
      if (along >= d) break;
      const to = this.placeOnLine(footX + along * nx, footY + along * ny, level);
      push(from, to, constraints);
      if (level === this.last && d > level + NARROW) return;
      from = to;
    }
    push(from, this.place(point), constraints);
  }
}

/**
 * The steps of a line of equal distance along one flank.
 * @param placed the key of a point of the line
 */
function follow(points: readonly AxisPoint[], along: number, placed: (x: number, y: number) => number, strands: Strands): void {
  const least = along - HAIR;
  const onRay = ({ footX, footY, nx, ny }: AxisPoint): number => placed(footX + along * nx, footY + along * ny);
  const between = (a: AxisPoint, b: AxisPoint): number => {
    const t = (along - a.d) / (b.d - a.d);
    return placed(a.x + t * (b.x - a.x), a.y + t * (b.y - a.y));
  };
  // Where one stretch ends the next begins.
  let ray: number | undefined;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i], points[i + 1]];
    const [isIn, isOut] = [a.d > least, b.d > least];
    if (!isIn && !isOut) continue;
    const from = isIn ? (ray ?? onRay(a)) : between(a, b);
    ray = isOut ? onRay(b) : undefined;
    strands.step(from, ray ?? between(a, b));
  }
}

function push(a: number, b: number, constraints: number[]): void {
  if (a !== b) constraints.push(keyX(a), keyY(a), keyX(b), keyY(b));
}
