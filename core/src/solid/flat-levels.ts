import { bounds, type Contour, type CreaseLines, type Reach, STEPS_PER_MM } from '../geometry/index.js';
import { creased, type ReliefMesh, UNDERSIDE } from '../mesh/index.js';
import { type Evaluation, heightOf, isInPlane, placeOf, type Surface } from '../relief/index.js';
import { surfaceOf } from '../support/index.js';

/** mm by which chords of a solid may lie beside the surface that it is bent to. */
export const CHORDS_IN_SPACE = 0.02;

/** The corners of a solid at points of the plan, in front of a place and behind it. */
interface PlaceCorners {
  top(point: number, label: number): number;
  bottom(point: number, label: number): number;
}

/**
 * The flat solid of a relief with levels in planes: over the plan those are curved, so it is cut along the lines along which the sign will be
 * bent, and what lies between two corners follows the heights that each of them stands for. Without such levels it stays as it is.
 * @param corners by which the mesh was made; those that it has more slopes brought along
 */
export function withFlatLevels(
  evaluation: Evaluation,
  mesh: ReliefMesh,
  corners: PlaceCorners,
  isThere: (label: number) => boolean,
): ReliefMesh {
  const { places, sign, side } = evaluation;
  const surface = surfaceOf(sign);
  if (!surface || !places.some((place) => isInPlane(place.surface) || isInPlane(place.under))) return mesh;
  const heights = new FollowedHeights(surfacesOfCorners(evaluation, corners, isThere));
  const capped = new Map<number, Surface>();
  for (const { label, surface: top, under } of places) {
    if (isInPlane(top)) capped.set(label, top);
    if (isInPlane(under)) capped.set(UNDERSIDE + label, under);
  }
  const lines = surface.creases(bounds([blankFromFront(evaluation)])!, reachFromFront(evaluation), CHORDS_IN_SPACE);
  let { positions, triangles, belongs } = mesh;
  for (const each of lines) {
    heights.takeEdges(triangles, (t) => capped.get(belongs[t]));
    const cut = creased({ positions, triangles }, side === 'front' ? each : turned(each), heights);
    const before = belongs;
    belongs = cut.from.map((triangle) => before[triangle]);
    ({ positions, triangles } = cut);
  }
  return { positions, triangles, belongs };
}

/** By corner the level in a plane that it lies on; corners that are those of other surfaces as well have the height that they have. */
function surfacesOfCorners(
  evaluation: Evaluation,
  corners: PlaceCorners,
  isThere: (label: number) => boolean,
): ReadonlyMap<number, Surface> {
  const { lo, hi, left, right } = evaluation.arrangement.edges;
  const found = new Map<number, Surface>();
  const others = new Set<number>();
  for (let e = 0; e < lo.length; e++) {
    for (const label of [left[e], right[e]]) {
      const place = isThere(label) ? placeOf(evaluation, label) : undefined;
      if (!place) continue;
      for (const point of [lo[e], hi[e]]) {
        for (const [surface, corner] of [
          [place.surface, corners.top(point, label)],
          [place.under, corners.bottom(point, label)],
        ] as const) {
          if (isInPlane(surface)) found.set(corner, surface);
          else others.add(corner);
        }
      }
    }
  }
  for (const corner of others) found.delete(corner);
  return found;
}

/** What a corner's height comes of: shares of levels in planes, and a height of its own for the rest. */
interface Followed {
  readonly shares: ReadonlyMap<Surface, number>;
  readonly own: number;
}

/** Heights between corners of which some lie on levels in planes. */
class FollowedHeights {
  private readonly followed = new Map<number, Followed>();
  /** By edge, as one number of both its corners, the level in a plane whose cap it is part of. */
  private readonly edges = new Map<number, Surface>();
  private corners = 0;

  constructor(surfaces: ReadonlyMap<number, Surface>) {
    for (const [corner, surface] of surfaces) this.followed.set(corner, { shares: new Map([[surface, 1]]), own: 0 });
  }

  /** Takes the edges of caps in planes. @param surfaceOf the level that a triangle is the cap of */
  takeEdges(triangles: Uint32Array, surfaceOf: (triangle: number) => Surface | undefined): void {
    this.edges.clear();
    this.corners = triangles.reduce((most, corner) => Math.max(most, corner), 0) + 1;
    for (let t = 0; t < triangles.length / 3; t++) {
      const surface = surfaceOf(t);
      if (!surface) continue;
      for (let k = 0; k < 3; k++) this.edges.set(this.edge(triangles[3 * t + k], triangles[3 * t + ((k + 1) % 3)]), surface);
    }
  }

  private edge(a: number, b: number): number {
    return Math.min(a, b) * this.corners + Math.max(a, b);
  }

  /**
   * The height of a new corner on the edge between two others: at such a share of the way what the first follows passes into what the second does.
   * @param heightA of the first, where it follows nothing
   * @param x of the new corner in mm
   */
  between(
    corner: number,
    a: number,
    b: number,
    heightA: number,
    heightB: number,
    t: number,
    x: number,
    y: number,
  ): number | undefined {
    const cap = this.edges.get(this.edge(a, b));
    if (cap) {
      this.followed.set(corner, { shares: new Map([[cap, 1]]), own: 0 });
      return heightOf(cap, x * STEPS_PER_MM, y * STEPS_PER_MM);
    }
    const [from, to] = [this.followed.get(a), this.followed.get(b)];
    if (!from && !to) return undefined;
    const shares = new Map<Surface, number>();
    const add = (followed: Followed | undefined, share: number): void =>
      followed?.shares.forEach((own, surface) => shares.set(surface, (shares.get(surface) ?? 0) + share * own));
    add(from, 1 - t);
    add(to, t);
    const own = (1 - t) * (from?.own ?? heightA) + t * (to?.own ?? heightB);
    this.followed.set(corner, { shares, own });
    let height = own;
    for (const [surface, share] of shares) height += share * heightOf(surface, x * STEPS_PER_MM, y * STEPS_PER_MM);
    return height;
  }
}

/** The same lines as they are seen from behind. */
const turned = ({ values, valueAt, shareAt }: CreaseLines): CreaseLines => ({
  values,
  valueAt: (x, y) => valueAt(-x, y),
  shareAt: (line, ax, ay, bx, by) => shareAt(line, -ax, ay, -bx, by),
});

/** The blank in the plan of the front. */
export const blankFromFront = ({ blank, side }: Evaluation): Contour =>
  side === 'front' ? blank : blank.map((v, i) => (i % 2 === 0 ? -v : v));

/** How far the relief reaches from the face of the front. */
export function reachFromFront({ side, highest, rearmost, sign }: Evaluation): Reach {
  const { thickness } = sign.blank;
  return side === 'front' ? { low: rearmost, high: highest } : { low: -thickness - highest, high: -thickness - rearmost };
}
