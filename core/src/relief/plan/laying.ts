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
import { FACE_LAYER, ReliefFunction, LEVEL_STEP, type Material, type Surface } from './relief-function.js';
import { type Layer } from '../placing/layers.js';
import { type SlopeMeshes, type PlacedSlopeMesh } from '../slopes/slope-mesh.js';
import { type SideBand, sideBandsOf } from './side-bands.js';
import { type Fields, groundOf, embedSlopes as weaveSlopes } from '../slopes/embedded-slopes.js';

/** Labels of the relief's plan: outside the blank, cut through, and from 2 on the places with material. */
export const OUTSIDE = 0;
export const HOLE = 1;
export const FIRST_PLACE = 2;

/** Whether a label of the plan is a place with material. */
export const isSolid = (label: number): boolean => label >= FIRST_PLACE;

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

/** A blank as it is laid: its edge, how thick it is, and whether its face and its back are painted. */
export interface LaidBlank {
  readonly contour: Contour;
  readonly thickness: number;
  readonly isFacePainted: boolean;
  readonly isBackPainted: boolean;
  /** Id of the finish of its edge. */
  readonly sides?: string;
}

/** The material of a place with what its upright sides are made by. */
export interface Banded extends Material {
  readonly sides?: readonly SideBand[];
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
  const must = new Set<Contour>(layers.flatMap(({ isBehind, profile, contours }) => (isBehind && profile ? contours : [])));
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
  /** Where nothing but the bare blank is seen upright sides need not be told apart. */
  const hasSides =
    blank.sides !== undefined || layers.some(({ sides, operation }) => sides !== undefined || operation === 'insert');
  const weave = weaveSlopes(blank.contour, layers, fields, levelsBeside(layers, thickness), must);
  const { contours, embedded, constraints, mayMeet } = withoutHidden(weave, blank.contour, layers, thickness, {
    memory,
    hasSides,
  });
  const lines: (readonly Contour[])[] = [];
  for (const each of embedded) {
    each.plan = 1 + layers.length + lines.length;
    lines.push(
      each.pieces.flatMap(({ outline }) => outline),
      ...each.rings,
    );
  }
  const intersections = slopeIntersections(embedded, layers, mayMeet);
  intersections.forEach((intersection, i) => (intersection.layer = 1 + layers.length + lines.length + i));
  const fold = new ReliefFunction(layers, embedded, intersections, thickness);

  const materials: Banded[] = [];
  const labels = new Map<string, number>();
  const looksOf = ({ layer, marked }: Surface): string => {
    const isPainted = layer === FACE_LAYER ? blank.isFacePainted : blank.isBackPainted;
    const own = layer >= 0 ? finishesOf(layers[layer]) : isPainted ? 'painted' : '';
    return `${own} ${marked ?? ''}`;
  };
  const sideLooks = (layer: number): string => {
    if (layer < 0) return blank.sides ?? '';
    const { top, sides, isRidged, operation } = layers[layer];
    return `${(isRidged ? (top ?? sides) : sides) ?? ''}${operation === 'insert' ? ` of ${layer}` : ''}`;
  };
  const labelOf = (material: Material): number => {
    const { surface, under } = material;
    const sides = hasSides ? sideBandsOf(material, sideLooks) : undefined;
    const bands = sides?.map(({ to, layer }) => `${to} ${sideLooks(layer)}`).join() ?? '';
    const key = `${keyOf(surface)} ${looksOf(surface)} ${keyOf(under)} ${looksOf(under)} ${bands}`;
    let label = labels.get(key);
    if (label === undefined) {
      label = FIRST_PLACE + materials.length;
      labels.set(key, label);
      materials.push({ ...material, sides });
    }
    return label;
  };
  const overhanging = new Set<number>();
  const onBlank = new Set<number>();
  const effective = new Set<number>();
  const seen = new Set<number>();
  const grounds = new Map<number, number>();
  const notEmbedded: Contour[] = [];
  /** By label of a letter that keeps its slopes to itself, the layers that slope there. */
  const slopes = new Map<number, readonly number[]>();
  const met = new Map<string, readonly [number, number]>();
  /** Build order is layer order, and windings list their layers in that order. */
  const relief = (windings: Windings): number => {
    if (windings.length === 0) return OUTSIDE;
    if (windings[0] !== 0) {
      for (let i = 0; i < windings.length; i += 2) overhanging.add(windings[i] - 1);
      return OUTSIDE;
    }
    const value = fold.at(windings);
    for (const layer of value.present) onBlank.add(layer);
    for (const layer of value.effective) effective.add(layer);
    for (const { layer, z } of value.idle) {
      const own = layers[layer].isBehind ? -thickness - z : z;
      grounds.set(layer, Math.max(grounds.get(layer) ?? -Infinity, own));
    }
    for (const layer of value.notEmbedded) notEmbedded.push(...layers[layer].contours);
    if (value.met) met.set(value.met.join(), value.met);
    if (value.material) {
      for (const { layer, marked } of [value.material.surface, value.material.under])
        for (const each of [layer, marked]) if (each !== undefined) seen.add(each);
      const label = labelOf(value.material);
      if (value.material.surface.kind === 'profile') {
        const known = slopes.get(label) ?? [];
        slopes.set(label, [...known, ...value.present.filter((layer) => layers[layer].profile && !known.includes(layer))]);
      }
      return label;
    }
    return value.isOutside ? OUTSIDE : HOLE;
  };
  const isEmbedded = (label: number): boolean => {
    const material = materials[label - FIRST_PLACE];
    return material?.surface.kind === 'embedded' || material?.under.kind === 'embedded';
  };
  const arrangement = arrange([[blank.contour], ...contours, ...lines], relief, {
    segments: constraints,
    on: isEmbedded,
    memory,
    borders: intersections.map(({ layer, border }) => ({ layer, segments: border })),
  });
  // Where an edge of the plan runs along such slopes something does come near.
  for (const label of labelsOnEdges(arrangement.base))
    for (const layer of slopes.get(label) ?? []) notEmbedded.push(...layers[layer].contours);
  const made = new Map<Inset, PlacedSlopeMesh>();
  if (notEmbedded.length === 0) {
    for (const inset of arrangement.insets) {
      const material = materials[inset.inside - FIRST_PLACE];
      if (material?.surface.kind !== 'profile') continue;
      const { surface, under } = material;
      const placed = slopeMeshes.of(groundOf(inset.contours, layers[surface.layer]), surface.profile);
      // One that comes out at the back is embedded, so that a line stands where it does.
      const isInside = under.kind === 'level' && surface.profile.upTo(placed.slopeMesh.whole.deepest).low > under.z;
      if (placed.slopeMesh.isWhole && isInside) made.set(inset, placed);
      else notEmbedded.push(...inset.contours);
    }
  }
  return {
    arrangement,
    materials,
    slopeMeshes: made,
    standing: { overhanging, onBlank, effective, grounds, seen, met: [...met.values()] },
    notEmbedded,
  };
}

/** The labels on either side of edges of a plan. */
function labelsOnEdges({ left, right }: LabelledEdges): Set<number> {
  const labels = new Set<number>(left);
  for (const label of right) labels.add(label);
  return labels;
}

/** By layer, the levels of face, back and other layers that a slope of it may come to, as far as boxes tell. */
function levelsBeside(layers: readonly Layer[], thickness: number): (layer: number) => number[] {
  const boxes = layers.map(({ contours }) => bounds(contours));
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

/** What tells places of one surface apart. */
function finishesOf({ top, sides, operation, part, tier }: Layer): string {
  const finishes = top || sides ? `${top ?? ''} ${sides ?? ''}` : '';
  // Of another material.
  return operation === 'insert' || operation === 'back up' ? `${finishes} ${operation} ${part} ${tier}` : finishes;
}

function keyOf(surface: Surface): string {
  switch (surface.kind) {
    case 'level':
      return `${Math.round(surface.z / LEVEL_STEP)}`;
    case 'profile':
      return surface.profile.key;
    case 'embedded':
      return `${surface.embedded.layer} ${surface.band}`;
  }
}
