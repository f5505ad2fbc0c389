import Flatbush from 'flatbush';
import { LRUCache } from 'lru-cache';
import { connectedComponents, ContourSet, isolatedGlyphs, union } from '../../arrangement/index.js';
import {
  bounds,
  contains,
  type Contour,
  insideLeft,
  movedBy,
  type Outline,
  ShapeCache,
  STEPS_PER_MM,
  toStep,
} from '../../geometry/index.js';
import { DistanceField, type DrawnField, type Field, GrowthField } from '../../medial-axis/index.js';
import { type Layer } from '../placing/layers.js';
import { higher, type HeightProfile } from '../profile/height-profile.js';

/** A distance field where an outline lies now. */
export interface PlacedField {
  readonly drawn: DrawnField;
  /** Whole steps by which the outline has been moved since the field was made. */
  readonly stepX: number;
  readonly stepY: number;
}

/** The sloped part of a layer that others meet: it is embedded in the plan with the lines on which its slopes break. */
export interface EmbeddedSlope {
  readonly layer: number;
  readonly profile: HeightProfile;
  /** Layers of the same area have the same number: heights over it compare by the distance alone. */
  readonly area: number;
  /** Its pieces that lie apart, each with its field. */
  readonly pieces: readonly Piece[];
  /** The boxes of the pieces. */
  readonly index: Flatbush;
  /** Distances of its lines, ascending; the last is that of its level top where it has one. */
  readonly levels: readonly number[];
  readonly rings: readonly (readonly Contour[])[];
}

/** What slopes stand on: an outline with its inside on the left, and where they lean outwards what of it is level. */
export interface Ground {
  readonly outline: readonly Contour[];
  readonly level?: readonly Contour[];
}

/** A ground with its field. */
export interface Piece extends PlacedField, Ground {}

/** An outline of a layer as what its slopes stand on. */
export function groundOf(contours: readonly Contour[], { level }: Pick<Layer, 'level'>): Ground {
  const outline = insideLeft(contours);
  if (!level) return { outline };
  const box = bounds(outline)!;
  const isWithin = ([x, y]: Contour): boolean =>
    x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY && contains(outline, x, y);
  return { outline, level: level.contours.filter(isWithin) };
}

/** Lines nearer to each other than this, in mm, are one. */
const LINE_GAP = 0.0015;

/** mm by which distances may be off so that heights are right to within 0.01 mm on this profile. */
export function toleranceFor(profile: HeightProfile): number {
  // Round forms are steep for a hair only, where an error aside is none across.
  if (profile.distances.length > 2) return 0.004;
  const wished = 0.008 / Math.max(profile.steepest, 1e-6);
  // Powers of two, so that a field serves many profiles.
  return Math.min(0.004, Math.max(0.001, 2 ** Math.floor(Math.log2(wished))));
}

/**
 * A run that a field is made for: half a millimetre or so many times four, so that it serves while a height is dragged, and always a
 * little more than what is asked, so that the line of the run lies inside of it.
 */
const maxDistanceFor = (run: number): number => Math.min(4300, 0.5 * 4 ** Math.ceil(Math.log2(Math.max(run * 2.04, 1)) / 2));

/** Distance fields by shape, and what was drawn from them. Both lie where the first point of the shape is at the origin. */
export class Fields {
  private readonly fields = new ShapeCache<Field>();
  private readonly drawings = new WeakMap<Field, LRUCache<string, DrawnField>>();

  /** The field of a ground, and how far from there the ground is now. */
  field({ outline, level }: Ground, ...profiles: readonly HeightProfile[]): { field: Field; dx: number; dy: number } {
    const most = Math.max(...profiles.map((profile) => profile.run));
    const tolerance = Math.min(...profiles.map(toleranceFor));
    if (level) {
      const { value, dx, dy } = this.fields.get(
        [...outline, ...level],
        `${outline.length} grown by ${most} ${tolerance}`,
        (rings) => new GrowthField(rings.slice(0, outline.length), rings.slice(outline.length), most, tolerance),
      );
      return { field: value, dx, dy };
    }
    const run = maxDistanceFor(most);
    const { value, dx, dy } = this.fields.get(
      outline,
      `${run} ${tolerance}`,
      (rings) => new DistanceField(rings, run, tolerance),
    );
    return { field: value, dx, dy };
  }

  drawn(ground: Ground, profiles: readonly HeightProfile[], levels: readonly number[]): PlacedField {
    const { field, dx, dy } = this.field(ground, ...profiles);
    let ofField = this.drawings.get(field);
    if (!ofField) this.drawings.set(field, (ofField = new LRUCache({ max: MOST_DRAWINGS })));
    // From the line of the farthest run on all is level.
    const isLevelBeyond =
      levels.length > 0 && levels[levels.length - 1] >= Math.max(...profiles.map((profile) => profile.run)) - 1e-9;
    const name = `${levels.join()} ${isLevelBeyond}`;
    let drawn = ofField.get(name);
    if (!drawn) ofField.set(name, (drawn = field.drawn(levels, isLevelBeyond)));
    return { drawn, stepX: toStep(dx), stepY: toStep(dy) };
  }
}

/** While a height is dragged every step has lines of its own. */
const MOST_DRAWINGS = 12;

/** Distance of a grid point from the edge of a placed field's outline. */
export const distanceIn = ({ drawn, stepX, stepY }: PlacedField, x: number, y: number): number =>
  drawn.distanceOfPoint(x - stepX, y - stepY);

/** Height of an embedded slope over a grid point. */
export function heightOn({ profile, pieces, index }: EmbeddedSlope, x: number, y: number): number {
  const [mmX, mmY] = [x / STEPS_PER_MM, y / STEPS_PER_MM];
  const found = index.search(mmX - NEAR, mmY - NEAR, mmX + NEAR, mmY + NEAR);
  // Where boxes overlap the point lies in at most one of the pieces, and on the edge of the others at most.
  let most = 0;
  for (const i of found)
    if (found.length === 1 || contains(pieces[i].outline, mmX, mmY)) most = Math.max(most, distanceIn(pieces[i], x, y));
  return profile.at(most);
}

/** mm by which a point may have been bent aside on the grid. */
const NEAR = 0.001;

/** Distances of the lines that a profile is parted by: where it breaks, and where it comes to one of the given levels. */
export function linesOf(profile: HeightProfile, levels: Iterable<number>, deepest: number): number[] {
  const wanted = profile.distances.filter((d) => d > 0 && d < deepest + LINE_GAP);
  const add = (d: number | undefined) => {
    if (d !== undefined && d > LINE_GAP && d < deepest && wanted.every((other) => Math.abs(other - d) > LINE_GAP)) wanted.push(d);
  };
  for (const level of levels) add(profile.reaches(level));
  return wanted.sort((a, b) => a - b);
}

export interface Embedding {
  /** Contours of every layer, those that are embedded without intersections. */
  readonly contours: ContourSet[];
  readonly embedded: readonly EmbeddedSlope[];
  /** By number of the area, the constraints of its slopes but for their lines, as segments in grid steps. */
  readonly constraints: readonly Int32Array[];
}

const MOST_ROUNDS = 5;

/**
 * Finds which sloped areas are letters that nothing comes near, which keep their slopes to themselves, and embeds the others in
 * the plan.
 * @param blank whose edge slopes may cross
 * @param levels by layer, those that its slopes may come to
 * @param must contours that are to be embedded in any case
 */
export function embedSlopes(
  blank: Contour,
  layers: readonly Layer[],
  fields: Fields,
  levels: (layer: number) => readonly number[],
  must: ReadonlySet<Contour>,
): Embedding {
  const contours = layers.map((layer) => layer.area);
  const sloped = layers.flatMap(({ profile }, i) => (profile ? [i] : []));
  if (sloped.length === 0) return { contours, embedded: [], constraints: [] };
  let embedded: EmbeddedSlope[] = [];
  let constraints: Int32Array[] = [];
  let before = -1;
  const edge = ContourSet.loose([blank]);
  // What lies outside is not made.
  const blankBox = bounds([blank])!;
  const reaches = (outline: Outline): boolean => {
    const box = bounds(outline);
    return (
      box !== undefined &&
      box.minX <= blankBox.maxX &&
      box.maxX >= blankBox.minX &&
      box.minY <= blankBox.maxY &&
      box.maxY >= blankBox.minY
    );
  };
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const isLast = round === MOST_ROUNDS - 1;
    const isolated: ReadonlySet<Outline> = new Set(
      isLast ? [] : isolatedGlyphs([edge, ...contours], joined(constraints)).map((glyph) => glyph.contours),
    );
    const staysApart = (glyph: Outline): boolean => isolated.has(glyph) && !glyph.some((contour) => must.has(contour));
    const now = sloped.map((i) => {
      const { glyphs, loose } = layers[i].area;
      return ContourSet.of(glyphs.filter((glyph) => !staysApart(glyph)), loose); // prettier-ignore
    });
    const count = now.reduce((sum, { contours: list }) => sum + list.length, 0);
    if (count === before) break;
    before = count;
    embedded = [];
    constraints = [];
    const areas: Area[] = [];
    sloped.forEach((i, at) => {
      const { profile, area } = layers[i];
      const meet = now[at];
      if (!profile || meet.isEmpty) return;
      // Free of intersections and with the inside on their left.
      const glyphs = new Set(meet.glyphs);
      const letters = connectedComponents(meet);
      const grounds = letters
        .filter(reaches)
        .map((outline) => groundOf(union(glyphs.has(outline) ? ContourSet.of([outline]) : outline), layers[i]))
        .filter(({ outline }) => outline.length > 0);
      contours[i] = ContourSet.of(
        [...area.glyphs.filter(staysApart), ...letters.filter((outline) => !reaches(outline))],
        grounds.flatMap(({ outline }) => outline),
      );
      if (grounds.length === 0) return;
      const known = areas.find((other) => areSame(other.grounds, grounds));
      if (known) known.slopes.push({ layer: i, profile });
      else areas.push({ grounds, slopes: [{ layer: i, profile }] });
    });
    areas.forEach((each, number) => {
      const made = embeddedArea(each, number, fields, levels);
      embedded.push(...made);
      constraints.push(joined(made[0].pieces.map(constraintsOf)));
    });
    embedded.sort((a, b) => a.layer - b.layer);
  }
  return { contours, embedded, constraints };
}

/** The constraints of a piece where it lies now, but for the lines, which are rings of layers of their own. */
function constraintsOf({ drawn, stepX, stepY }: Piece): Int32Array {
  const out = drawn.constraints.slice(0, drawn.firstLine);
  for (let i = 0; i < out.length; i += 2) {
    out[i] += stepX;
    out[i + 1] += stepY;
  }
  return out;
}

/** Constraints one after the other. */
export function joined(lists: readonly Int32Array[]): Int32Array {
  const out = new Int32Array(lists.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const list of lists) {
    out.set(list, at);
    at += list.length;
  }
  return out;
}

/** An area with all slopes over it. */
interface Area {
  readonly grounds: readonly Ground[];
  readonly slopes: { readonly layer: number; readonly profile: HeightProfile }[];
}

/** Whether distances over two areas are the same. */
const areSame = (a: readonly Ground[], b: readonly Ground[]): boolean =>
  (['outline', 'level'] as const).every((rings) => {
    const [p, q] = [a, b].map((grounds) => grounds.flatMap((ground) => ground[rings] ?? []));
    return (
      p.length === q.length && p.every((ring, i) => ring.length === q[i].length && ring.every((value, k) => value === q[i][k]))
    );
  });

/** The slopes over one area, all parted by the same lines: where any of them breaks, comes to a level, or crosses another. */
function embeddedArea(
  { grounds, slopes }: Area,
  number: number,
  fields: Fields,
  heights: (layer: number) => readonly number[],
): EmbeddedSlope[] {
  const profiles = slopes.map(({ profile }) => profile);
  const deepest = Math.max(...grounds.map((ground) => fields.field(ground, ...profiles).field.deepest));
  const lines: number[] = [];
  const add = (d: number) => {
    if (lines.every((other) => Math.abs(other - d) > LINE_GAP)) lines.push(d);
  };
  const met = slopes.flatMap(({ layer }) => heights(layer));
  for (const profile of profiles) linesOf(profile, met, deepest).forEach(add);
  profiles.forEach((a, i) =>
    profiles.slice(i + 1).forEach((b) =>
      higher(a, b)
        .distances.filter((d) => d > LINE_GAP && d < deepest)
        .forEach(add),
    ),
  );
  lines.sort((a, b) => a - b);
  const index = new Flatbush(grounds.length);
  const pieces = grounds.map((ground): Piece => {
    const { minX, minY, maxX, maxY } = bounds(ground.outline)!;
    index.add(minX, minY, maxX, maxY);
    return { ...ground, ...fields.drawn(ground, profiles, lines) };
  });
  index.finish();
  const rings = linesOfPieces(pieces, lines, ({ drawn }) => drawn.rings);
  return slopes.map(({ layer, profile }) => ({ layer, profile, area: number, pieces, index, levels: lines, rings }));
}

/** Lines of pieces by distance, where they lie now. */
const linesOfPieces = (
  pieces: readonly Piece[],
  lines: readonly number[],
  of: (piece: Piece) => readonly (readonly Contour[])[],
): Contour[][] => {
  const own = pieces.map(of);
  return lines.map((_, k) =>
    pieces.flatMap(({ stepX, stepY }, i) => movedBy(own[i][k], stepX / STEPS_PER_MM, stepY / STEPS_PER_MM)),
  );
};

/** What lies beyond some distances in all of some pieces. */
export const ringsAt = (pieces: readonly Piece[], distances: readonly number[]): Contour[][] =>
  distances.length === 0 ? [] : linesOfPieces(pieces, distances, ({ drawn }) => drawn.field.drawn(distances).rings);
