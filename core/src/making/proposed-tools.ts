import { MOST_DEPTH_ENGRAVED } from '../cutting/index.js';
import { area, bounds } from '../geometry/index.js';
import { DistanceField } from '../medial-axis/index.js';
import { type Evaluation } from '../relief/index.js';
import { followsPrograms, isConeOf, rotaryOf, type Shop, type ShopMachine, type ShopTool } from '../shop/index.js';
import { solidOf } from '../solid/index.js';
import { coneRadius } from '../tooling/index.js';

/** A tool may be this part of the sign's shorter side. */
const LARGEST_PART = 0.15;
/** The next smaller one is at most this part of the one before. */
const NEXT_PART = 0.6;
/** A smaller tool than this is proposed where there is no other: it takes long, and breaks. */
const SMALLEST = 1.4;
/** mm of rise in a mm across, from which on a side is upright. */
const UPRIGHT = 50;
/** Part of what is sunk no deeper than is engraved that has to be too narrow for end mills, or a point gains too little. */
const NARROW_PART = 0.15;
/** mm by which distances may be off where tools are but chosen, and by which a corner has to reach beyond a tool to count. */
const ROUGH = 0.02;
/** Part of all slopes for which a tool is proposed, and mm² of them at least. */
const MATCHED_PART = 0.1;
const LEAST_SLOPED = 0.5;

/** The machine that a material is cut on first: one that turns it where it is bent around a cylinder; an engraver where the sign fits it, else a router. */
export function proposedMachine(
  { blank, sign }: Pick<Evaluation, 'blank' | 'sign'>,
  { machines }: Pick<Shop, 'machines'>,
): ShopMachine | undefined {
  const { minX, minY, maxX, maxY } = bounds([blank])!;
  const cutting = machines.filter(followsPrograms);
  const turning = cutting.find((machine) => rotaryOf(sign, machine));
  if (turning) return turning;
  const fits = ({ area }: ShopMachine): boolean => area.width >= maxX - minX && area.height >= maxY - minY;
  const size = ({ area }: ShopMachine): number => area.width * area.height;
  return cutting.filter(fits).sort((a, b) => size(a) - size(b))[0] ?? cutting[0];
}

/**
 * The tools that a sign is cut with where nobody has chosen: two or three end mills, each well smaller than the one before; of the cones
 * those whose angle slopes of the sign have; a ball nose where other slopes are left; and an engraving point where what is sunk a little is
 * too narrow for those end mills (common practice, no source).
 */
export function proposedTools(evaluation: Evaluation, { tools }: { readonly tools: readonly ShopTool[] }): ShopTool[] {
  const { minX, minY, maxX, maxY } = bounds([evaluation.blank])!;
  const { areas, all } = slopesOf(evaluation);
  const kept = tools.filter(({ left }) => left > 0);
  const byNumber = (a: ShopTool, b: ShopTool): number => a.number - b.number;
  const ends = kept.filter(({ form }) => form.kind === 'end').sort((a, b) => b.form.diameter - a.form.diameter || byNumber(a, b));
  const most = LARGEST_PART * Math.min(maxX - minX, maxY - minY);
  const chosen: ShopTool[] = [];
  for (const tool of ends) {
    const { diameter } = tool.form;
    const before = chosen.at(-1);
    if (before ? diameter <= NEXT_PART * before.form.diameter && diameter >= SMALLEST : diameter <= most) chosen.push(tool);
  }
  if (chosen.length === 0 && ends.length > 0) chosen.push(ends.at(-1)!);
  const matching = (tool: ShopTool): number =>
    tool.form.kind === 'vee' ? [...areas].reduce((sum, [steep, mm2]) => (isConeOf(tool, steep) ? sum + mm2 : sum), 0) : 0;
  const cones = kept.filter((tool) => matching(tool) > MATCHED_PART * all);
  const matched = cones.reduce((sum, tool) => sum + matching(tool), 0);
  const balls = kept
    .filter(({ form }) => form.kind === 'ball')
    .sort((a, b) => a.form.diameter - b.form.diameter || byNumber(a, b));
  const tapers = kept.filter(({ form }) => form.kind === 'taper');
  const round = all - matched > MATCHED_PART * all + LEAST_SLOPED ? (balls[0] ?? tapers[0]) : undefined;
  const point = pointFor(evaluation, kept, chosen.at(-1));
  return [...chosen, ...cones, ...(round ? [round] : []), ...(point ? [point] : [])].sort(byNumber);
}

/** The engraving point that comes into most of what is sunk a little and too narrow for an end mill, with the broadest tip that does. */
function pointFor({ layers }: Evaluation, tools: readonly ShopTool[], end: ShopTool | undefined): ShopTool | undefined {
  const sunk = layers.filter(
    (each) => each.operation === 'carve' && !each.profile && each.z < 0 && each.z >= -MOST_DEPTH_ENGRAVED,
  );
  if (!end || sunk.length === 0) return undefined;
  const most = end.form.diameter / 2;
  const fields = sunk.map(({ area: { contours }, z }) => ({ field: new DistanceField(contours, most, ROUGH), depth: -z }));
  const left = (radiusAt: (depth: number) => number): number =>
    fields.reduce((sum, { field, depth }) => sum + area(field.narrow(Math.min(most, radiusAt(depth)), ROUGH) ?? []), 0);
  const narrow = left(() => most);
  if (narrow < NARROW_PART * fields.reduce((sum, { field }) => sum + area(field.outline), 0)) return undefined;
  const points = tools.flatMap((tool) => (tool.form.kind === 'point' && tool.form.tip > 0 ? [{ tool, form: tool.form }] : []));
  return points
    .sort((a, b) => b.form.tip - a.form.tip || a.tool.number - b.tool.number)
    .find(({ form }) => left((depth) => coneRadius(form, depth)) < narrow / 2)?.tool;
}

/** The area of a sign's slopes, in mm² as seen from above, by their degrees from level. */
function slopesOf(evaluation: Evaluation): { readonly areas: ReadonlyMap<number, number>; readonly all: number } {
  const { positions: p, triangles } = solidOf(evaluation);
  const areas = new Map<number, number>();
  let all = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t], 3 * triangles[t + 1], 3 * triangles[t + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [x, y, up] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const across = Math.hypot(x, y);
    if (up <= 0 || across < 0.01 * up || across > UPRIGHT * up) continue;
    const degrees = Math.round((Math.atan2(across, up) * 1800) / Math.PI) / 10;
    areas.set(degrees, (areas.get(degrees) ?? 0) + up / 2);
    all += up / 2;
  }
  return { areas, all };
}
