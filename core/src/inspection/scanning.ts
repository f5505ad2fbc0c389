import { symbologyOf } from '../codes/index.js';
import { middleOfBox, radians } from '../geometry/index.js';
import { type ReliefMesh } from '../mesh/index.js';
import { type Evaluation, type PartPlan, partsSeen } from '../relief/index.js';
import { type CodeShape, extentOfCodeShape, lightReflectance, type ShapePart, symbolOfShape } from '../sign/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';
import { contrastRatio, type Worn, wornBy } from './reading.js';

/** mm of a module that a reader in the hand tells (common practice, no source). */
const LEAST_MODULE = 0.33;
/** Modules that a code may be raised or sunk by: beyond that modules lie in each other’s shadow (core/testing/codes-sweep.mjs). */
const MOST_HEIGHT = 0.5;
/** Contrast of dark and light (ratio of WCAG 2; of codes common practice, no source). */
const LEAST_CONTRAST = 3;
const SAME = 1e-6;

interface Coded {
  readonly part: ShapePart;
  readonly shape: CodeShape;
  readonly plan: PartPlan;
}

/** Whether codes can be scanned: their modules, what is around them, how high they are and what they wear. */
export function scanningFindings(evaluation: Evaluation, solid: ReliefMesh, limits: Limits): Finding[] {
  const codes = partsSeen(evaluation).flatMap((plan): Coded[] => {
    const part = evaluation.sign.parts.find(({ id }) => id === plan.id);
    if (part?.kind !== 'shape' || part.shape.kind !== 'code' || plan.role !== 'made' || !plan.ink) return [];
    return [{ part, shape: part.shape, plan }];
  });
  if (codes.length === 0) return [];
  const worn = wornBy(evaluation, solid, codes.map(({ part }) => part)); // prettier-ignore
  return codes.flatMap((code) => [
    ...modules(code, evaluation, limits),
    ...heights(code, evaluation),
    ...quietZone(code, evaluation),
    ...contrast(
      code,
      worn.find(({ part }) => part === code.part),
    ),
  ]);
}

const at = ({ part, plan }: Coded): Pick<Finding, 'part' | 'places'> => ({ part: part.id, places: [middleOfBox(plan.ink!)] });

/** Whether a tier takes material away or leaves it standing: then a mill has to pass between modules. */
const isFormed = ({ tiers }: ShapePart): boolean => tiers.some(({ on, action }) => on && action.kind !== 'mark');

function modules(code: Coded, { sign }: Evaluation, { tool }: Limits): Finding[] {
  const { module } = code.shape;
  const isMilled = isFormed(code.part) && tool > LEAST_MODULE;
  const limit = isMilled ? tool : LEAST_MODULE;
  if (module >= limit - SAME) return [];
  const length = (mm: number): string => formatLength(Number(mm.toFixed(3)), sign.unit);
  const why = isMilled ? `an end mill of ${length(tool)} does not make them` : `a reader in the hand tells them from ${length(limit)} on`; // prettier-ignore
  return [{ check: 'small-modules', text: `${code.part.name}: its modules are ${length(module)}; ${why}.`, measured: module, limit, ...at(code) }]; // prettier-ignore
}

function heights(code: Coded, { sign, rungs }: Evaluation): Finding[] {
  const { module } = code.shape;
  const tallest = Math.max(
    0,
    ...code.part.tiers.flatMap(({ on, action, id }) => {
      if (!on || action.kind === 'cut-through') return [];
      if (action.kind === 'raise' || action.kind === 'carve') return [action.by];
      const rung = action.kind === 'set' ? rungs.find((each) => each.part === code.part.id && each.tier === id) : undefined;
      return rung && Number.isFinite(rung.z) ? [Math.abs(rung.z)] : [];
    }),
  );
  const measured = tallest / module;
  if (measured <= MOST_HEIGHT + SAME) return [];
  const length = (mm: number): string => formatLength(Number(mm.toFixed(3)), sign.unit);
  const text = `${code.part.name}: modules of ${length(module)} stand or lie ${length(tallest)} off their ground and shade each other: at most ${length(MOST_HEIGHT * module)}.`;
  return [{ check: 'tall-modules', text, measured, limit: MOST_HEIGHT, ...at(code) }];
}

/** How much of the quiet zone is free, by the side on which the least is. Copies are not looked at: each has another place. */
function quietZone(code: Coded, evaluation: Evaluation): Finding[] {
  const { part, shape } = code;
  if (part.copies || 'fault' in symbolOfShape(shape)) return [];
  const { before, after, along } = symbologyOf(shape.symbology).quiet;
  const { width, height } = extentOfCodeShape(shape);
  const { x, y, turn, mirror } = part.place;
  const [cos, sin] = [Math.cos(radians(turn)), Math.sin(radians(turn))];
  /** Which share of the quiet zone lies between a point and the code; 1 and more outside of it. */
  const shareAt = (px: number, py: number): number => {
    const [dx, dy] = [px - x, py - y];
    const across = (dx * cos + dy * sin) * (mirror ? -1 : 1);
    const beside = Math.abs(across) - width / 2;
    const beyond = Math.abs(dy * cos - dx * sin) - height / 2;
    const quiet = (across < 0 ? before : after) * shape.module;
    return Math.max(beside / quiet, along > 0 ? beyond / (along * shape.module) : beyond > 0 ? Infinity : -Infinity);
  };
  const reach = Math.hypot(width, height) / 2 + Math.max(before, after, along) * shape.module;
  let [least, by]: [number, string | undefined] = [1, undefined];
  const look = (rings: readonly Float64Array[], name: string, isClosed = true): void => {
    for (const ring of rings)
      for (let i = isClosed ? 0 : 2, j = isClosed ? ring.length - 2 : 0; i < ring.length; j = i, i += 2) {
        const share = leastAlong(ring[j], ring[j + 1], ring[i], ring[i + 1], x, y, reach, shareAt);
        if (share < least - 1e-4) [least, by] = [share, name];
      }
  };
  look([evaluation.blank], 'the edge of the blank');
  for (const plan of partsSeen(evaluation)) {
    const other = evaluation.sign.parts.find(({ id }) => id === plan.id);
    if (plan.id === part.id || plan.role !== 'made' || !other) continue;
    look(plan.area.contours, other.name);
    look(plan.strokes.map(({ points }) => points), other.name, false); // prettier-ignore
  }
  if (by === undefined) return [];
  const limit = Math.max(before, along);
  const measured = Math.max(0, least) * limit;
  const text = `${part.name}: ${by} comes into the ground that has to be free around it: ${measured.toFixed(1)} of ${limit} modules are.`;
  return [{ check: 'quiet-zone', text, measured, limit, about: by, ...at(code) }];
}

/** The least of a convex function along a segment, by thirds; 1 where the segment is far away. */
function leastAlong(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  x: number,
  y: number,
  reach: number,
  shareAt: (x: number, y: number) => number,
): number {
  if (Math.min(ax, bx) > x + reach || Math.max(ax, bx) < x - reach || Math.min(ay, by) > y + reach || Math.max(ay, by) < y - reach) return 1; // prettier-ignore
  const along = (t: number): number => shareAt(ax + t * (bx - ax), ay + t * (by - ay));
  let [from, to] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const [a, b] = [from + (to - from) / 3, to - (to - from) / 3];
    if (along(a) <= along(b)) to = b;
    else from = a;
  }
  return along((from + to) / 2);
}

/** What most dark and most light modules wear; of such that are cut through there is nothing to see. */
function contrast(code: Coded, worn: Worn | undefined): Finding[] {
  const { part, shape } = code;
  if (!worn && part.tiers.every(({ on, action }) => !on || action.kind === 'cut-through')) return [];
  const told = (measured: number, text: string): Finding[] => [
    { check: 'faint-code', text: `${part.name}: ${text}`, measured, limit: LEAST_CONTRAST, ...at(code) },
  ];
  if (!worn || worn.on.id === worn.behind.id)
    return told(1, 'dark and light modules wear one finish: a reader tells them by their shadows at best.');
  const [dark, light] = shape.ground ? [worn.behind, worn.on] : [worn.on, worn.behind];
  const ratio = contrastRatio(dark.colour, light.colour);
  if (lightReflectance(dark.colour) > lightReflectance(light.colour))
    return told(1 / ratio, `${dark.name} on ${light.name} is light on dark, which many readers do not take.`);
  return ratio < LEAST_CONTRAST ? told(ratio, `${dark.name} on ${light.name} has a contrast of ${ratio.toFixed(1)} to 1; a code wants ${LEAST_CONTRAST} to 1.`) : []; // prettier-ignore
}
