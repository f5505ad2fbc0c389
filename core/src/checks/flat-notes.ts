import { type Note, note } from '../notes/index.js';
import { type Evaluation, heightOf, isInPlane, type Place } from '../relief/index.js';
import { type Sign, sideOf, isFlat } from '../sign/index.js';
import { STEPS_PER_MM } from '../geometry/index.js';

/** mm beyond the face from which a flat level is told to cross it. */
const LEAST_CROSSED = 0.05;
/** mm within which a level counts as held back by the other side. */
const HELD = 1e-6;

/** What is found of a part's levels in planes. */
interface Found {
  isFar: boolean;
  isHeldBack: boolean;
  /** mm by which what is carved stands above the face, and what is raised lies below it. */
  above: number;
  below: number;
}

/** What is told of levels in planes: where those leave the surface, come out behind, or turn too far away from it; and what they make upright. */
export function flatNotes(evaluation: Evaluation): Note[] {
  const { sign, layers, side } = evaluation;
  const byPart = foundByPart(evaluation);
  const sloped = new Set(
    layers.flatMap(({ plane, part, tier }) => (plane && !plane.isBehind && hasEdge(sign, part, tier) ? [part] : [])),
  );
  return sign.parts.flatMap((part): Note[] => {
    if (sideOf(part) !== side) return [];
    const { id, name } = part;
    const found = byPart.get(id);
    const notes: Note[] = sloped.has(id) ? [note('support-flat-upright', { part: id }, name)] : [];
    if (!found) return notes;
    if (found.isFar) notes.push(note('support-flat-far', { part: id }, name));
    if (found.isHeldBack) notes.push(note('support-flat-back', { part: id }, name));
    // What stands on a level of another part does as that does.
    if (!part.tiers.some((tier) => tier.on && isFlat(tier))) return notes;
    const { above, below } = found;
    if (!found.isFar && Math.max(above, below) > LEAST_CROSSED)
      notes.push(note('support-flat-crosses', { part: id }, name, above >= below, Math.max(above, below), sign.unit));
    return notes;
  });
}

const hasEdge = (sign: Sign, part: string, tier: string): boolean =>
  sign.parts.find(({ id }) => id === part)?.tiers.find(({ id }) => id === tier)?.edge !== undefined;

/** What the corners of places in planes show, by the part that made them. */
function foundByPart({ arrangement, places, layers, sign }: Evaluation): ReadonlyMap<string, Found> {
  const byLabel = new Map<number, Place>();
  for (const place of places) if (isInPlane(place.surface)) byLabel.set(place.label, place);
  const found = new Map<string, Found>();
  if (byLabel.size === 0) return found;
  const { x, y, lo, hi, left, right } = arrangement.edges;
  for (let e = 0; e < lo.length; e++) {
    for (const label of new Set([left[e], right[e]])) {
      const { surface, under } = byLabel.get(label) ?? {};
      if (!surface || !under || !isInPlane(surface)) continue;
      const { part } = layers[surface.layer];
      const own = found.get(part) ?? { isFar: false, isHeldBack: false, above: 0, below: 0 };
      found.set(part, own);
      for (const v of [lo[e], hi[e]]) {
        if (surface.plane.isBeyond(x[v] / STEPS_PER_MM, y[v] / STEPS_PER_MM)) own.isFar = true;
        const free = surface.plane.heightAt(x[v] / STEPS_PER_MM, y[v] / STEPS_PER_MM, surface.z);
        if (free < heightOf(under, x[v], y[v]) + HELD || free < -sign.blank.thickness) own.isHeldBack = true;
        else if (surface.z < 0) own.above = Math.max(own.above, free);
        else if (surface.z > 0) own.below = Math.max(own.below, -free);
      }
    }
  }
  return found;
}
