import { arrange, type Arrangement, type Contour, type Inset, type Windings } from '../outline/index.js';
import { type Sign, THROUGH } from '../sign/index.js';
import { crossingsOf } from './crossings.js';
import { Fold, LEVEL_STEP, type Surface } from './fold.js';
import type { Layer } from './layers.js';
import type { Patches, PlacedPatch } from './patches.js';
import type { Ramp } from './ramp.js';
import { BANDS, type Fields, weave } from './weave.js';

/** Labels of the relief's plan: outside the blank, cut through, and from 2 on the places with material. */
export const OUTSIDE = 0;
export const HOLE = 1;
export const FIRST_PLACE = 2;

/** Whether a label of the plan is a place with material. */
export const isSolid = (label: number): boolean => label >= FIRST_PLACE;

/** The plan of a relief as it was laid: places by label, and what had an effect. */
export interface Laid {
  readonly arrangement: Arrangement;
  readonly surfaces: readonly Surface[];
  readonly patches: ReadonlyMap<Inset, PlacedPatch>;
  readonly overhanging: ReadonlySet<number>;
  readonly onBlank: ReadonlySet<number>;
  readonly effective: ReadonlySet<number>;
  /** Contours that must be woven after all; the rest does not count then. */
  readonly unwoven: readonly Contour[];
}

/** The relief function on the places of the plan. */
export function layOut(sign: Sign, blank: Contour, layers: readonly Layer[], fields: Fields, patches: Patches): Laid {
  const must = new Set<Contour>();
  for (;;) {
    const laid = lay(sign, blank, layers, must, fields, patches);
    const fresh = laid.unwoven.filter((contour) => !must.has(contour));
    if (fresh.length === 0) return laid;
    for (const contour of fresh) must.add(contour);
  }
}

function lay(
  sign: Sign,
  blank: Contour,
  layers: readonly Layer[],
  must: ReadonlySet<Contour>,
  fields: Fields,
  patches: Patches,
): Laid {
  const { thickness } = sign.blank;
  const heights = layers
    .flatMap(({ z, ramp, does }) => (z === THROUGH || does === 'mark' ? [] : ramp ? [z, ramp.start] : [z]))
    .filter(isNear);
  const step = Math.max(1, ...heights.map(Math.abs)) / BANDS;
  const { contours, woven, creases } = weave(layers, fields, [0, -thickness, ...heights], step, must);
  const lines: (readonly Contour[])[] = [];
  for (const each of woven) {
    each.plan = 1 + layers.length + lines.length;
    lines.push(
      each.pieces.flatMap(({ outline }) => outline),
      ...each.rings,
    );
  }
  const crossings = crossingsOf(woven);
  crossings.forEach((crossing, i) => (crossing.layer = 1 + layers.length + lines.length + i));
  const fold = new Fold(layers, woven, crossings, thickness);

  const surfaces: Surface[] = [];
  const labels = new Map<string, number>();
  const labelOf = (surface: Surface): number => {
    const key = `${keyOf(surface)} ${looksOf(sign, layers[surface.layer])} ${surface.marked ?? ''}`;
    let label = labels.get(key);
    if (label === undefined) {
      label = FIRST_PLACE + surfaces.length;
      labels.set(key, label);
      surfaces.push(surface);
    }
    return label;
  };
  const overhanging = new Set<number>();
  const onBlank = new Set<number>();
  const effective = new Set<number>();
  const unwoven: Contour[] = [];
  /** Build order is layer order, and windings list their layers in that order. */
  const relief = (windings: Windings): number => {
    if (windings.length === 0) return OUTSIDE;
    if (windings[0] !== 0) {
      for (let i = 0; i < windings.length; i += 2) overhanging.add(windings[i] - 1);
      return OUTSIDE;
    }
    const folded = fold.at(windings);
    for (const layer of folded.present) onBlank.add(layer);
    for (const layer of folded.effective) effective.add(layer);
    for (const layer of folded.unwoven) unwoven.push(...layers[layer].contours);
    return folded.surface ? labelOf(folded.surface) : HOLE;
  };
  const isWoven = (label: number): boolean => surfaces[label - FIRST_PLACE]?.kind === 'woven';
  const arrangement = arrange([[blank], ...contours, ...lines], relief, {
    segments: creases,
    on: isWoven,
    borders: crossings.map(({ layer, border }) => ({ layer, segments: border })),
  });
  const made = new Map<Inset, PlacedPatch>();
  if (unwoven.length === 0) {
    for (const inset of arrangement.insets) {
      const surface = surfaces[inset.inside - FIRST_PLACE];
      if (surface?.kind !== 'ramp') continue;
      const placed = patches.of(inset.contours, surface.ramp);
      // One that comes out at the back is woven, so that a line stands where it does.
      if (placed.patch.isWhole && lowestOf(surface.ramp, placed.patch.deepest) > -thickness) made.set(inset, placed);
      else unwoven.push(...inset.contours);
    }
  }
  return { arrangement, surfaces, patches: made, overhanging, onBlank, effective, unwoven };
}

const lowestOf = (ramp: Ramp, deepest: number): number =>
  Math.min(ramp.start, ramp.at(deepest), ...ramp.heights.filter((_, i) => ramp.distances[i] <= deepest));

const isNear = (z: number): boolean => Math.abs(z) < 4000;

/** What tells places of one surface apart: their finishes, and the painted face from what was brought to its level. */
function looksOf({ blank }: Sign, layer: Layer | undefined): string {
  if (!layer) return blank.finish ? 'face' : '';
  return layer.top || layer.sides ? `${layer.top ?? ''} ${layer.sides ?? ''}` : '';
}

function keyOf(surface: Surface): string {
  switch (surface.kind) {
    case 'level':
      return `${Math.round(surface.z / LEVEL_STEP)}`;
    case 'ramp':
      return surface.ramp.key;
    case 'woven':
      return `${surface.woven.layer} ${surface.band}`;
  }
}
