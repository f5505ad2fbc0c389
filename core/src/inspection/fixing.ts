import { intersection, union } from '../arrangement/index.js';
import { area, bounds, middleOfBox } from '../geometry/index.js';
import { type Evaluation, partsSeen } from '../relief/index.js';
import { type Part } from '../sign/index.js';
import { volumeOf } from '../solid/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm² that a hole takes of letters, from which on it is told. */
const LEAST = 0.05;
/** kg that a fixing carries. */
const KG = 4;

const areHoles = (part: Part): boolean =>
  part.kind === 'shape' &&
  !part.hidden &&
  (part.shape.kind === 'fixings' || part.shape.kind === 'circle') &&
  part.tiers.some(({ on, action }) => on && action.kind === 'cut-through');

/** Holes through what is read, and weight that is too much for them. */
export function fixingFindings(evaluation: Evaluation, limits: Limits): Finding[] {
  const plans = partsSeen(evaluation).map((plan) => ({ plan, part: evaluation.sign.parts.find(({ id }) => id === plan.id)! }));
  const holes = plans.filter(({ part }) => areHoles(part));
  const texts = plans.filter(({ part, plan }) => part.kind === 'text' && plan.role === 'made');
  return [
    ...holes.flatMap(({ plan, part }) =>
      texts.flatMap(({ plan: words, part: text }): Finding[] => {
        const [box, other] = [plan.ink, words.ink];
        if (!box || !other || box.minX > other.maxX || other.minX > box.maxX || box.minY > other.maxY || other.minY > box.maxY)
          return [];
        const common = intersection(union(plan.area), union(words.area));
        const mm2 = area(common);
        if (mm2 < LEAST) return [];
        const place = middleOfBox(bounds(common)!);
        return [{ check: 'hole-in-words', text: `${part.name} takes ${mm2.toFixed(1)} mm² out of ${text.name}.`, measured: mm2, limit: 0, places: [place], part: part.id, others: [text.id] }]; // prettier-ignore
      }),
    ),
    ...heavy(
      evaluation,
      limits,
      holes.reduce((sum, { plan }) => sum + plan.area.contours.length, 0),
    ),
  ];
}

function heavy(evaluation: Evaluation, { density }: Limits, holes: number): Finding[] {
  if (density === undefined || holes === 0) return [];
  const kg = volumeOf(evaluation) * density * 1e-9;
  if (kg <= KG * holes) return [];
  const text = `The sign weighs ${kg.toFixed(1)} kg and has ${holes === 1 ? 'one hole' : `${holes} holes`} for fixings: ${KG} kg for each are usual.`;
  return [{ check: 'heavy-for-holes', text, measured: kg / holes, limit: KG, places: [] }];
}
