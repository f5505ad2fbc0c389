import { intersection, ringsOf, union } from '../arrangement/index.js';
import { area, bounds, boxRing, type Contour, contourArea, middleOfBox, type Outline, STEPS_PER_MM } from '../geometry/index.js';
import { Widths } from '../medial-axis/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Evaluation, isSolid, placeOf, type Surface } from '../relief/index.js';
import { planeSection } from '../solid/index.js';
import { formatLength, type LengthUnit } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm² of a place that is told. */
const LEAST = 0.05;
/** mm of a corner beyond a mill that are seen. */
const SEEN_CORNER = 0.5;
/** mm² of a place that is marked, and how many are. */
const LEAST_PLACE = 0.02;
const MOST_PLACES = 20;
/** Times the radius of a disc by which a tip reaches beyond it that counts as a stroke, or a gap: it is sharper than 29°. */
const TIP = 3;
/** mm by which dots may lie beyond what was measured of them. */
const SAME_MM = 1e-3;
/** mm by which levels that are one may differ, and mm of an edge between two that is seen. */
const SAME = 1e-6;
const SEEN_MM = 1;

/** What lies between two neighbouring levels: which of the plan is material there. */
interface Slab {
  readonly from: number;
  readonly to: number;
  /** Without the dots of braille, which are cut by balls of their own and stand so close, and without the modules of codes. */
  readonly material: Outline;
  /** How wide the material is, up to the most that is asked of it. */
  readonly widths: Widths;
}

/** What tools do not reach and what material does not bear, between the heights of a solid. */
export function makingFindings(evaluation: Evaluation, solid: Mesh, limits: Limits): Finding[] {
  const slabs = slabsOf(evaluation, solid, limits);
  return [...gaps(evaluation, slabs, limits), ...strokes(evaluation, slabs, limits), ...steps(evaluation, limits)];
}

function slabsOf(evaluation: Evaluation, solid: Mesh, { leastStroke, leastWall, slenderness }: Limits): Slab[] {
  const { levels, sign } = evaluation;
  // Levels in planes have no one height.
  const heights = levels.flatMap(({ z, plane }) => (plane ? [] : [z])).sort((a, b) => a - b);
  const all = [-sign.blank.thickness, ...heights];
  const isDot = dotsOf(evaluation);
  const codes = codesOf(evaluation);
  return all.slice(1).flatMap((to, i): Slab[] => {
    const from = all[i];
    if (to - from <= SAME) return [];
    const material = withoutModules(planeSection(solid, 2, (from + to) / 2).filter((ring) => !isDot(ring)), codes); // prettier-ignore
    if (material.length === 0) return [];
    // What stands on the back is the blank itself: nothing of it is tall.
    const tallest = i === 0 ? 0 : (all[all.length - 1] - from) / slenderness;
    return [{ from, to, material, widths: new Widths(material, Math.max(leastStroke, leastWall, tallest), TIP) }];
  });
}

/** Boxes of codes to scan. */
function codesOf({ sign, parts }: Evaluation): Outline {
  return sign.parts.flatMap((part) => {
    const plan = part.kind === 'shape' && part.shape.kind === 'code' ? parts.find(({ id }) => id === part.id) : undefined;
    return plan?.ink ? [boxRing(plan.ink)] : [];
  });
}

/** Material with codes filled where some of them is there: their modules are told by a check of their own, and touch in corners. */
function withoutModules(material: Outline, codes: Outline): Outline {
  const parted = codes.filter((box) => {
    const inside = area(intersection(material, [box]));
    return inside > LEAST && inside < area([box]) - LEAST;
  });
  return parted.length === 0 ? material : union(material, parted);
}

/** Whether a ring is a dot of braille. */
function dotsOf({ sign, parts }: Evaluation): (ring: Contour) => boolean {
  const boxes = sign.parts.flatMap((part) => {
    const ink = part.kind === 'shape' && part.shape.kind === 'braille' ? parts.find(({ id }) => id === part.id)?.ink : undefined;
    return ink ? [ink] : [];
  });
  return (ring) => {
    if (boxes.length === 0) return false;
    const { minX, minY, maxX, maxY } = bounds([ring])!;
    return boxes.some((box) => minX >= box.minX - SAME_MM && maxX <= box.maxX + SAME_MM && minY >= box.minY - SAME_MM && maxY <= box.maxY + SAME_MM); // prettier-ignore
  };
}

/** Places that the smallest tool does not come into, between what stands and in what is carved or cut through. */
function gaps(evaluation: Evaluation, slabs: readonly Slab[], { tool }: Limits): Finding[] {
  const { arrangement, sign } = evaluation;
  const { unit } = sign;
  const footprint = ringsOf(arrangement, isSolid);
  if (footprint.length === 0) return [];
  let worst: { readonly narrow: Outline; readonly widths: Widths; readonly slab: Slab } | undefined;
  let most = LEAST;
  const corners: { readonly x: number; readonly y: number; readonly beyond: number; readonly slab: Slab }[] = [];
  for (const slab of slabs) {
    const widths = Widths.around(slab.material, tool, TIP);
    for (const { x, y, beyond } of widths.corners(tool, SEEN_CORNER)) {
      if (corners.every((each) => Math.hypot(each.x - x, each.y - y) > tool)) corners.push({ x, y, beyond, slab });
    }
    const narrow = widths.narrowerThan(tool);
    const mm2 = area(narrow);
    if (mm2 < most) continue;
    [most, worst] = [mm2, { narrow, widths, slab }];
  }
  const rounded = roundedCorners(corners, tool, unit);
  if (!worst) return rounded;
  const { narrow, widths, slab } = worst;
  const measured = widths.least() ?? tool;
  const cleared = area(footprint) - area(slab.material);
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
      heights: [slab.from, slab.to],
    },
    ...rounded,
  ];
}

/** Inner corners that a mill rounds, of all heights. */
function roundedCorners(
  corners: readonly { readonly x: number; readonly y: number; readonly beyond: number; readonly slab: Slab }[],
  tool: number,
  unit: LengthUnit,
): Finding[] {
  if (corners.length === 0) return [];
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  const worstFirst = [...corners].sort((a, b) => b.beyond - a.beyond);
  const [{ beyond: measured, slab }] = worstFirst;
  const which = corners.length === 1 ? 'an inner corner' : `${corners.length} inner corners`;
  const text = `An end mill of ${length(tool)} rounds ${which}: up to ${length(measured)} of the tip is left standing.`;
  const places = worstFirst.slice(0, MOST_PLACES).map(({ x, y }) => ({ x, y }));
  return [{ check: 'sharp-corner', text, measured, limit: SEEN_CORNER, places, heights: [slab.from, slab.to] }];
}

function strokes({ sign: { unit } }: Evaluation, slabs: readonly Slab[], limits: Limits): Finding[] {
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  const thinnest = (check: 'thin-stroke' | 'thin-wall', which: readonly Slab[], limit: number, what: string): Finding[] => {
    let [found, most]: [Finding | undefined, number] = [undefined, LEAST];
    for (const { widths, from, to } of which) {
      const thin = widths.narrowerThan(limit);
      if (area(thin) < most) continue;
      most = area(thin);
      const measured = widths.least(limit) ?? limit;
      const text = `${what} are thinner than ${length(limit)}: the thinnest about ${length(measured)}, ${most.toFixed(1)} mm² in all.`;
      found = { check, text, measured, limit, places: middlesOf(thin), heights: [from, to] };
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
    // The highest first: lower ones above the same ground are hardly ever worse.
    for (const top of slabs.slice(i).reverse()) {
      const height = top.to - ground.from;
      const limit = height / slenderness;
      const narrow = ground.widths.narrowerThan(limit);
      if (area(narrow) < LEAST) continue;
      const width = ground.widths.least(limit) ?? limit;
      const measured = height / width;
      if (measured <= worst) continue;
      const thin = intersection(narrow, top.material);
      if (area(thin) < LEAST) continue;
      worst = measured;
      const text = `Strokes of about ${length(width)} stand ${length(height)} high, ${measured.toFixed(1)} times their width: from ${slenderness} times on they snap off.`;
      found = {
        check: 'tall-stroke',
        text,
        measured,
        limit: slenderness,
        places: middlesOf(thin),
        heights: [ground.from, top.to],
      };
    }
  });
  return found ? [found] : [];
}

const levelOf = (surface: Surface | undefined): number | undefined =>
  surface?.kind === 'level' && !surface.plane ? surface.z : undefined;

/** Neighbouring levels that differ by so little that it is not seen. */
function steps(evaluation: Evaluation, { leastStep }: Limits): Finding[] {
  const { edges } = evaluation.arrangement;
  const heightOf = (label: number): number | undefined => levelOf(placeOf(evaluation, label)?.surface);
  const found = new Map<number, { step: number; length: number; x: number; y: number; heights: [number, number] }>();
  for (let e = 0; e < edges.lo.length; e++) {
    const [a, b] = [heightOf(edges.left[e]), heightOf(edges.right[e])];
    if (a === undefined || b === undefined) continue;
    const step = Math.abs(a - b);
    if (step <= SAME || step >= leastStep - SAME) continue;
    const [lo, hi] = [edges.lo[e], edges.hi[e]];
    const key = Math.round(step * 1e4);
    const heights: [number, number] = [Math.min(a, b), Math.max(a, b)];
    const sum = found.get(key) ?? { step, length: 0, x: edges.x[lo] / STEPS_PER_MM, y: edges.y[lo] / STEPS_PER_MM, heights };
    sum.length += Math.hypot(edges.x[hi] - edges.x[lo], edges.y[hi] - edges.y[lo]) / STEPS_PER_MM;
    found.set(key, sum);
  }
  const { unit } = evaluation.sign;
  return [...found.values()]
    .filter(({ length }) => length >= SEEN_MM)
    .sort((a, b) => a.step - b.step)
    .map(({ step, x, y, heights }) => ({
      check: 'small-step',
      text: `A step of ${formatLength(Number(step.toFixed(3)), unit)} is too small to be seen: make it ${formatLength(leastStep, unit)} or more, or nothing.`,
      measured: step,
      limit: leastStep,
      places: [{ x, y }],
      heights,
    }));
}

/** The middles of the largest pieces. */
function middlesOf(outline: Outline): Finding['places'] {
  return outline
    .filter((ring) => contourArea(ring) >= LEAST_PLACE)
    .sort((a, b) => contourArea(b) - contourArea(a))
    .slice(0, MOST_PLACES)
    .map((ring) => middleOfBox(bounds([ring])!));
}
