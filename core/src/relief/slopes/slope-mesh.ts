import { LRUCache } from 'lru-cache';
import { arrange, triangulate } from '../../arrangement/index.js';
import { type Contour, pointKey, STEPS_PER_MM, toStep } from '../../geometry/index.js';
import { type Field, type DrawnField } from '../../medial-axis/index.js';
import { type Graded, linesAt, type Parted, partedAt, withoutThin } from './graded.js';
import { type HeightProfile } from '../profile/height-profile.js';
import { type Fields, type Ground, linesOf } from './embedded-slopes.js';

/** The slopes of one letter: triangles over it with the distance of every point from its edge, parted where its slope breaks. */
export interface SlopeMesh extends EdgedMesh {
  readonly whole: GradedLetter;
}

interface EdgedMesh extends Parted {
  /** Whether the edge runs as that of the letter does, and not otherwise where parts of it are nearer to each other than the grid tells. */
  readonly isWhole: boolean;
}

/** With more lines than this a letter is triangulated anew between them: cutting triangles would make too many. */
const MOST_CUTS = 2;
/** While a height is dragged every step has lines of its own. */
const MOST_PARTED = 12;

interface Triangulated extends Graded {
  readonly isWhole: boolean;
}

/** A letter with the distances over it, before any slope is drawn on it. */
export class GradedLetter {
  /** The greatest distance from the edge. */
  readonly deepest: number;
  private readonly parted = new LRUCache<string, EdgedMesh>({ max: MOST_PARTED });
  private readonly lines = new LRUCache<string, readonly (readonly Contour[])[]>({ max: MOST_PARTED });
  private plain: Triangulated | undefined;

  constructor(private readonly field: Field) {
    this.deepest = field.deepest;
  }

  /** Its triangles, parted at distances in ascending order. */
  at(levels: readonly number[]): EdgedMesh {
    const key = levels.join();
    let known = this.parted.get(key);
    if (!known) this.parted.set(key, (known = levels.length > MOST_CUTS ? this.drawn(levels) : this.cut(levels)));
    return known;
  }

  /** Its lines at distances in ascending order, as {@link at} has them, without triangles between them. */
  linesAt(levels: readonly number[]): readonly (readonly Contour[])[] {
    const key = levels.join();
    let known = this.lines.get(key);
    if (!known) this.lines.set(key, (known = linesAt(this.graded, levels)));
    return known;
  }

  private get graded(): Triangulated {
    const { deepest, field } = this;
    // Where distances end to be told apart a line stands, too.
    return (this.plain ??= this.triangulated(field.drawn(deepest >= field.maxDistance ? [field.maxDistance] : [])));
  }

  private cut(levels: readonly number[]): EdgedMesh {
    return { ...partedAt(this.graded, levels), isWhole: this.graded.isWhole };
  }

  private drawn(levels: readonly number[]): EdgedMesh {
    const drawn = this.field.drawn(levels);
    const made = this.triangulated(drawn);
    return { ...withoutThin(made), levels, rings: drawn.rings, isWhole: made.isWhole };
  }

  private triangulated(drawn: DrawnField): Triangulated {
    // Copies of the rings: marked ones would be set aside as a letter.
    const rings = this.field.outline.map((ring) => ring.slice());
    const inside = (label: number): boolean => label === 1;
    const { edges } = arrange([rings], (windings) => (windings.length > 0 ? 1 : 0), { segments: drawn.constraints, on: inside });
    const { corners } = triangulate(edges, inside);
    const isOnEdge = new Uint8Array(edges.x.length);
    const sides = new Set(this.field.outline.flatMap(sidesOf));
    let [count, isWhole] = [0, true];
    for (let e = 0; e < edges.lo.length; e++) {
      if (edges.left[e] === edges.right[e]) continue;
      const [a, b] = inside(edges.left[e]) ? [edges.lo[e], edges.hi[e]] : [edges.hi[e], edges.lo[e]];
      isOnEdge[a] = isOnEdge[b] = 1;
      count++;
      isWhole &&= sides.has(sideKey(edges.x[a], edges.y[a], edges.x[b], edges.y[b]));
    }
    isWhole &&= count === sides.size;
    const distances = Float64Array.from(edges.x, (x, i) => drawn.distanceOfPoint(x, edges.y[i]));
    return { x: edges.x, y: edges.y, distances, isOnEdge, isWhole, corners: Uint32Array.from(corners) };
  }
}

const sideKey = (ax: number, ay: number, bx: number, by: number): string => `${pointKey(ax, ay)} ${pointKey(bx, by)}`;

/** The sides of a ring as it runs, each under a name. */
function sidesOf(ring: Contour): string[] {
  const steps = Array.from(ring, toStep);
  return Array.from({ length: ring.length / 2 }, (_, i) => {
    const j = (2 * i + 2) % ring.length;
    return sideKey(steps[2 * i], steps[2 * i + 1], steps[j], steps[j + 1]);
  });
}

/** A slope mesh where a letter lies now. */
export interface PlacedSlopeMesh {
  readonly slopeMesh: SlopeMesh;
  readonly stepX: number;
  readonly stepY: number;
}

/** Makes the slopes of letters that nothing comes near, each different one once. */
export class SlopeMeshes {
  private readonly letters = new WeakMap<Field, GradedLetter>();

  constructor(private readonly fields: Fields) {}

  of(ground: Ground, profile: HeightProfile): PlacedSlopeMesh {
    const { field, dx, dy } = this.fields.field(ground, profile);
    let whole = this.letters.get(field);
    if (!whole) this.letters.set(field, (whole = new GradedLetter(field)));
    const levels = linesOf(profile, [], whole.deepest);
    return { slopeMesh: { ...whole.at(levels), whole }, stepX: toStep(dx), stepY: toStep(dy) };
  }
}

/** Rings of a line of equal distance where the letter of a slope mesh lies now; like its corners they lie between the steps of the grid. */
export function placedRings(rings: readonly Contour[], { stepX, stepY }: PlacedSlopeMesh): Contour[] {
  const [dx, dy] = [stepX / STEPS_PER_MM, stepY / STEPS_PER_MM];
  return rings.map((ring) => ring.map((value, i) => value + (i % 2 === 0 ? dx : dy)));
}

/** The level top of a slope mesh whose slope comes to one; undefined where it does not. */
export function topOfSlopeMesh({ slopeMesh }: PlacedSlopeMesh, profile: HeightProfile): readonly Contour[] | undefined {
  const last = slopeMesh.levels.length - 1;
  return last >= 0 && slopeMesh.levels[last] >= profile.run ? slopeMesh.rings[last] : undefined;
}
