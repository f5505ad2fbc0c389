import { offset } from '../arrangement/index.js';
import { type Drawing, INK, type Item } from '../drawing/index.js';
import { bounds, type Outline, reversed } from '../geometry/index.js';
import { type Evaluation, placeOf, regionOf, surfaceFinishOf } from '../relief/index.js';
import { finishOf } from '../sign/index.js';

/** How masks are cut. Lengths in mm. */
export interface MaskChoice {
  /** By which openings are larger than what is painted: the mask then lies off its edge. Below 0 they are smaller. */
  readonly choke: number;
  readonly isMirrored: boolean;
  /** Width of the border around all of it that is weeded; none at 0. */
  readonly border: number;
}

/** Usual masks for paint fill (common practice, no source). */
export const USUAL_MASK: MaskChoice = { choke: 0.3, isMirrored: false, border: 10 };

/**
 * The masks that a sign is painted through: the openings of every finish that level places wear, each on a layer of its own, with a border
 * to weed by; mirrored where the film is cut from its back.
 */
export function maskDrawing(evaluation: Evaluation, { choke, isMirrored, border }: MaskChoice): Drawing {
  const byFinish = new Map<string, number[]>();
  for (const level of evaluation.levels) {
    for (const label of level.labels) {
      const { finish } = surfaceFinishOf(evaluation, placeOf(evaluation, label)!.surface, false, level.z);
      if (finish !== undefined) byFinish.set(finish, [...(byFinish.get(finish) ?? []), label]);
    }
  }
  const turned = (outline: Outline): Outline => (isMirrored ? outline.map((ring) => reversed(ring.map((mm, i) => (i % 2 === 0 ? -mm : mm)))) : outline); // prettier-ignore
  const pen = { width: 0.1, colour: INK };
  const { minX, minY, maxX, maxY } = bounds([evaluation.blank])!;
  const items = [...byFinish].map(([finish, labels]): Item => {
    const area = regionOf(evaluation, ...labels);
    const outline = turned(choke === 0 ? area : offset(area, choke));
    return { kind: 'area', layer: `mask ${finishOf(evaluation.sign, finish)?.name ?? finish}`, outline, pen };
  });
  const edge = border > 0 && items.length > 0 ? [[minX, minY, maxX, minY, maxX, maxY, minX, maxY].map((mm, i) => (i % 2 === 0 ? (mm === minX ? minX - border : maxX + border) : mm === minY ? minY - border : maxY + border))] : []; // prettier-ignore
  const outline = turned(edge.map((ring) => Float64Array.from(ring)));
  const all = outline.length > 0 ? [...items, { kind: 'area', layer: 'border', outline, pen } as const] : items;
  const rings = all.flatMap((item) => (item.kind === 'area' ? item.outline : []));
  return { items: all, bounds: bounds(rings) ?? bounds([evaluation.blank])! };
}
