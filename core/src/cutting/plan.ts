import { difference, intersection, union } from '../arrangement/index.js';
import { area, bounds, type Box, contains, contourArea, type Outline } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { isConeOf, type ShopTool, toolFormOf } from '../shop/index.js';
import { solidOf } from '../solid/index.js';
import { type Feeds, feedsFor, veeDepth } from '../tooling/index.js';
import { type CutChoice } from './choice.js';
import { type Cleared, clearedBy, type Clearer, clearingRuns, gainOf } from './clearing.js';
import { aroundAll, profileRun } from './profile.js';
import { boxContour, filled, grown, piecesOf, reachOf, shrunk } from './regions.js';
import { ballRuns, veeRuns } from './slopes.js';
import { Terrain } from './terrain.js';
import { type Terrace, terracesOf, type Terraces } from './terraces.js';
import { Loop, runLength, type Run } from './toolpath.js';

export type Purpose = 'clear' | 'rest' | 'engrave' | 'slope' | 'vee' | 'window' | 'cut out';

/** Runs of one tool for one purpose. */
export interface Cut {
  readonly tool: ShopTool;
  readonly purpose: Purpose;
  /** Heights between which material is taken. */
  readonly from: number;
  readonly to: number;
  /** mm a pass, at most. */
  readonly depthPerPass: number;
  readonly feeds: Feeds;
  readonly runs: readonly Run[];
  /** mm that are cut, without ways through air. */
  readonly lengthMm: number;
}

/** What no allowed tool takes away. */
export interface Left {
  readonly areaMm2: number;
  readonly volumeMm3: number;
  readonly deepestMm: number;
  readonly reason: string;
  readonly region: Outline;
  /** Diameter of an end mill that would clear most of it, in mm, where one was sought and found. */
  readonly needs?: number;
}

/** A block of material and where it is cut. */
export interface StockBox {
  readonly box: Box;
  readonly top: number;
  readonly bottom: number;
}

/** How a sign is cut: what it was asked with, and the cuts in their order. */
export interface CutPlan {
  readonly choice: CutChoice;
  readonly stock: StockBox;
  /** What is added to a program's places to get the sign's, in mm. */
  readonly zero: { readonly x: number; readonly y: number; readonly z: number };
  /** The height at which tools move freely. */
  readonly safe: number;
  readonly cuts: readonly Cut[];
  readonly left: readonly Left[];
  /** Parts of the plan that fall off when windows and the sign are cut out along their edges. */
  readonly waste: Outline;
}

/** What tells how far a plan is, and may end it by throwing. */
export type Progress = (part: number, words: string) => void;

/** Of what is left a tool has to clear as much as this, in mm², to be taken. */
const LEAST_GAIN = 0.05;
/** The first tool clears this part of everything, or a smaller one is first. */
const FIRST_PART = 0.3;
/** A tool that is nearly as large as the one before clears little more. */
const SMALLER = 0.67;
/** mm below the face down to which a cone with a flat tip clears what no end mill does, and the part of it that it has to clear. */
const ENGRAVED = 1;
const ENGRAVED_PART = 0.01;
const UNDER_CLAMPS = 'Beside clamps the sign is not cut out: move them away from its edge, or cut it free there by hand.';
/** mm that a path keeps off clamps. */
const CLAMP_GAP = 0.5;
/** mm over the stock, and over clamps, at which tools move freely. */
const CLEARANCE = 2;
/** Part of all slopes that a cone has to cut at once to be taken. */
const MATCHED_PART = 0.02;
/** mm² of slopes for which a tool is taken. */
const LEAST_SLOPED = 0.5;
/** mm² of a level for which it is sought what would clear it, levels at most, and its places that are looked at. */
const SOUGHT_MM2 = 0.5;
const MOST_SOUGHT = 6;
const MOST_PIECES = 8;
/** Parts of the smallest diameter that are tried, and part of a place that the right one clears. */
const SMALLER_STILL = [0.8, 0.6, 0.45, 0.3, 0.2];
const MOST_OF_IT = 0.85;
/** mm² that is told of as left. */
const LEAST_LEFT = 0.02;

/**
 * Reads the cuts of a sign off its relief: what stands too high is cleared by large tools and then, where those did not reach, by smaller
 * ones; slopes are finished; windows, and at last the sign itself, are cut out.
 * @throws PlanError where no tool fits the purpose at all
 */
export function cutPlan(evaluation: Evaluation, choice: CutChoice, progress: Progress = () => undefined): CutPlan {
  const terrain = new Terrain(solidOf(evaluation));
  return new Planner(terrain, evaluation, choice, progress).plan();
}

/** A plan that cannot be made, in words for the person who asked for it. */
export class PlanError extends Error {}

class Planner {
  private readonly stock: StockBox;
  private readonly safe: number;
  private readonly bottom: number;
  private readonly cuts: Cut[] = [];
  private readonly left: Left[] = [];
  private waste: Outline = [];
  private sought = 0;
  private readonly endMills: readonly ShopTool[];
  private readonly clampArea: Outline;

  constructor(
    private readonly terrain: Terrain,
    private readonly evaluation: Evaluation,
    private readonly choice: CutChoice,
    private readonly progress: Progress,
  ) {
    const { thickness } = evaluation.sign.blank;
    const top = Math.max(terrain.highest, choice.stockThickness === undefined ? -Infinity : choice.stockThickness - thickness);
    this.stock = { box: bounds([evaluation.blank])!, top, bottom: Math.min(-thickness, evaluation.rearmost) };
    this.bottom = this.stock.bottom - choice.overcut;
    this.safe = top + CLEARANCE + choice.clamps.reduce((most, { above }) => Math.max(most, above), 0);
    this.endMills = choice.tools
      .filter(({ form, left }) => form.kind === 'end' && left > 0)
      .sort((a, b) => b.form.diameter - a.form.diameter || a.number - b.number);
    this.clampArea = choice.clamps.map(({ x, y, width, height }) =>
      boxContour({ minX: x, minY: y, maxX: x + width, maxY: y + height }),
    );
    if (terrain.triangles.length === 0) throw new PlanError('Nothing of this sign is left to be made: it has no material.');
    if (this.endMills.length === 0) throw new PlanError('No end mill is among the tools: tick one, or add one under Shop.');
  }

  plan(): CutPlan {
    const { choice, stock, safe, cuts, left } = this;
    this.progress(0, 'Reading the relief');
    const slopes = this.slopeGroups();
    const terraces = this.terraces(slopes.rough);
    this.clear(terraces);
    this.progress(0.6, 'Finishing slopes');
    this.finishSlopes(slopes);
    this.progress(0.85, 'Cutting out');
    if (choice.cutsOut) this.cutOut(terraces);
    else this.waste = difference(filled(this.terrain.footprint), this.terrain.footprint);
    this.progress(1, 'Done');
    return { choice, stock, zero: zeroOf(choice, stock), safe, cuts, left, waste: this.waste };
  }

  private terraces(isRough: (triangle: number) => boolean): Terraces {
    const { terrain, choice, stock, bottom } = this;
    const ball = this.ballTool();
    const step = Math.max(0.5, Math.min(choice.material.depthPerPass, 0.5) * (ball?.form.diameter ?? 3));
    const isSloped = (low: number, high: number): boolean => ball !== undefined && terrain.isSloped(low, high, isRough);
    const found = terracesOf(terrain, this.evaluation.levels, stock.top, bottom, step, isSloped);
    const { windows } = found;
    const list = found.list.filter(({ kind }) => choice.cutsOut || kind !== 'window');
    if (this.clampArea.length === 0) return { list, windows };
    return { list: list.map((each) => ({ ...each, keepOut: union(each.keepOut, this.clampArea) })), windows };
  }

  /** Clears terraces by one tool after the other, as far as each is worth it. */
  private clear({ list }: Terraces): void {
    let lefts = list.map(({ needed }) => needed);
    const all = lefts.reduce((sum, needed) => sum + area(needed), 0);
    let before: ShopTool | undefined;
    const cones = this.choice.tools.filter(
      ({ form, left }) => (form.kind === 'point' || form.kind === 'vee') && form.tip > 0.05 && left > 0,
    );
    const candidates = [...this.endMills, ...cones.sort((a, b) => tipOf(b) - tipOf(a))];
    candidates.forEach((tool, i) => {
      const isCone = tool.form.kind !== 'end';
      const isLast = tool === this.endMills.at(-1);
      if (before && !isCone && !isLast && tool.form.diameter > SMALLER * before.form.diameter) return;
      this.progress((0.05 + 0.5 * i) / candidates.length, `Clearing with ${tool.name}`);
      const clearer = this.clearerOf(tool);
      const cleared = list.map((terrace, at) => {
        if (isCone && this.stock.top - terrace.z > ENGRAVED) return undefined;
        return clearedBy(clearer, terrace, lefts[at], this.stock.top);
      });
      const gains = cleared.map((each, at) => (each ? gainOf(lefts[at], each) : 0));
      const gain = gains.reduce((sum, each) => sum + each, 0);
      if (gain < Math.max(LEAST_GAIN, isCone ? ENGRAVED_PART * all : 0)) return;
      if (!before && !isLast && !isCone && gain < FIRST_PART * all) return;
      list.forEach((terrace, at) => {
        const found = cleared[at];
        if (found && gains[at] > 0.001) this.addClearing(tool, clearer, terrace, found, before !== undefined);
      });
      lefts = lefts.map((left, at) => cleared[at]?.left ?? left);
      before = tool;
    });
    list.forEach((terrace, at) => this.tellLeft(terrace, lefts[at]));
  }

  private addClearing(tool: ShopTool, clearer: Clearer, terrace: Terrace, found: Cleared, isRest: boolean): void {
    const { choice, stock, safe } = this;
    const clearing = { ...choice, isClimb: choice.direction === 'climb', stockTop: stock.top, safe };
    const runs = clearingRuns(found, terrace, clearer, clearing, isRest);
    const purpose = { window: 'window', level: 'clear', slope: 'clear' } as const;
    this.add(tool, tool.form.kind === 'end' ? (isRest ? 'rest' : purpose[terrace.kind]) : 'engrave', stock.top, terrace.z, runs);
  }

  private tellLeft(terrace: Terrace, left: Outline): void {
    if (left.length === 0 || terrace.kind === 'slope') return;
    const region = intersection(left, terrace.needed);
    const areaMm2 = area(region);
    if (areaMm2 < LEAST_LEFT) return;
    const smallest = this.endMills.at(-1)!;
    const isTooDeep = this.endMills.every(({ cuttingLength }) => cuttingLength < this.stock.top - terrace.z);
    const needs = isTooDeep ? undefined : this.neededFor(region, terrace, areaMm2, smallest.form.diameter);
    const would = needs === undefined ? '' : ` One of ${shown(needs)} mm would clear most of it.`;
    const reason = isTooDeep
      ? `No end mill of the allowed ones is as long as ${shown(this.stock.top - terrace.z)} mm.`
      : `The smallest end mill, ${smallest.name}, does not fit between what stands here.${would}`;
    const deepestMm = this.stock.top - terrace.z;
    this.left.push({ areaMm2, volumeMm3: areaMm2 * deepestMm, deepestMm, reason, region, ...(needs !== undefined && { needs }) });
  }

  /** The largest of some smaller diameters that clears most of what is left. */
  private neededFor(region: Outline, { keepOut }: Terrace, areaMm2: number, smallest: number): number | undefined {
    if (areaMm2 < SOUGHT_MM2 || this.sought++ >= MOST_SOUGHT) return undefined;
    // Its largest places speak for all of it.
    const pieces = piecesOf(region).sort((a, b) => area(b) - area(a)).slice(0, MOST_PIECES); // prettier-ignore
    const boxes = pieces.map((piece) => boxContour(expanded(bounds(piece)!, smallest)));
    const [some, around] = [pieces.flat(), intersection(keepOut, union(boxes))];
    const most = (1 - MOST_OF_IT) * area(some);
    return SMALLER_STILL.map((part) => Math.floor(part * smallest * 20) / 20).find(
      (diameter) => diameter > 0 && area(reachOf(some, around, diameter / 2).left) < most,
    );
  }

  /** Slopes that a cone cuts at once, by the tool whose cone it is; and those that are cut roughly and finished with a ball. */
  private slopeGroups(): SlopeGroups {
    const { terrain, choice } = this;
    const cones = choice.tools.filter(({ form, left }) => (form.kind === 'vee' || form.kind === 'point') && left > 0);
    const matched = new Map<ShopTool, Set<number>>();
    const others = new Set<number>();
    for (let t = 0; t < terrain.slopes.length; t++) {
      if (!terrain.isSlope(t)) continue;
      const degrees = (Math.atan(terrain.slopes[t]) * 180) / Math.PI;
      const tool = cones.find((each) => isConeOf(each, degrees));
      if (!tool) others.add(t);
      else matched.set(tool, (matched.get(tool) ?? new Set()).add(t));
    }
    // A tool change is not worth a few facets that happen to be as steep.
    for (const [tool, slopes] of matched) {
      if (area(terrain.covered((t) => slopes.has(t))) > MATCHED_PART * terrain.slopedMm2) continue;
      matched.delete(tool);
      for (const t of slopes) others.add(t);
    }
    return { matched, rough: (t) => others.has(t), hasRough: area(terrain.covered((t) => others.has(t))) > LEAST_SLOPED };
  }

  private finishSlopes({ matched, rough, hasRough }: SlopeGroups): void {
    const { terrain, stock, safe, choice } = this;
    const ball = this.ballTool();
    const cleared = this.endMills.reduce((most, { cuttingLength }) => Math.max(most, cuttingLength), 0);
    const heights = { stockTop: stock.top, safe };
    // Beside slopes there may be nothing at all: there it goes no lower than the bed.
    const floorOf = ({ cuttingLength }: ShopTool): number => Math.max(this.bottom, stock.top - Math.min(cleared, cuttingLength));
    if (hasRough && ball) {
      const form = toolFormOf(ball);
      if (form.kind !== 'ball' && form.kind !== 'taper') throw new RangeError('A ball nose or a taper ball finishes slopes.');
      const runs = ballRuns(terrain, rough, form, choice.cusp, {
        ...heights,
        mostDepth: this.depthOf(ball),
        floor: floorOf(ball),
      });
      this.add(ball, 'slope', stock.top, terrain.lowest, runs);
    } else if (hasRough) {
      const region = terrain.covered(rough);
      const areaMm2 = area(region);
      const reason = 'Slopes want a ball nose, or a vee bit of their angle: none is among the tools.';
      if (areaMm2 > LEAST_LEFT) this.left.push({ areaMm2, volumeMm3: 0, deepestMm: 0, reason, region });
    }
    for (const [tool, slopes] of matched) {
      const form = toolFormOf(tool);
      if (form.kind !== 'vee') continue;
      const runs = veeRuns(terrain, (t) => slopes.has(t), form, {
        ...heights,
        mostDepth: this.depthOf(tool),
        floor: floorOf(tool),
      });
      this.add(tool, 'vee', stock.top, terrain.lowest, runs);
    }
  }

  /** Cuts out large windows and then the sign, and clears what lies between letters too close for that tool. */
  private cutOut({ windows }: Terraces): void {
    const { terrain, stock, bottom, choice, safe } = this;
    const kept = terrain.footprint;
    const tool = this.endMills.find(({ cuttingLength }) => cuttingLength >= stock.top - bottom);
    if (!tool) {
      const areaMm2 = area(kept);
      const reason = `No end mill of the allowed ones is as long as ${shown(stock.top - bottom)} mm: the sign is not cut out.`;
      this.left.push({ areaMm2: 0, volumeMm3: 0, deepestMm: areaMm2 > 0 ? stock.top - bottom : 0, reason, region: [] });
      return;
    }
    const radius = tool.form.diameter / 2;
    const isClimb = choice.direction === 'climb';
    const keepOff = this.clampArea.length > 0 ? grown(this.clampArea, radius + CLAMP_GAP) : [];
    const profile = { bottom, mostDepth: this.depthOf(tool), radius, holding: choice.holding, isClimb, safe, keepOff };
    const rings = aroundAll(kept, radius).filter((ring) => !this.isCleared(ring, windows));
    if (rings.some((ring) => crosses(ring, keepOff)))
      this.left.push({ areaMm2: 0, volumeMm3: 0, deepestMm: stock.top - bottom, reason: UNDER_CLAMPS, region: [] });
    const runs = rings
      .map((ring) => ({ ring, from: stock.top, isOuter: contourArea(ring) < 0 }))
      .sort((a, b) => Number(a.isOuter) - Number(b.isOuter))
      .map((each) => profileRun(each, profile));
    // Of the blank what lies around what is kept falls off, too.
    const around = difference([this.evaluation.blank], grown(filled(kept), 2 * radius - 0.05));
    this.waste = [...windows.flatMap((region) => shrunk(region, 2 * radius - 0.05)), ...around];
    const narrow = difference(shrunk(grown(kept, radius), radius - 0.01), grown(kept, 0.01));
    const outer = intersection(narrow, outsideOf(kept, windows));
    this.cutOutNarrow(grown(outer, 0.01), kept, tool);
    this.add(tool, 'cut out', stock.top, bottom, runs);
  }

  private cutOutNarrow(needed: Outline, kept: Outline, first: ShopTool): void {
    const { stock, bottom } = this;
    let left = needed;
    const terrace: Terrace = { z: bottom, needed, keepOut: kept, kind: 'window' };
    let before = first;
    for (const tool of this.endMills) {
      const isSmaller =
        tool.form.diameter <= SMALLER * before.form.diameter || (tool === this.endMills.at(-1) && tool !== before);
      if (!isSmaller || area(left) < LEAST_GAIN) continue;
      const clearer = this.clearerOf(tool);
      const found = clearedBy(clearer, terrace, left, stock.top);
      if (!found || gainOf(left, found) < LEAST_GAIN) continue;
      this.addClearing(tool, clearer, terrace, found, true);
      left = found.left;
      before = tool;
    }
    this.tellLeft(terrace, left);
  }

  /** Whether a ring lies in a window that was cleared. */
  private isCleared(ring: Outline[number], windows: Terraces['windows']): boolean {
    return contourArea(ring) > 0 && !windows.some((window) => contains(window, ring[0], ring[1]));
  }

  private ballTool(): ShopTool | undefined {
    return this.choice.tools
      .filter(({ form, left }) => (form.kind === 'ball' || form.kind === 'taper') && left > 0)
      .sort((a, b) => ballOf(b) - ballOf(a))[0];
  }

  private clearerOf(tool: ShopTool): Clearer {
    const { form, cuttingLength } = tool;
    const mostDepth = this.depthOf(tool);
    if (form.kind === 'point' || form.kind === 'vee') {
      const flat = form.tip / 2;
      const perMm = 1 / veeDepth(2, form.angle);
      return { radius: (depth) => flat + depth * perMm, flat, mostDepth, reach: Math.min(cuttingLength, ENGRAVED) };
    }
    const radius = form.diameter / 2;
    return { radius: () => radius, flat: radius, mostDepth, reach: cuttingLength };
  }

  private depthOf({ form, cuttingLength }: ShopTool): number {
    return Math.min(
      cuttingLength,
      this.choice.material.depthPerPass * (form.kind === 'vee' || form.kind === 'point' ? form.diameter / 2 : form.diameter),
    );
  }

  private add(tool: ShopTool, purpose: Purpose, from: number, to: number, runs: readonly Run[]): void {
    if (runs.length === 0) return;
    const lengthMm = runs.reduce((sum, run) => sum + runLength(run).feed, 0);
    const feeds = this.feedsOf(tool);
    this.cuts.push({ tool, purpose, from, to, depthPerPass: this.depthOf(tool), feeds, runs, lengthMm });
  }

  private feedsOf(tool: ShopTool): Feeds {
    const { machine, material } = this.choice;
    // A cone cuts with a width that grows with its depth: chips are those of half its diameter.
    const diameter = tool.form.kind === 'vee' || tool.form.kind === 'point' ? tool.form.diameter / 2 : tool.form.diameter;
    return feedsFor(diameter, tool.flutes, material, {
      leastSpeed: machine.spindle.least,
      mostSpeed: machine.spindle.most,
      mostFeed: machine.mostFeed,
      mostPlunge: tool.mostPlunge,
    });
  }
}

interface SlopeGroups {
  readonly matched: ReadonlyMap<ShopTool, ReadonlySet<number>>;
  readonly rough: (triangle: number) => boolean;
  readonly hasRough: boolean;
}

/** The plan without what windows were cleared. */
function outsideOf(kept: Outline, windows: Terraces['windows']): Outline {
  const { minX, minY, maxX, maxY } = bounds(kept)!;
  const all = [boxContour({ minX: minX - 100, minY: minY - 100, maxX: maxX + 100, maxY: maxY + 100 })];
  const whole = kept.filter((ring) => contourArea(ring) > 0);
  return union(difference(all, whole), ...windows);
}

const expanded = ({ minX, minY, maxX, maxY }: Box, by: number): Box => ({
  minX: minX - by,
  minY: minY - by,
  maxX: maxX + by,
  maxY: maxY + by,
});
/** Whether a ring runs through an area, asked at every mm. */
const crosses = (ring: Outline[number], area: Outline): boolean => {
  if (area.length === 0) return false;
  const loop = new Loop(ring);
  return Array.from({ length: Math.ceil(loop.length) }, (_, mm) => loop.at(mm)).some(([x, y]) => contains(area, x, y));
};
const tipOf = ({ form }: ShopTool): number => ('tip' in form ? form.tip : 0);
const ballOf = ({ form }: ShopTool): number => (form.kind === 'taper' ? form.tip : form.diameter);
const shown = (mm: number): string => String(Number(mm.toFixed(2)));

function zeroOf({ zero: { at, height } }: CutChoice, { box, top, bottom }: StockBox): CutPlan['zero'] {
  const isMiddle = at === 'middle';
  const x = isMiddle ? (box.minX + box.maxX) / 2 : at.endsWith('left') ? box.minX : box.maxX;
  const y = isMiddle ? (box.minY + box.maxY) / 2 : at.startsWith('lower') ? box.minY : box.maxY;
  return { x, y, z: height === 'bed' ? bottom : top };
}
