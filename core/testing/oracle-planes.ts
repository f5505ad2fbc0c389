import { type Part, type Sign, type Tier } from '../src/sign/index.js';
import { type SupportSurface, surfaceOf } from '../src/support/index.js';
import { type Span } from './oracle-edges.js';

/** Steepest lean from a plane at which heights are judged: cos 80° and a little. */
const LEAST_COSINE = 0.18;

/** How many times as far as the nearest place that a plane touches the next one is at least where heights are judged. */
const BETWEEN = 1.6;

/** A place in space. */
type Vector = readonly number[];

const dot = (a: Vector, b: Vector): number => a.reduce((sum, value, i) => sum + value * b[i], 0);
const minus = (a: Vector, b: Vector): Vector => a.map((value, i) => value - b[i]);

/** The plane of a flat level, by the places of space alone: where it stands at a place is found by raising that place. */
export class OraclePlane {
  private readonly touching: readonly { readonly from: Vector; readonly along: Vector }[];

  /** @param places that it touches, x as its own side sees it */
  constructor(
    private readonly surface: SupportSurface,
    places: readonly (readonly [number, number])[],
    private readonly isBack: boolean,
    private readonly thickness: number,
  ) {
    this.touching = places.map(([x, y]) => ({
      from: this.raised(x, y, 0),
      along: minus(this.raised(x, y, 1), this.raised(x, y, 0)),
    }));
  }

  /** The heights above the face of its own side at which levels are over a place; undefined where the surface turns too far away. */
  heights(x: number, y: number, level: Span, aside: number): Span | undefined {
    const all: number[] = [];
    for (const [dx, dy] of [
      [0, 0],
      [aside, 0],
      [-aside, 0],
      [0, aside],
      [0, -aside],
    ]) {
      const face = this.raised(x + dx, y + dy, 0);
      // Nearest on the face of the front, whatever side it is for.
      const front = this.front(x + dx, y + dy, 0);
      const nearest = [...this.touching].sort(
        (a, b) => this.apart(front, a.from, a.along) - this.apart(front, b.from, b.along),
      )[0];
      // Half-way between copies that run into each other, which is noted, one plane passes into the next.
      const [near, next = Infinity] = this.touching
        .map(({ from, along }) => this.apart(front, from, along))
        .sort((a, b) => a - b);
      if (next < BETWEEN * near) return undefined;
      const rise = dot(minus(this.raised(x + dx, y + dy, 1), face), nearest.along);
      if (rise < LEAST_COSINE) return undefined;
      const away = dot(minus(face, nearest.from), nearest.along);
      all.push((level.least - away) / rise, (level.most - away) / rise);
    }
    return { least: Math.min(...all), most: Math.max(...all) };
  }

  private apart(front: Vector, from: Vector, along: Vector): number {
    const there = this.isBack ? from.map((value, i) => value - this.thickness * along[i]) : from;
    return Math.hypot(...minus(front, there));
  }

  /** What is so far above its own side, in space. */
  private raised(x: number, y: number, z: number): Vector {
    return this.isBack ? this.front(-x, y, -this.thickness - z) : this.front(x, y, z);
  }

  private front(x: number, y: number, z: number): Vector {
    const out = new Float64Array(3);
    this.surface.place(x, y, z, out, 0);
    return [...out];
  }
}

/** The planes that the levels of parts are measured from, as the definition says. */
export class OraclePlanes {
  private readonly surface: SupportSurface | undefined;
  private readonly owners = new Map<string, string>();
  private readonly planes = new Map<string, OraclePlane>();

  /** @param baseOf the level that a part's heights are measured from */
  constructor(
    private readonly sign: Sign,
    levelsOf: (part: Part) => readonly { readonly tier: Tier; readonly level: number }[],
    baseOf: (part: Part) => number,
  ) {
    this.surface = sign.support?.kind === 'block' ? undefined : surfaceOf(sign);
    for (const part of sign.parts) {
      const { sitsOn } = part;
      if (sitsOn.kind !== 'part') continue;
      const host = sign.parts.find(({ id }) => id === sitsOn.part)!;
      const there = levelsOf(host).find(({ level }) => Math.abs(level - baseOf(part)) < 1e-9)?.tier.action;
      const own = this.owners.get(host.id) ?? (there?.kind === 'set' && there.flat ? host.id : undefined);
      if (own !== undefined) this.owners.set(part.id, own);
    }
  }

  /** Whether an outline is laid on a level in a plane; what follows others lies where those lie. */
  isLaidInPlane(part: Part): boolean {
    const isFollowing = part.kind === 'shape' && ['border', 'fixings', 'combined'].includes(part.shape.kind);
    return this.surface !== undefined && this.owners.has(part.id) && part.tiers.length > 0 && !isFollowing;
  }

  of(part: Part, { action }: Tier): OraclePlane | undefined {
    const owner = this.owners.get(part.id) ?? (action.kind === 'set' && action.flat ? part.id : undefined);
    if (owner === undefined || !this.surface || action.kind === 'mark' || action.kind === 'cut-through') return undefined;
    let plane = this.planes.get(owner);
    if (!plane) {
      const bringing = this.sign.parts.find(({ id }) => id === owner)!;
      const isBack = bringing.side === 'back';
      this.planes.set(owner, (plane = new OraclePlane(this.surface, touchedBy(bringing), isBack, this.sign.blank.thickness)));
    }
    return plane;
  }
}

/** The places of a part's copies. */
function touchedBy({ place: { x, y }, copies }: Part): (readonly [number, number])[] {
  if (copies?.kind === 'row')
    return Array.from({ length: copies.count }, (_, i) => {
      const steps = i - (copies.count - 1) / 2;
      return [x + steps * copies.stepX, y + steps * copies.stepY];
    });
  if (copies?.kind === 'ring')
    return Array.from({ length: copies.count }, (_, i) => {
      const angle = (Math.PI / 180) * (90 - (360 * i) / copies.count);
      return [x + copies.radius * Math.cos(angle), y + copies.radius * Math.sin(angle)];
    });
  return [[x, y]];
}
