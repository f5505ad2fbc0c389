import { difference } from '../arrangement/index.js';
import { type Box, bounds, type Outline, area } from '../geometry/index.js';
import { type Evaluation, type Evaluator, type PartPlan } from '../relief/index.js';
import { type ShopTool } from '../shop/index.js';
import { type Edge, isUpright, type Part, type Sign, sinks, type Tier } from '../sign/index.js';
import { type ToldLeft } from './left-standing.js';

/** A change of the sign that lets tools come where they do not. */
export type SignRemedy =
  | {
      readonly kind: 'open up';
      readonly part: string;
      readonly name: string;
      /** Of the tool that then passes between all letters. */
      readonly diameter: number;
      /** In percent of the cap height. */
      readonly tracking: number;
      /** mm by which the words become longer. */
      readonly grownBy: number;
    }
  | {
      readonly kind: 'edge';
      readonly part: string;
      readonly tier: string;
      readonly name: string;
      /** Undefined: upright. */
      readonly edge: Edge | undefined;
      /** Name of the tool that cuts such an edge at once. */
      readonly tool?: string;
    };

/** What stays, as far as it decides what would help. */
export type Standing = Pick<ToldLeft, 'region' | 'cause'>;

/** mm² of a place from which on the sign is changed for it. */
const WORTH = 0.5;
/** Part of what a part covers that has to be left for its strokes to be too narrow: a panel around narrow words is not. */
const NARROW_PART = 0.3;
/** mm by which a gap is opened more than the tool is wide. */
const EASE = 0.02;

/**
 * What could be changed of a sign, seen as it was planned, for what its tools left standing: raised words whose letters stand closer than
 * the smallest end mill is wide are opened up for it; carved strokes that it does not fit in become vee grooves as a vee bit cuts them;
 * slopes that nothing finishes become those of a vee bit, or upright.
 * @param tools that the plan was laid with
 */
export function signRemedies(
  evaluator: Pick<Evaluator, 'gaps' | 'openUp'>,
  evaluation: Evaluation,
  left: readonly Standing[],
  tools: readonly ShopTool[],
): SignRemedy[] {
  const diameter = Math.min(...tools.flatMap(({ form }) => (form.kind === 'end' ? [form.diameter] : [])));
  const vee = tools.find(({ form }) => form.kind === 'vee' || form.kind === 'point');
  const narrow = regionsOf(left, 'width');
  const sloped = regionsOf(left, 'slope');
  return evaluation.sign.parts.flatMap((part): SignRemedy[] => {
    const plan = evaluation.parts.find(({ id }) => id === part.id);
    if (!plan?.ink) return [];
    const near = (regions: readonly Outline[]): Outline[] => regions.filter((region) => meet(bounds(region)!, plan.ink!));
    const [tight, steep] = [near(narrow), near(sloped)];
    return [
      ...(tight.length > 0 ? openings(evaluator, evaluation, part, tight, plan, diameter) : []),
      ...part.tiers.flatMap((tier) => [
        ...(vee && grooved(tier) && mostInside(tight, plan) ? [edgeOf(part, tier, vee)] : []),
        ...(steep.length > 0 && tier.on && tier.edge ? slopes(part, tier, vee) : []),
      ]),
    ];
  });
}

const regionsOf = (left: readonly Standing[], cause: ToldLeft['cause']): Outline[] =>
  left.flatMap((each) => {
    if (each.cause !== cause || each.region.length === 0) return [];
    const region = each.region.map((contour) => Float64Array.from(contour));
    return area(region) >= WORTH ? [region] : [];
  });

const meet = (a: Box, b: Box): boolean => a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;

/** mm² of regions that lie beside the letters of a part, and within them. */
function shared(regions: readonly Outline[], { area: inked }: PartPlan): { readonly beside: number; readonly within: number } {
  let [beside, within] = [0, 0];
  for (const region of regions) {
    const outside = area(difference(region, inked.contours));
    beside += outside;
    within += area(region) - outside;
  }
  return { beside, within };
}

function openings(
  evaluator: Pick<Evaluator, 'gaps' | 'openUp'>,
  evaluation: Evaluation,
  part: Part,
  regions: readonly Outline[],
  plan: PartPlan,
  diameter: number,
): SignRemedy[] {
  if (part.kind !== 'text' || !Number.isFinite(diameter) || shared(regions, plan).beside < WORTH) return [];
  const isClose = evaluator
    .gaps(evaluation, part.id)
    .some(({ gap, isJoined, areNeighbours }) => areNeighbours && !isJoined && gap < diameter);
  const opened = isClose ? evaluator.openUp(evaluation, part.id, diameter + EASE) : undefined;
  if (!opened || opened.grownBy <= 0) return [];
  const { tracking, grownBy } = opened;
  return [{ kind: 'open up', part: part.id, name: part.name, diameter, tracking, grownBy }];
}

const grooved = ({ on, action, edge }: Tier): boolean => on && !edge && sinks(action) && !isUpright(action);
const mostInside = (regions: readonly Outline[], plan: PartPlan): boolean => {
  const { within, beside } = shared(regions, plan);
  return within >= WORTH && within > beside && within > NARROW_PART * area(plan.area.contours);
};

/** A groove as a cone cuts it, no deeper than the tier goes. */
function edgeOf({ id, name }: Part, tier: Tier, { name: tool, form }: ShopTool): SignRemedy {
  const angle = 'angle' in form ? form.angle : 90;
  return { kind: 'edge', part: id, tier: tier.id, name, edge: { kind: 'ridged', angle, capped: true }, tool };
}

/** What else the sides of a tier could be. */
function slopes({ id, name }: Part, { id: tier, edge }: Tier, vee: ShopTool | undefined): SignRemedy[] {
  const found: SignRemedy[] = [];
  if (vee && edge?.kind === 'sloped' && 'angle' in vee.form) {
    const like: Edge = { ...edge, angle: vee.form.angle / 2 };
    found.push({ kind: 'edge', part: id, tier, name, edge: like, tool: vee.name });
  }
  return [...found, { kind: 'edge', part: id, tier, name, edge: undefined }];
}

/** Changes a sign by a remedy; nothing where part or tier are gone. */
export function mend(sign: Sign, remedy: SignRemedy): void {
  const part = sign.parts.find(({ id }) => id === remedy.part);
  if (remedy.kind === 'open up') {
    // Rounded up, so that the tool still passes.
    if (part?.kind === 'text') part.tracking = Math.ceil(remedy.tracking * 1000) / 1000;
    return;
  }
  const tier = part?.tiers.find(({ id }) => id === remedy.tier);
  if (!tier) return;
  if (remedy.edge) tier.edge = remedy.edge;
  else delete tier.edge;
}
