import { contains, type Contour, gapBetween } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import { type Evaluation, mirroredRing, type PartPlan, type Rung } from '../relief/index.js';
import { type LengthUnit } from '../units/index.js';
import { brailleNotes } from './braille-notes.js';
import { type Part, sideOf, THROUGH, type Tier } from '../sign/index.js';

/** What is told of a part by itself. */
export function partNotes(evaluation: Evaluation, plan: PartPlan): Note[] {
  const part = evaluation.sign.parts.find(({ id }) => id === plan.id)!;
  const at = { part: part.id };
  switch (plan.role) {
    case 'source':
      return [...plan.notes];
    case 'hidden':
      return [note('hidden', at, part.name)];
    case 'too far':
      return [note('too-far', at, part.name)];
    case 'made': {
      const rungs = evaluation.rungs.filter((rung) => rung.part === part.id);
      const ofTiers = rungs.flatMap((rung) => tierNotes(evaluation, part, plan, rung));
      return [
        ...plan.notes,
        ...(part.kind === 'shape' && part.shape.kind === 'braille' ? brailleNotes(part, part.shape, evaluation.sign) : []),
        ...(rungs.length === 0 ? [note('no-tiers', at, part.name)] : ofTiers),
        ...edgeNotes(evaluation, part, plan.area.contours),
      ];
    }
  }
}

function tierNotes({ sign, layers }: Evaluation, part: Part, { strokes }: PartPlan, rung: Rung): Note[] {
  const tier = part.tiers.find(({ id }) => id === rung.tier)!;
  const at = { part: part.id, tier: tier.id };
  const out: Note[] = [];
  const { thickness } = sign.blank;
  const { z, short, swallowed } = rung;
  const deepest = short ? short.highest : z;
  if (z !== THROUGH && tier.action.kind !== 'mark' && deepest <= -thickness)
    out.push(note('through-back', at, part.name, -deepest, thickness, sign.unit));
  if (strokes.length > 0 && tier.action.kind !== 'line') out.push(note('open-strokes', at, part.name, part.kind === 'text'));
  if (swallowed) {
    const { reach, count, largest, x, y } = swallowed;
    const isAnythingLeft = layers.some((layer) => layer.part === part.id && layer.tier === tier.id && !layer.area.isEmpty);
    if (isAnythingLeft) out.push(note('area-loses', { ...at, x, y }, part.name, reach, count, largest, sign.unit));
    else out.push(note('offset-swallowed', { ...at, x, y }, part.name, reach, largest, sign.unit));
  }
  if (short) out.push(shortNote(tier, part, short, sign.unit));
  return out;
}

/** That strokes are too narrow for a slope to come to its height. */
function shortNote(
  { id, edge }: Tier,
  part: Part,
  { highest, full, lowest }: NonNullable<Rung['short']>,
  unit: LengthUnit,
): Note {
  const at = { part: part.id, tier: id };
  if (edge?.kind === 'ridged' && !edge.capped) return note('ridge-height', at, part.name, highest, unit);
  return note('slope-short', at, part.name, full, lowest, unit);
}

/** A hole nearer to the edge than its own width may break out (common practice, no source). */
function edgeNotes({ sign: { unit }, side, blank }: Evaluation, part: Part, contours: readonly Contour[]): Note[] {
  if (part.kind !== 'shape' || !part.tiers.some(({ on, action }) => on && action.kind === 'cut-through')) return [];
  const { shape } = part;
  if (shape.kind !== 'circle' && shape.kind !== 'fixings') return [];
  const own = sideOf(part) === side ? blank : mirroredRing(blank);
  const inside = contours.filter((hole) => contains([own], hole[0], hole[1]));
  const left = Math.min(...inside.map((hole) => gapBetween([hole], [own], 'edges')));
  return left > 0 && left < shape.diameter ? [note('near-edge', { part: part.id }, part.name, left, shape.diameter, unit)] : [];
}
