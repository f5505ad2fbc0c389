import {
  insideLeft,
  area,
  bounds,
  circle,
  type Contour,
  contourArea,
  CoordinateError,
  movedBy,
  type Outline,
  polygonsOf,
  rectangle,
  ShapeCache,
  snapRing,
} from '../../geometry/index.js';
import { connectedComponents, ContourSet, difference, offset, union, widestGap } from '../../arrangement/index.js';
import { type Backer, type BlockFace, type CutTo, type Side, sideOf, type Sign, THROUGH } from '../../sign/index.js';
import { type Layer } from '../placing/layers.js';
import { mirrored } from '../placing/mirrored.js';
import { type Note, note } from '../../notes/index.js';
import { type PlacedPart } from '../placing/part-outline.js';
import { type StudPlace, studPlaces } from '../placing/studs.js';

/** What a blank that letters are cut from brings to the relief. */
export interface CutToPlan {
  readonly layers: readonly Layer[];
  /** What is left of the blank, as the reader sees it. */
  readonly kept?: ContourSet;
  readonly studs?: readonly StudPlace[];
  readonly notes: readonly Note[];
}

/** The same, seen from the front. */
interface Made extends CutToPlan {
  readonly kept: ContourSet;
}

/** Lays out flat-cut letters and what is done to them from behind; every different letter once. */
export class CutToPlans {
  private readonly studs = new ShapeCache<readonly StudPlace[]>();
  private readonly walls = new ShapeCache<Outline>();
  private last: { readonly key: string; readonly of: readonly PlacedPart[]; readonly made: Made } | undefined;

  /** @param side that is turned to the reader */
  plan(sign: Sign, side: Side, placed: ReadonlyMap<string, PlacedPart>): CutToPlan {
    const { cutTo, thickness } = sign.blank;
    if (!cutTo) return { layers: [], notes: [] };
    const parts = sign.parts.filter(({ id, hidden }) => cutTo.parts.includes(id) && !hidden && placed.has(id));
    const of = parts.map(({ id }) => placed.get(id)!);
    const key = JSON.stringify([cutTo, thickness, sign.unit, parts.map(sideOf)]);
    // Seen from the other side it is the same, with the studs in the same places.
    if (this.last?.key !== key || this.last.of.some((one, i) => one !== of[i]) || this.last.of.length !== of.length) {
      const kept = ContourSet.joined(parts.map((part, i) => (sideOf(part) === 'front' ? of[i].area : mirrored(of[i].area))));
      this.last = { key, of, made: this.made(cutTo, kept, sign) };
    }
    const { made } = this.last;
    if (side === 'front') return made;
    return {
      ...made,
      kept: mirrored(made.kept),
      studs: made.studs?.map(({ x, y }) => ({ x: -x, y })),
      layers: made.layers.map((layer) => turned(layer, thickness)),
    };
  }

  private made(cutTo: CutTo, kept: ContourSet, sign: Sign): Made {
    const { thickness } = sign.blank;
    const notes: Note[] = [];
    const layers: Layer[] = [layer('keep', kept, 0)];
    if (kept.isEmpty) return { kept, layers, notes: [note('nothing-kept', {})] };
    const pieces = connectedComponents(kept)
      .flatMap((outline) => polygonsOf(outline))
      .map(({ outer, holes }) => insideLeft([outer, ...holes]));
    const studs = pieces.map((piece) => this.studsOf(piece, cutTo));
    if (cutTo.studs) notes.push(...studNotes(cutTo.studs, studs, sign));
    if (cutTo.hollow) {
      const { wall, face } = cutTo.hollow;
      if (face >= thickness) notes.push(note('hollow-face', {}, face, thickness, sign.unit));
      const hollows = pieces.map((piece, i) => this.hollowOf(piece, wall, cutTo, studs[i]));
      const full = hollows.filter((outline) => outline.length === 0).length;
      if (full > 0) notes.push(note('hollow-narrow', {}, full, wall, sign.unit));
      if (face < thickness) layers.push({ ...layer('carve', ContourSet.of(hollows), -face), isBehind: true });
    }
    if (cutTo.studs) {
      const { diameter, depth } = cutTo.studs;
      if (depth >= thickness) notes.push(note('stud-depth', {}, depth, thickness, sign.unit));
      const holes = studs.flat().map(({ x, y }) => snapRing(circle(x, y, diameter / 2)));
      layers.push({ ...layer('carve', ContourSet.loose(holes), depth - thickness), isBehind: true });
    }
    if (cutTo.backer) {
      try {
        const behind = this.behind(cutTo.backer, kept.contours, pieces, sign);
        layers.push(...behind.layers);
        notes.push(...behind.notes);
      } catch (error) {
        if (!(error instanceof CoordinateError)) throw error;
        notes.push(note('too-far', {}, 'What stands behind the letters'));
      }
    }
    return { kept, layers, notes, ...(cutTo.studs && { studs: studs.flat() }) };
  }

  /** What holds the letters together from behind. @throws CoordinateError where it reaches too far */
  private behind(backer: Backer, kept: Outline, pieces: readonly Outline[], sign: Sign): Pick<Made, 'layers' | 'notes'> {
    const plate: Layer = { ...this.plateBehind(backer, kept, pieces, sign.blank.thickness), isBehind: true };
    if (backer.kind === 'bar') {
      const hole = holeOfBar(backer, kept);
      const layers = hole ? [plate, layer('through', ContourSet.loose([hole]), THROUGH)] : [plate];
      return { layers, notes: barNotes(backer, kept, sign) };
    }
    // Both sides grow by the margin.
    const joins = (widestGap(pieces) ?? 0) / 2;
    return { layers: [plate], notes: joins > backer.margin ? [note('backer-apart', {}, backer.margin, joins, sign.unit)] : [] };
  }

  private plateBehind(backer: Backer, kept: Outline, pieces: readonly Outline[], thickness: number): Layer {
    const under = -thickness - backer.thickness;
    if (backer.kind === 'grown') {
      const grown = pieces.flatMap((piece) => {
        const { value, dx, dy } = this.walls.get(piece, `grown ${backer.margin}`, (rings) => offset(rings, backer.margin));
        return movedBy(value, dx, dy);
      });
      // Filled: without the counters of the letters, and without what they leave between them.
      const outer = union(grown).filter((ring) => contourArea(ring) > 0);
      return { ...layer('back up', ContourSet.loose(union(outer)), -thickness), under };
    }
    const { from, to } = reachOfBar(backer, kept);
    const radius = backer.ends === 'round' ? Math.min(to - from, backer.height) / 2 : 0;
    const bar = rectangle(to - from, backer.height, radius).map((v, i) => v + (i % 2 === 0 ? (from + to) / 2 : backer.y));
    const hole = holeOfBar(backer, kept);
    const whole = snapRing(bar);
    return { ...layer('back up', ContourSet.loose(hole ? difference([whole], [hole]) : [whole]), -thickness), under };
  }

  private studsOf(piece: Outline, { studs }: CutTo): readonly StudPlace[] {
    if (!studs) return [];
    const { value, dx, dy } = this.studs.get(piece, JSON.stringify(studs), (rings) => studPlaces(rings, studs));
    return value.map(({ x, y }) => ({ x: x + dx, y: y + dy }));
  }

  /** What is taken out from behind: all but the walls, and a boss around every stud. */
  private hollowOf(piece: Outline, wall: number, { studs }: CutTo, places: readonly StudPlace[]): Outline {
    const { value, dx, dy } = this.walls.get(piece, `${wall}`, (rings) => offset(rings, -wall));
    const inside = movedBy(value, dx, dy);
    if (inside.length === 0 || !studs || places.length === 0) return inside;
    return difference(
      inside,
      places.map(({ x, y }) => snapRing(circle(x, y, studs.diameter / 2 + wall))),
    );
  }
}

/** What is left of the blank of a block: its faces, beside each other. */
export function planOfFaces(faces: readonly BlockFace[], side: Side): CutToPlan {
  const kept = ContourSet.loose(faces.map(({ outline }) => outline));
  const seen = side === 'front' ? kept : mirrored(kept);
  return { layers: [layer('keep', seen, 0)], kept: seen, notes: [] };
}

type Bar = Extract<Backer, { kind: 'bar' }>;

/** From where to where a bar behind letters goes. */
function reachOfBar({ beyond }: Bar, kept: Outline): { readonly from: number; readonly to: number } {
  const { minX, maxX } = bounds(kept)!;
  return { from: minX - (beyond?.left ?? 0), to: maxX + (beyond?.right ?? 0) };
}

function holeOfBar(bar: Bar, kept: Outline): Contour | undefined {
  if (!bar.hole) return undefined;
  const { diameter, end, edge } = bar.hole;
  const { from, to } = reachOfBar(bar, kept);
  const x = end === 'left' ? from + edge + diameter / 2 : to - edge - diameter / 2;
  return snapRing(circle(x, bar.y, diameter / 2));
}

/** That a hole leaves nothing of its bar, or goes through letters as well. */
function barNotes(bar: Bar, kept: Outline, { unit }: Sign): Note[] {
  const hole = holeOfBar(bar, kept);
  if (!bar.hole || !hole) return [];
  const { from, to } = reachOfBar(bar, kept);
  const { diameter, edge } = bar.hole;
  if (diameter >= bar.height || edge + diameter >= to - from) return [note('hole-in-bar', {}, diameter, bar.height, unit)];
  return area(difference([hole], kept)) < area([hole]) - 1e-3 ? [note('hole-in-letters', {}, diameter, unit)] : [];
}

const layer = (operation: Layer['operation'], area: ContourSet, z: number): Layer => ({
  part: '',
  tier: '',
  operation,
  z,
  area,
});

function turned(one: Layer, thickness: number): Layer {
  const area = mirrored(one.area);
  switch (one.operation) {
    case 'back up':
      return { ...one, area, z: -thickness - one.under!, under: -thickness - one.z, isBehind: false };
    case 'carve':
      return { ...one, area, z: -thickness - one.z, isBehind: false };
    default:
      return { ...one, area };
  }
}

function studNotes(studs: NonNullable<CutTo['studs']>, found: readonly (readonly StudPlace[])[], sign: Sign): Note[] {
  const short = found.filter((places) => places.length < studs.count);
  if (short.length === 0) return [];
  const least = Math.min(...short.map((places) => places.length));
  return [note('few-studs', {}, short.length, studs.count, least, studs.diameter, studs.edge, sign.unit)];
}
