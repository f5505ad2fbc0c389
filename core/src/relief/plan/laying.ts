import {
  arrange,
  type Arrangement,
  type Inset,
  type LabelledEdges,
  type NodingMemory,
  type Windings,
} from '../../arrangement/index.js';
import { type Box, bounds, type Contour } from '../../geometry/index.js';
import { THROUGH } from '../../sign/index.js';
import { slopeIntersections } from '../slopes/slope-intersections.js';
import { withoutHidden } from './hidden-slopes.js';
import { type Banded, HOLE, OUTSIDE, type Paint, PlanLabels } from './plan-labels.js';
import { isOnBlank, PlanLayers, reliefLayersIn } from './plan-layers.js';
import { ReliefFunction, type ReliefValue } from './relief-function.js';
import { type Layer } from '../placing/layers.js';
import { type SlopeMeshes, type PlacedSlopeMesh } from '../slopes/slope-mesh.js';
import { type Fields, groundOf, embedSlopes } from '../slopes/embedded-slopes.js';

/** What became of layers, by their numbers. */
export interface Standing {
  /** Layers that reach over the edge of the blank. */
  readonly overhanging: ReadonlySet<number>;
  /** Layers of which something lies on the blank. */
  readonly onBlank: ReadonlySet<number>;
  /** Layers that changed something when they were built. */
  readonly effective: ReadonlySet<number>;
  /** Of layers that changed nothing somewhere the highest that was there before, seen from their own side; none where nothing was. */
  readonly grounds: ReadonlyMap<number, number>;
  /** Layers that are left somewhere when all are built. */
  readonly seen: ReadonlySet<number>;
  /** Pairs of layers, one of either side, that leave nothing between them, each once. */
  readonly met: readonly (readonly [number, number])[];
}

/** The plan of a relief as it was laid: places by label, and what had an effect. */
export interface Laid {
  readonly arrangement: Arrangement;
  readonly materials: readonly Banded[];
  readonly slopeMeshes: ReadonlyMap<Inset, PlacedSlopeMesh>;
  readonly standing: Standing;
  /** Contours that must be embedded after all; the rest does not count then. */
  readonly notEmbedded: readonly Contour[];
}

/** A blank as it is laid: its edge, how thick it is, and what of it is painted. */
export interface LaidBlank extends Paint {
  readonly contour: Contour;
  readonly thickness: number;
}

/** What is remembered from one plan to the next. */
export interface Known {
  readonly fields: Fields;
  readonly slopeMeshes: SlopeMeshes;
  readonly memory: NodingMemory;
}

/** The relief function on the places of the plan. */
export function layOut(blank: LaidBlank, layers: readonly Layer[], known: Known): Laid {
  // Slopes of the side that is turned away are always embedded: letters keep slopes to themselves on the other.
  const must = new Set<Contour>(layers.flatMap(({ isBehind, profile, area }) => (isBehind && profile ? area.contours : [])));
  for (;;) {
    const laid = lay(blank, layers, must, known);
    const fresh = laid.notEmbedded.filter((contour) => !must.has(contour));
    if (fresh.length === 0) return laid;
    for (const contour of fresh) must.add(contour);
  }
}

function lay(
  blank: LaidBlank,
  layers: readonly Layer[],
  must: ReadonlySet<Contour>,
  { fields, slopeMeshes, memory }: Known,
): Laid {
  const { thickness } = blank;
  const labels = new PlanLabels(blank, layers);
  const { hasSides } = labels;
  const embedding = embedSlopes(blank.contour, layers, fields, levelsBeside(layers, thickness), must);
  const visible = withoutHidden(embedding, blank.contour, layers, thickness, { memory, hasSides });
  const intersections = slopeIntersections(visible.embedded, layers, visible.mayMeet);
  const numbers = new PlanLayers(blank.contour, visible.contours, visible.embedded, intersections);
  const relief = new ReliefFunction(layers, visible.embedded, numbers, thickness);
  const record = new LayerRecord(layers, labels, thickness);
  const arrangement = arrange(numbers.rings, (windings) => record.labelOf(windings, relief), {
    segments: visible.constraints,
    on: (label) => isEmbedded(labels.materialOf(label)),
    memory,
    borders: intersections.map((each) => ({ layer: numbers.aboveOf(each), segments: each.border })),
  });
  const notEmbedded = [...record.notEmbedded, ...record.slopesBeside(arrangement.base)];
  const made = new Map<Inset, PlacedSlopeMesh>();
  if (notEmbedded.length === 0) {
    for (const inset of arrangement.insets) {
      const material = labels.materialOf(inset.inside);
      if (material?.surface.kind !== 'profile') continue;
      const { surface, under } = material;
      const placed = slopeMeshes.of(groundOf(inset.contours, layers[surface.layer]), surface.profile);
      // One that comes out at the back is embedded, so that a line stands where it does.
      const isInside =
        under.kind === 'level' && !under.plane && surface.profile.upTo(placed.slopeMesh.whole.deepest).low > under.z;
      if (placed.slopeMesh.isWhole && isInside) made.set(inset, placed);
      else notEmbedded.push(...inset.contours);
    }
  }
  return { arrangement, materials: labels.materials, slopeMeshes: made, standing: record.standing(), notEmbedded };
}

const isEmbedded = (material: Banded | undefined): boolean =>
  material?.surface.kind === 'embedded' || material?.under.kind === 'embedded';

/** What became of the layers while places were labelled. */
class LayerRecord {
  /** Contours that must be embedded after all. */
  readonly notEmbedded: Contour[] = [];
  private readonly overhanging = new Set<number>();
  private readonly onBlank = new Set<number>();
  private readonly effective = new Set<number>();
  private readonly seen = new Set<number>();
  private readonly grounds = new Map<number, number>();
  private readonly met = new Map<string, readonly [number, number]>();
  /** By label of a letter that keeps its slopes to itself, the layers that slope there. */
  private readonly slopes = new Map<number, readonly number[]>();

  constructor(
    private readonly layers: readonly Layer[],
    private readonly labels: PlanLabels,
    private readonly thickness: number,
  ) {}

  /** The label of a place. */
  labelOf(windings: Windings, relief: ReliefFunction): number {
    if (windings.length === 0) return OUTSIDE;
    if (!isOnBlank(windings)) {
      for (const layer of reliefLayersIn(windings, this.layers.length)) this.overhanging.add(layer);
      return OUTSIDE;
    }
    const value = relief.at(windings);
    this.note(value);
    if (!value.material) return value.isOutside ? OUTSIDE : HOLE;
    const { surface, under } = value.material;
    for (const { layer, marked } of [surface, under])
      for (const each of [layer, marked]) if (each !== undefined) this.seen.add(each);
    const label = this.labels.of(value.material);
    if (surface.kind === 'profile') {
      const known = this.slopes.get(label) ?? [];
      const own = value.present.filter((layer) => this.layers[layer].profile && !known.includes(layer));
      this.slopes.set(label, [...known, ...own]);
    }
    return label;
  }

  private note({ present, effective, idle, notEmbedded, met }: ReliefValue): void {
    const { layers, thickness, grounds } = this;
    for (const layer of present) this.onBlank.add(layer);
    for (const layer of effective) this.effective.add(layer);
    for (const { layer, z } of idle) {
      const own = layers[layer].isBehind ? -thickness - z : z;
      grounds.set(layer, Math.max(grounds.get(layer) ?? -Infinity, own));
    }
    for (const layer of notEmbedded) this.notEmbedded.push(...layers[layer].area.contours);
    if (met) this.met.set(met.join(), met);
  }

  /** Contours of letters that keep their slopes to themselves, and along which an edge of the plan runs: something does come near. */
  slopesBeside(base: LabelledEdges): Contour[] {
    return [...labelsOnEdges(base)].flatMap((label) =>
      (this.slopes.get(label) ?? []).flatMap((layer) => this.layers[layer].area.contours),
    );
  }

  standing(): Standing {
    const { overhanging, onBlank, effective, grounds, seen, met } = this;
    return { overhanging, onBlank, effective, grounds, seen, met: [...met.values()] };
  }
}

/** The labels on either side of edges of a plan. */
function labelsOnEdges({ left, right }: LabelledEdges): Set<number> {
  const labels = new Set<number>(left);
  for (const label of right) labels.add(label);
  return labels;
}

/** By layer, the levels of face, back and other layers that a slope of it may come to, as far as boxes tell. */
function levelsBeside(layers: readonly Layer[], thickness: number): (layer: number) => number[] {
  const boxes = layers.map(({ area }) => bounds(area.contours));
  return (layer) => {
    const own = boxes[layer];
    const near = layers.flatMap(({ z, under, profile, operation }, other) => {
      const box = boxes[other];
      if (!own || !box || !areNear(own, box) || z === THROUGH || operation === 'mark' || operation === 'keep') return [];
      return [z, under ?? z, profile ? profile.start : z];
    });
    return [0, -thickness, ...near.filter(isReal)];
  };
}

/** Mm by which boxes of layers are near each other. */
const NEAR = 0.01;

const areNear = (a: Box, b: Box): boolean =>
  a.minX <= b.maxX + NEAR && a.maxX >= b.minX - NEAR && a.minY <= b.maxY + NEAR && a.maxY >= b.minY - NEAR;

/** Whether a height may be one of a sign: ridges without a cap end beyond all. */
const isReal = (z: number): boolean => Math.abs(z) < 4000;
