import { offset, union } from '../arrangement/index.js';
import { type Drawing, INK, type Item } from '../drawing/index.js';
import { bounds, type Outline, reversed } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { coneRadius } from '../tooling/index.js';

/** How pockets and the plugs that fill them are cut. Lengths in mm. */
export interface InlayChoice {
  /** Room for glue: beside a straight plug all round, under the tip of one that was cut with a vee bit. */
  readonly gap: number;
  /** Included angle of the vee bit that both are cut with, in degrees; 0: straight sides. */
  readonly angle: number;
  /** Of a pocket that is cut with a vee bit. */
  readonly depth: number;
  /** Radius of a turning tool, which makes no sharp inner corners: those of pocket and plug are rounded alike. 0 for a beam or a blade. */
  readonly radius: number;
}

/** Usual inlays (common practice, no source). */
export const USUAL_INLAY: InlayChoice = { gap: 0.1, angle: 0, depth: 5, radius: 0 };

/** An inlay with nothing in it, or one that the vee bit cannot cut, in words for the person who asked for it. */
export class InlayError extends Error {}

/**
 * Pockets and plugs of every window that is filled with another material, from one outline: each as a layer of its own, plugs that are cut
 * with a vee bit mirrored, since they are turned over into their pockets.
 * @throws InlayError where nothing is filled, or the glue gap is deeper than the pocket
 */
export function inlayDrawing({ layers, sign, blank }: Evaluation, choice: InlayChoice): Drawing {
  const { gap, angle, depth, radius } = choice;
  const filled = layers.flatMap(({ operation, area, part }) =>
    operation === 'insert' ? [{ area: union(area.contours), part }] : [],
  );
  if (filled.length === 0)
    throw new InlayError('Nothing of this sign is filled with another material: make a window an insert first.');
  if (angle > 0 && gap >= depth)
    throw new InlayError(`A glue gap of ${gap} mm leaves nothing of a pocket of ${depth} mm: make it less than the depth.`);
  const items: Item[] = [];
  const add = (layer: string, outline: Outline): void => {
    if (outline.length > 0) items.push({ kind: 'area', layer, outline, pen: { width: 0.1, colour: INK } });
  };
  // At a depth a vee bit is so much narrower on either side.
  const aside = (below: number): number => coneRadius({ angle, tip: 0 }, below);
  filled.forEach(({ area, part }, i) => {
    const name = `${i + 1} ${sign.parts.find(({ id }) => id === part)?.name ?? part}`;
    const outline = rounded(area, radius);
    if (angle === 0) {
      add(`pocket ${name}`, outline);
      add(`plug ${name}`, gap > 0 ? offset(outline, -gap) : outline);
      return;
    }
    add(`pocket ${name} at the face`, outline);
    add(`pocket ${name} floor`, offset(outline, -aside(depth)));
    add(`plug ${name} at the face (mirrored)`, mirrored(outline));
    add(`plug ${name} tip (mirrored)`, mirrored(offset(outline, -aside(depth - gap))));
  });
  const rings = items.flatMap((item) => (item.kind === 'area' ? item.outline : []));
  return { items, bounds: bounds(rings) ?? bounds([blank])! };
}

/** An outline whose corners a disc of a radius comes into, from inside and from outside. */
const rounded = (outline: Outline, radius: number): Outline =>
  radius > 0 ? offset(offset(offset(outline, -radius), 2 * radius), -radius) : outline;

const mirrored = (outline: Outline): Outline => outline.map((ring) => reversed(ring.map((mm, i) => (i % 2 === 0 ? -mm : mm))));
