import { difference, intersection, offset, ringsOf, union } from '../arrangement/index.js';
import { area, bounds, contourArea, type Outline, STEPS_PER_MM } from '../geometry/index.js';
import { Widths } from '../medial-axis/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Evaluation, isSolid, placeOf, type Surface } from '../relief/index.js';
import { planeSection } from '../solid/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm² of a place that is told. */
const LEAST = 0.05;
/** mm² of a place that is marked, and how many are. */
const LEAST_PLACE = 0.02;
const MOST_PLACES = 20;
/** Times the radius of a disc by which a tip reaches beyond it that counts as a stroke, or a gap: it is sharper than 29°. */
const TIP = 3;
/** mm around dots that balls are turned between, not end mills. */
const AROUND_DOTS = 0.2;
/** mm by which levels that are one may differ, and mm of an edge between two that is seen. */
const SAME = 1e-6;
const SEEN_MM = 1;

/** What lies between two neighbouring levels: which of the plan is material there. */
interface Slab {
  readonly from: number;
  readonly to: number;
  readonly material: Outline;
}

/** What tools do not reach and what material does not bear, between the heights of a solid. */
export function makingFindings(evaluation: Evaluation, solid: Mesh, limits: Limits): Finding[] {
  const slabs = slabsOf(evaluation, solid);
  return [...gaps(evaluation, slabs, limits), ...strokes(evaluation, slabs, limits), ...steps(evaluation, limits)];
}

function slabsOf({ levels, sign }: Evaluation, solid: Mesh): Slab[] {
  const heights = [...levels].sort((a, b) => a.z - b.z).map(({ z }) => z);
  const all = [-sign.blank.thickness, ...heights];
  return all.slice(1).flatMap((to, i): Slab[] => {
    const from = all[i];
    if (to - from <= SAME) return [];
    const material = planeSection(solid, 2, (from + to) / 2);
    return material.length > 0 ? [{ from, to, material }] : [];
  });
}

/** Places that the smallest tool does not come into, between what stands and in what is carved or cut through. */
function gaps(evaluation: Evaluation, slabs: readonly Slab[], { tool }: Limits): Finding[] {
  const { arrangement, sign } = evaluation;
  const { unit } = sign;
  const footprint = ringsOf(arrangement, isSolid);
  const box = bounds(footprint);
  if (!box) return [];
  const [low, high] = [-2 * tool, 2 * tool];
  // Around the sign there is room for any tool.
  const frame = Float64Array.of(box.minX + low, box.minY + low, box.maxX + high, box.minY + low, box.maxX + high, box.maxY + high, box.minX + low, box.maxY + high); // prettier-ignore
  const dotted = dottedPlaces(evaluation, tool);
  let worst: { readonly narrow: Outline; readonly widths: Widths; readonly open: Outline; readonly slab: Slab } | undefined;
  let most = LEAST;
  for (const slab of slabs) {
    const open = difference([frame], slab.material);
    const widths = new Widths(open, tool, TIP);
    const narrow = difference(widths.narrowerThan(tool), dotted);
    const mm2 = area(narrow);
    if (mm2 < most) continue;
    [most, worst] = [mm2, { narrow, widths, open, slab }];
  }
  if (!worst) return [];
  const { narrow, widths, slab } = worst;
  const measured = widths.least() ?? tool;
  const cleared = area(intersection(worst.open, footprint));
  const share = cleared > 0 ? (100 * area(narrow)) / cleared : 100;
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  const where = slab.from >= 0 ? 'between what is raised' : 'in what is carved or cut through';
  return [
    {
      check: 'narrow-gap',
      text: `An end mill of ${length(tool)} does not pass ${where}: the narrowest place is about ${length(measured)} wide, and ${share.toFixed(1)} % of what is to be cleared there (${area(narrow).toFixed(1)} mm²) is not reached by it.`,
      measured,
      limit: tool,
      places: middlesOf(narrow),
    },
  ];
}

/** What lies between the dots of braille: they are cut by balls of their own. */
function dottedPlaces({ sign, parts }: Evaluation, tool: number): Outline {
  const dots = sign.parts.flatMap((part) =>
    part.kind === 'shape' && part.shape.kind === 'braille' ? (parts.find(({ id }) => id === part.id)?.area.contours ?? []) : [],
  );
  return dots.length === 0 ? [] : offset(union(dots), tool + AROUND_DOTS);
}

function strokes({ sign: { unit } }: Evaluation, slabs: readonly Slab[], limits: Limits): Finding[] {
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  const thinnest = (check: 'thin-stroke' | 'thin-wall', which: readonly Slab[], limit: number, what: string): Finding[] => {
    let [found, most]: [Finding | undefined, number] = [undefined, LEAST];
    for (const { material } of which) {
      const widths = new Widths(material, limit, TIP);
      const thin = widths.narrowerThan(limit);
      if (area(thin) < most) continue;
      most = area(thin);
      const measured = widths.least() ?? limit;
      const text = `${what} are thinner than ${length(limit)}: the thinnest about ${length(measured)}, ${most.toFixed(1)} mm² in all.`;
      found = { check, text, measured, limit, places: middlesOf(thin) };
    }
    return found ? [found] : [];
  };
  const raised = slabs.filter(({ from }) => from >= -SAME);
  return [
    ...thinnest('thin-stroke', raised, limits.leastStroke, 'Raised strokes'),
    ...thinnest('thin-wall', slabs.filter((slab) => !raised.includes(slab)), limits.leastWall, 'Walls between carved places, holes and edges'), // prettier-ignore
    ...tallStrokes(slabs, limits, length),
  ];
}

/** Strokes from a ground up to a level that are narrower than their height allows. */
function tallStrokes(slabs: readonly Slab[], { slenderness }: Limits, length: (mm: number) => string): Finding[] {
  let [found, worst]: [Finding | undefined, number] = [undefined, slenderness];
  slabs.forEach((ground, i) => {
    // What stands on the back is the blank itself.
    if (i === 0) return;
    for (const top of slabs.slice(i)) {
      const height = top.to - ground.from;
      const limit = height / slenderness;
      const widths = new Widths(ground.material, limit, TIP);
      const thin = intersection(widths.narrowerThan(limit), top.material);
      if (area(thin) < LEAST) continue;
      const width = widths.least() ?? limit;
      const measured = height / width;
      if (measured <= worst) continue;
      worst = measured;
      const text = `Strokes of about ${length(width)} stand ${length(height)} high, ${measured.toFixed(1)} times their width: from ${slenderness} times on they snap off.`;
      found = { check: 'tall-stroke', text, measured, limit: slenderness, places: middlesOf(thin) };
    }
  });
  return found ? [found] : [];
}

const levelOf = (surface: Surface | undefined): number | undefined => (surface?.kind === 'level' ? surface.z : undefined);

/** Neighbouring levels that differ by so little that it is not seen. */
function steps(evaluation: Evaluation, { leastStep }: Limits): Finding[] {
  const { edges } = evaluation.arrangement;
  const heightOf = (label: number): number | undefined => levelOf(placeOf(evaluation, label)?.surface);
  const found = new Map<number, { step: number; length: number; x: number; y: number }>();
  for (let e = 0; e < edges.lo.length; e++) {
    const [a, b] = [heightOf(edges.left[e]), heightOf(edges.right[e])];
    if (a === undefined || b === undefined) continue;
    const step = Math.abs(a - b);
    if (step <= SAME || step >= leastStep - SAME) continue;
    const [lo, hi] = [edges.lo[e], edges.hi[e]];
    const key = Math.round(step * 1e4);
    const sum = found.get(key) ?? { step, length: 0, x: edges.x[lo] / STEPS_PER_MM, y: edges.y[lo] / STEPS_PER_MM };
    sum.length += Math.hypot(edges.x[hi] - edges.x[lo], edges.y[hi] - edges.y[lo]) / STEPS_PER_MM;
    found.set(key, sum);
  }
  const { unit } = evaluation.sign;
  return [...found.values()]
    .filter(({ length }) => length >= SEEN_MM)
    .sort((a, b) => a.step - b.step)
    .map(({ step, x, y }) => ({
      check: 'small-step',
      text: `A step of ${formatLength(Number(step.toFixed(3)), unit)} is too small to be seen: make it ${formatLength(leastStep, unit)} or more, or nothing.`,
      measured: step,
      limit: leastStep,
      places: [{ x, y }],
    }));
}

/** The middles of the largest pieces. */
function middlesOf(outline: Outline): Finding['places'] {
  return outline
    .filter((ring) => contourArea(ring) >= LEAST_PLACE)
    .sort((a, b) => contourArea(b) - contourArea(a))
    .slice(0, MOST_PLACES)
    .map((ring) => {
      const { minX, minY, maxX, maxY } = bounds([ring])!;
      return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
    });
}
