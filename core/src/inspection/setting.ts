import { bounds, type Box, joinBoxes } from '../geometry/index.js';
import { type Evaluation, type PartPlan, partsSeen } from '../relief/index.js';
import { type Part } from '../sign/index.js';
import { formatLength } from '../units/index.js';
import { type CheckCode, type Finding } from './finding.js';

/** Margins that differ by less than this share of the blank are nearly equal; by less than so many mm they are equal. */
const NEARLY_EQUAL = 0.02;
const EQUAL = 0.2;
/** Edges and middles that are nearer than this share of the blank, and at most so many mm, nearly line up; nearer than that they do. */
const NEARLY_ALIGNED = 0.005;
const MOST_APART = 1.5;
const ALIGNED = 0.1;
/** Sizes nearer than this share are nearly the same. */
const NEAR_SIZE = 0.05;
const SAME_SIZE = 0.02;
/** mm of rounding. */
const SAME = 1e-6;
const MOST_FAMILIES = 3;
/** A shape that covers so much of the blank is a ground for others. */
const GROUND = 0.8;

const middleX = ({ minX, maxX }: Box): number => (minX + maxX) / 2;
const middleY = ({ minY, maxY }: Box): number => (minY + maxY) / 2;

interface Placed {
  readonly part: Part;
  readonly plan: PartPlan;
  readonly ink: Box;
}

/** What is nearly, but not, in the middle, in line, or of one size. */
export function settingFindings(evaluation: Evaluation): Finding[] {
  const design = designOf(evaluation);
  return [...margins(evaluation, design), ...alignment(evaluation, design), ...sizes(evaluation), ...fonts(evaluation)];
}

/** Whether a part goes where the blank, or other parts, go. */
export const followsOthers = (part: Part): boolean =>
  part.kind === 'shape' && ['border', 'fixings', 'combined'].includes(part.shape.kind);

/** Whether a shape covers most of the blank: others are set on it. */
export function isGround({ blank, parts }: Evaluation, { id, kind }: Part): boolean {
  const [edge, ink] = [bounds([blank])!, parts.find((plan) => plan.id === id)?.ink];
  if (!ink || kind === 'text') return false;
  return (ink.maxX - ink.minX) * (ink.maxY - ink.minY) > GROUND * (edge.maxX - edge.minX) * (edge.maxY - edge.minY);
}

/** Parts that are set on the blank: not those that follow it or are a ground for others. */
function designOf(evaluation: Evaluation): Placed[] {
  return partsSeen(evaluation).flatMap((plan): Placed[] => {
    const part = evaluation.sign.parts.find(({ id }) => id === plan.id)!;
    const { ink } = plan;
    if (!ink || plan.role !== 'made') return [];
    return followsOthers(part) || isGround(evaluation, part) ? [] : [{ part, plan, ink }];
  });
}

function margins({ blank, sign }: Evaluation, design: readonly Placed[]): Finding[] {
  if (design.length === 0) return [];
  const whole = design.map(({ ink }) => ink).reduce((a, b) => joinBoxes(a, b)!);
  // Across, what is seen counts; up, capitals: a descender makes nothing look lower.
  const capitals = design.map(({ plan, ink }) => plan.caps ?? ink).reduce((a, b) => joinBoxes(a, b)!);
  const edge = bounds([blank])!;
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), sign.unit);
  const one = (
    about: string,
    first: number,
    second: number,
    size: number,
    names: readonly [string, string],
    more: string,
    place: { x: number; y: number },
  ): Finding[] => {
    // prettier-ignore
    const off = Math.abs(first - second);
    if (first <= 0 || second <= 0 || off <= EQUAL + SAME || off >= NEARLY_EQUAL * size) return [];
    const text = `The margins at the ${names[0]} and the ${names[1]} are ${length(first)} and ${length(second)}: nearly, but not, equal${more}.`;
    return [{ check: 'unequal-margins', text, measured: off, limit: EQUAL, places: [place], about }];
  };
  const [left, right] = [whole.minX - edge.minX, edge.maxX - whole.maxX];
  const [low, high] = [capitals.minY - edge.minY, edge.maxY - capitals.maxY];
  const byBox = middleY(whole) - middleY(edge);
  const byCapitals = middleY(capitals) - middleY(edge);
  const more = Math.abs(byBox - byCapitals) > EQUAL ? ` (by capitals; by all that is seen the middle is ${length(Math.abs(byBox))} ${byBox > 0 ? 'high' : 'low'})` : ''; // prettier-ignore
  return [
    ...one('across', left, right, edge.maxX - edge.minX, ['left', 'right'], '', { x: middleX(whole), y: middleY(whole) }),
    ...one('up', low, high, edge.maxY - edge.minY, ['bottom', 'top'], more, { x: middleX(whole), y: middleY(capitals) }),
  ];
}

/** What of boxes may line up. */
const LINES = {
  left: ({ minX }: Box) => minX,
  middle: middleX,
  right: ({ maxX }: Box) => maxX,
} as const;

function alignment({ blank, sign }: Evaluation, design: readonly Placed[]): Finding[] {
  const edge = bounds([blank])!;
  const near = Math.min(MOST_APART, NEARLY_ALIGNED * (edge.maxX - edge.minX));
  const found: Finding[] = [];
  const upright = design.filter(({ part }) => part.place.turn % 90 === 0 && part.copies === undefined);
  upright.forEach((one, i) => {
    for (const other of upright.slice(i + 1)) {
      // Parts beside each other, or groups that are one, do not line up so.
      if (one.ink.minY <= other.ink.maxY && other.ink.minY <= one.ink.maxY) continue;
      if (one.part.group !== undefined && one.part.group === other.part.group) continue;
      const offs = Object.entries(LINES).map(([side, of]) => ({ side, off: of(other.ink) - of(one.ink) }));
      if (offs.some(({ off }) => Math.abs(off) <= ALIGNED + SAME)) continue;
      const nearest = offs.reduce((a, b) => (Math.abs(b.off) < Math.abs(a.off) ? b : a));
      if (Math.abs(nearest.off) > near) continue;
      const { side, off } = nearest;
      const name = side === 'middle' ? 'middle' : `${side} side`;
      const text = `The ${name} of ${other.part.name} is ${formatLength(Number(Math.abs(off).toFixed(2)), sign.unit)} ${off > 0 ? 'right' : 'left'} of that of ${one.part.name}: nearly, but not, in line.`; // prettier-ignore
      const place = { x: LINES[side as keyof typeof LINES](other.ink), y: middleY(other.ink) };
      found.push({ check: 'nearly-aligned', text, measured: Math.abs(off), limit: ALIGNED, places: [place], part: other.part.id, others: [one.part.id], about: side }); // prettier-ignore
    }
  });
  return found;
}

function sizes(evaluation: Evaluation): Finding[] {
  const texts = partsSeen(evaluation).flatMap((plan) => {
    const part = evaluation.sign.parts.find(({ id }) => id === plan.id);
    return part?.kind === 'text' && plan.text && plan.ink && plan.role === 'made' ? [{ part, height: plan.text.capHeight, ink: plan.ink }] : []; // prettier-ignore
  });
  return texts.flatMap((other, i) => {
    const one = texts.slice(0, i).find(({ height }) => Math.abs(height - other.height) > SAME_SIZE && Math.abs(height - other.height) < NEAR_SIZE * height); // prettier-ignore
    if (!one) return [];
    const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), evaluation.sign.unit);
    const text = `${other.part.name} has capitals of ${length(other.height)}, ${one.part.name} of ${length(one.height)}: nearly, but not, of one size.`;
    const place = { x: middleX(other.ink), y: middleY(other.ink) };
    return [{ check: 'near-sizes', text, measured: Math.abs(one.height - other.height), limit: SAME_SIZE, places: [place], part: other.part.id, others: [one.part.id] }]; // prettier-ignore
  });
}

function fonts({ sign }: Evaluation): Finding[] {
  // “barlow-semibold” and “barlow-bold” are one family.
  const families = new Set(sign.parts.flatMap((part) => (part.kind === 'text' && !part.hidden ? [part.font.replace(/-[^-]+$/u, '')] : []))); // prettier-ignore
  if (families.size <= MOST_FAMILIES) return [];
  const check: CheckCode = 'many-fonts';
  return [{ check, text: `The sign is set in ${families.size} families of letters; ${MOST_FAMILIES} are many.`, measured: families.size, limit: MOST_FAMILIES, places: [] }]; // prettier-ignore
}
