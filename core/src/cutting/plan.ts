import { difference, intersection, strokeArea, union } from '../arrangement/index.js';
import { area, contains, contourArea, type Outline } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { type ShopTool, toolFormOf } from '../shop/index.js';
import { coneRadius, type Feeds, feedsFor } from '../tooling/index.js';
import { type CutChoice, MOST_DEPTH_ENGRAVED, type TabPlace } from './choice.js';
import { type Cut, type CutPlan, type Left, type Progress, type Purpose } from './cut-plan.js';
import { type Clearer, type Clearing, clearingRuns } from './clearing.js';
import { drillFor, drillRun, type Hole, holeOf, pointDepth } from './drilling.js';
import { FreeSpace } from './free-space.js';
import { nearestFirst } from './nearest.js';
import { judgePins, pinRuns } from './pins.js';
import { PlanError } from './plan-error.js';
import { aroundAll, placesByRing, profileRun } from './profile.js';
import { boxContour, filled, grown, piecesOf, shrunk } from './regions.js';
import { ballRuns, veeRuns } from './slopes.js';
import { slopeGroups, type SlopeGroups } from './slope-groups.js';
import { Terrain } from './terrain.js';
import { type Terrace, terracesOf, type Terraces } from './terraces.js';
import { AIR, Loop, NEAR, runLength, type Run } from './toolpath.js';
import { type LaidOut, laidOut, type PinHole, type StockBox, type Workpiece } from './workpiece.js';

/** Of what is left a tool has to clear as much as this, in mm², to be taken. */
const LEAST_GAIN = 0.05;
/** The first tool clears this part of everything, or a smaller one is first. */
const FIRST_PART = 0.3;
/** A tool that is nearly as large as the one before clears little more. */
const SMALLER = 0.67;
/** Part of everything that a cone with a flat tip has to clear to be taken for what no end mill does. */
const ENGRAVED_PART = 0.01;
/** mm from its middle to its edge of what a cone clears where nothing was before. */
const MOST_ENGRAVED = 1.5;
const CLAMPED = 'Clamps stand here: move them, or turn the work round.';
const UNDER_CLAMPS = 'Beside clamps the sign is not cut out: move them away from its edge, or cut it free there by hand.';
/** mm that a path keeps off clamps. */
const CLAMP_GAP = 0.5;
/** mm over the stock, and over clamps, at which tools move freely. */
export const CLEARANCE = 2;
/** mm² of a level for which it is sought what would clear it. */
const SOUGHT_MM2 = 0.5;
/** Parts of the smallest diameter that are tried, and part of a place that the right one clears. */
const SMALLER_STILL = [0.8, 0.6, 0.45, 0.3, 0.2];
const MOST_OF_IT = 0.85;
/** Of many places so many are tried. */
const TRIED_PLACES = 300;
/** mm² that is told of as left. */
const LEAST_LEFT = 0.02;

/**
 * Reads the cuts of a sign off its relief: what stands too high is cleared by large tools and then, where those did not reach, by smaller
 * ones; slopes are finished; windows, and at last the sign itself, are cut out.
 * @throws PlanError where no tool fits the purpose at all
 */
export function cutPlan(evaluation: Evaluation, choice: CutChoice, progress: Progress = () => undefined): CutPlan {
  return new Planner(laidOut(evaluation, choice), choice, progress).plan();
}

class Planner {
  private readonly work: Workpiece;
  private readonly terrain: Terrain;
  private readonly stock: StockBox;
  private readonly pins: readonly PinHole[];
  private readonly safe: number;
  private readonly bottom: number;
  private readonly cuts: Cut[] = [];
  private readonly left: Left[] = [];
  private waste: Outline = [];
  private readonly tabs: TabPlace[] = [];
  private readonly endMills: readonly ShopTool[];
  private readonly clampArea: Outline;

  constructor(
    { work, stock, pins }: LaidOut,
    private readonly choice: CutChoice,
    private readonly progress: Progress,
  ) {
    const terrain = new Terrain(work.mesh);
    this.work = work;
    this.terrain = terrain;
    this.stock = stock;
    this.pins = pins;
    this.bottom = stock.bottom - choice.overcut;
    this.safe = stock.top + CLEARANCE + choice.clamps.reduce((most, { above }) => Math.max(most, above), 0);
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
    const { choice, work, stock, safe, cuts, left, pins } = this;
    this.progress(0, 'Reading the relief');
    this.cutPinHoles();
    const slopes = slopeGroups(this.terrain, choice.tools);
    const terraces = this.terraces(slopes.rough);
    this.clear(this.drill(terraces));
    this.progress(0.6, 'Finishing slopes');
    this.finishSlopes(slopes);
    this.progress(0.85, 'Cutting out');
    if (choice.cutsOut) this.cutOut(terraces);
    else this.waste = difference(filled(this.terrain.footprint), this.terrain.footprint);
    this.progress(1, 'Done');
    return { choice, work, stock, zero: zeroOf(choice, stock), safe, cuts, left, waste: this.waste, tabs: this.tabs, pins };
  }

  /** From the side that is cut first, before anything else. */
  private cutPinHoles(): void {
    const { pins, choice, stock, safe } = this;
    if (pins.length === 0) return;
    judgePins(choice.turning!.pins!, this.cuttingOut());
    if (choice.cutsOut) return;
    const { tool, runs } = pinRuns(pins, choice, stock, safe);
    this.add(tool, 'pins', stock.top, pins[0].bottom, runs);
  }

  private terraces(isRough: (triangle: number) => boolean): Terraces {
    const { terrain, choice, stock, bottom } = this;
    const ball = this.ballTool();
    const step = Math.max(0.5, Math.min(choice.material.depthPerPass, 0.5) * (ball?.form.diameter ?? 3));
    const isSloped = (low: number, high: number): boolean => ball !== undefined && terrain.isSloped(low, high, isRough);
    const found = terracesOf(terrain, this.work.levels, stock.top, bottom, step, isSloped);
    const { windows } = found;
    const list = found.list.filter(({ kind }) => choice.cutsOut || kind !== 'window');
    if (this.clampArea.length === 0) return { list, windows };
    return { list: list.map((each) => ({ ...each, keepOut: union(each.keepOut, this.clampArea) })), windows };
  }

  /** Drills the round windows that a drill fits, and tells what is left to be cleared. */
  private drill({ list, windows }: Terraces): Terraces {
    const { stock, bottom, safe } = this;
    const drills = this.choice.tools.filter(({ form }) => form.kind === 'drill');
    const terrace = list.find(({ kind }) => kind === 'window');
    if (!terrace || drills.length === 0) return { list, windows };
    const holes = new Map<ShopTool, Hole[]>();
    const others = piecesOf(terrace.needed).filter((window) => {
      const hole = holeOf(window);
      const drill = hole && drillFor(hole, drills, stock.top - bottom);
      // Its point has to come out below, into what the work lies on.
      if (!drill || pointDepth(drill) > this.choice.overcut + 1e-9) return true;
      holes.set(drill, [...(holes.get(drill) ?? []), hole]);
      return false;
    });
    for (const [drill, found] of holes) {
      const ends = found.map(({ x, y }) => ({ from: [x, y], to: [x, y] }) as const);
      const runs = nearestFirst(ends, ends[0].from).map(({ way }) =>
        drillRun(found[way], drill.form.diameter, stock.top, bottom, safe),
      );
      this.add(drill, 'drill', stock.top, bottom, runs);
    }
    const needed = others.flat();
    const left = list.flatMap((each) =>
      each !== terrace ? [each] : needed.length > 0 ? [{ ...each, needed, below: needed }] : [],
    );
    return { list: left, windows };
  }

  /** Clears terraces by one tool after the other, as far as each is worth it. */
  private clear({ list }: Terraces): void {
    const states = list.map((terrace): State => ({ terrace, left: terrace.needed, leftMm2: area(terrace.needed) }));
    const all = states.reduce((sum, { leftMm2 }) => sum + leftMm2, 0);
    let before: ShopTool | undefined;
    const cones = this.choice.tools.filter(
      ({ form, left }) => (form.kind === 'point' || form.kind === 'vee') && form.tip > 0.05 && left > 0,
    );
    const candidates = [...this.endMills, ...cones.sort((a, b) => tipOf(b) - tipOf(a))];
    candidates.forEach((tool, i) => {
      const isCone = tool.form.kind !== 'end';
      const isLast = tool === this.endMills.at(-1);
      if (before && !isCone && !isLast && tool.form.diameter > SMALLER * before.form.diameter) return;
      const told = (part: number): void =>
        this.progress(0.05 + (0.5 * (i + part)) / candidates.length, `Clearing with ${tool.name}`);
      const clearer = this.clearerOf(tool);
      const open = states.filter(({ terrace, leftMm2 }) => {
        const isWithin = this.stock.top - terrace.z <= clearer.reach;
        return isWithin && leftMm2 > 0.001;
      });
      const most = open.reduce((sum, { leftMm2 }) => sum + leftMm2, 0);
      const least = Math.max(LEAST_GAIN, isCone ? ENGRAVED_PART * all : !before && !isLast ? FIRST_PART * all : 0);
      if (most < least) return;
      const reached = open.map((state, at): Reached => {
        told(at / open.length / 2);
        return this.reachedOf(state, tool, clearer);
      });
      if (reached.reduce((sum, { gainMm2 }) => sum + gainMm2, 0) < least) return;
      reached.forEach((found, at) => {
        told(0.5 + at / reached.length / 2);
        // What lies higher may have been cleared over all that lies lower, by a tool that comes wherever this one does.
        const { radius, space: own } = found.clearing;
        const above = states
          .slice(0, states.indexOf(found.state))
          .filter(({ space, before: smallest = Infinity, isOpen }) => isOpen && space?.isWide && smallest <= radius && space.radius >= own.radius); // prettier-ignore
        if (found.gainMm2 > 0.001) this.addClearing(tool, clearer, found, above.at(-1)?.terrace.z ?? this.stock.top);
      });
      before = tool;
    });
    for (const state of states) this.tellLeft(state);
  }

  /** What a tool would reach at a terrace. */
  private reachedOf(state: State, { form }: ShopTool, clearer: Clearer): Reached {
    const { terrace } = state;
    const radius = clearer.radius(this.stock.top - terrace.z);
    if (form.kind === 'end') {
      const space = state.space ?? this.spaceFor(terrace, radius, clearer);
      const left = space.left(radius);
      const leftMm2 = area(left);
      return { state, clearing: { space, radius, before: state.before }, left, leftMm2, gainMm2: state.leftMm2 - leftMm2 };
    }
    // Where no end mill was, what a cone clears is too narrow for the smallest, or as wide as letters are.
    const before = state.before ?? Math.min(MOST_ENGRAVED, this.endMills.at(-1)!.form.diameter / 2);
    const space = state.space ?? this.spaceFor(terrace, before, clearer);
    const clearing = { space, radius, before };
    const ways = space.restLines(radius, before, this.stepOf(clearer));
    const strokes = ways.map(({ points, isClosed }) => ({ points, closed: isClosed }));
    const left = strokes.length === 0 ? state.left : difference(state.left, strokeArea(strokes, 2 * clearer.flat));
    const leftMm2 = area(left);
    return { state, clearing, left, leftMm2, gainMm2: state.leftMm2 - leftMm2 };
  }

  private spaceFor(terrace: Terrace, radius: number, clearer: Clearer): FreeSpace {
    return new FreeSpace(terrace, radius, this.stepOf(clearer), this.terrain.footprint);
  }

  private stepOf({ flat }: Clearer): number {
    return 2 * flat * this.choice.stepover;
  }

  private addClearing(tool: ShopTool, clearer: Clearer, { state, clearing, left, leftMm2 }: Reached, from: number): void {
    const { choice, stock, safe } = this;
    const { terrace, before, isOpen = false } = state;
    const { feed } = this.feedsOf(tool);
    const { acceleration } = choice.machine;
    // From rest to rest over a way in 2·√(s / a), as long as that is short; up and down as well.
    const isSooner = (mm: number): boolean =>
      2 * Math.sqrt(mm / acceleration) + 4 * Math.sqrt(NEAR / acceleration) < (60 * mm) / feed;
    const how = { ...choice, isClimb: choice.direction === 'climb', safe, isSooner };
    const runs = clearingRuns({ ...clearing, from, isOpen }, clearer, how);
    if (runs.length === 0) return;
    const purpose = { window: 'window', level: 'clear', slope: 'clear', 'cut out': 'rest' } as const;
    const isFirst = before === undefined;
    const isFace = isFirst && terrace.kind === 'level' && Math.abs(terrace.z) < 1e-6;
    const clears = isFace ? 'face' : isFirst ? purpose[terrace.kind] : 'rest';
    this.add(tool, tool.form.kind === 'end' ? clears : 'engrave', stock.top, terrace.z, runs);
    Object.assign(state, { left, leftMm2, space: clearing.space, before: clearing.radius });
    if (isFirst && tool.form.kind === 'end') state.isOpen = true;
  }

  private tellLeft({ terrace, left, space }: State): void {
    if (terrace.kind === 'slope') return;
    this.tellClamped(terrace);
    const areaMm2 = area(left);
    if (areaMm2 < LEAST_LEFT) return;
    const smallest = this.endMills.at(-1)!;
    const deepestMm = this.stock.top - terrace.z;
    const isTooDeep = this.endMills.every(({ cuttingLength }) => cuttingLength < deepestMm);
    const { diameter } = smallest.form;
    const free = (): FreeSpace => space ?? this.spaceFor(terrace, diameter / 2, this.clearerOf(smallest));
    const needs = isTooDeep || areaMm2 < SOUGHT_MM2 ? undefined : neededFor(left, free(), diameter);
    const would = needs === undefined ? '' : ` One of ${shown(needs)} mm would clear most of it.`;
    const reason = isTooDeep
      ? `No end mill of the allowed ones is as long as ${shown(deepestMm)} mm.`
      : `The smallest end mill, ${smallest.name}, does not fit between what stands here.${would}`;
    this.left.push({
      areaMm2,
      volumeMm3: areaMm2 * deepestMm,
      deepestMm,
      reason,
      cause: isTooDeep ? 'length' : 'width',
      region: left,
      ...(isTooDeep && { needsLength: deepestMm }),
      ...(needs !== undefined && { needs }),
    });
  }

  private tellClamped({ needed, z }: Terrace): void {
    if (this.clampArea.length === 0) return;
    const region = intersection(needed, this.clampArea);
    const areaMm2 = area(region);
    if (areaMm2 < LEAST_LEFT) return;
    const deepestMm = this.stock.top - z;
    this.left.push({ areaMm2, volumeMm3: areaMm2 * deepestMm, deepestMm, reason: CLAMPED, cause: 'clamps', region });
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
      if (areaMm2 > LEAST_LEFT) this.left.push({ areaMm2, volumeMm3: 0, deepestMm: 0, reason, cause: 'slope', region });
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
    const tool = this.cuttingOut();
    if (!tool) {
      const areaMm2 = area(kept);
      const reason = `No end mill of the allowed ones is as long as ${shown(stock.top - bottom)} mm: the sign is not cut out.`;
      const deepestMm = areaMm2 > 0 ? stock.top - bottom : 0;
      const lacking = { reason, cause: 'length', needsLength: stock.top - bottom } as const;
      this.left.push({ areaMm2: 0, volumeMm3: 0, deepestMm, ...lacking, region: [] });
      return;
    }
    const radius = tool.form.diameter / 2;
    const isClimb = choice.direction === 'climb';
    const keepOff = this.clampArea.length > 0 ? grown(this.clampArea, radius + CLAMP_GAP) : [];
    const profile = { bottom, mostDepth: this.depthOf(tool), radius, holding: choice.holding, isClimb, safe, keepOff };
    const rings = aroundAll(kept, radius).filter((ring) => !this.isCleared(ring, windows));
    if (rings.some((ring) => crosses(ring, keepOff)))
      this.left.push({
        areaMm2: 0,
        volumeMm3: 0,
        deepestMm: stock.top - bottom,
        reason: UNDER_CLAMPS,
        cause: 'clamps',
        region: [],
      });
    const { holding } = choice;
    const placed = holding.kind === 'tabs' && holding.at ? placesByRing(rings, holding.at) : undefined;
    const runs = rings
      .map((ring, i) => ({ ring, from: stock.top, isOuter: contourArea(ring) < 0, places: placed?.[i] }))
      .sort((a, b) => Number(a.isOuter) - Number(b.isOuter))
      .map((each) => {
        const { run, tabs } = profileRun(each, profile);
        this.tabs.push(...tabs);
        return run;
      });
    // Of the blank what lies around what is kept falls off, too.
    const around = difference([this.work.blank], grown(filled(kept), 2 * radius - 0.05));
    this.waste = [...windows.flatMap((region) => shrunk(region, 2 * radius - 0.05)), ...around];
    this.cutOutNarrow(windows, kept, tool);
    this.add(tool, 'cut out', stock.top, bottom, runs);
  }

  /** The largest tool that goes all the way down. */
  private cuttingOut(): ShopTool | undefined {
    return this.endMills.find(({ cuttingLength }) => cuttingLength >= this.stock.top - this.bottom);
  }

  /** Clears what the tool that cuts out does not reach between what is kept: nothing is open there yet. */
  private cutOutNarrow(windows: Terraces['windows'], kept: Outline, first: ShopTool): void {
    const { stock, bottom } = this;
    const below = union(difference([this.work.blank], filled(kept)), ...windows);
    const needed = difference(below, this.clampArea);
    const terrace: Terrace = { z: bottom, needed, keepOut: union(kept, this.clampArea), below, kind: 'cut out' };
    const radius = first.form.diameter / 2;
    const space = new FreeSpace(terrace, radius, first.form.diameter * this.choice.stepover, kept);
    const left = space.left(radius);
    const state: State = { terrace, left, leftMm2: area(left), space, before: radius };
    let before = first;
    for (const tool of this.endMills) {
      const isSmaller =
        tool.form.diameter <= SMALLER * before.form.diameter || (tool === this.endMills.at(-1) && tool !== before);
      const clearer = this.clearerOf(tool);
      if (!isSmaller || state.leftMm2 < LEAST_GAIN || stock.top - bottom > clearer.reach) continue;
      const found = this.reachedOf(state, tool, clearer);
      if (found.gainMm2 < LEAST_GAIN) continue;
      this.addClearing(tool, clearer, found, stock.top);
      before = tool;
    }
    this.tellLeft(state);
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
      return { radius: (depth) => coneRadius(form, depth), flat, mostDepth, reach: Math.min(cuttingLength, MOST_DEPTH_ENGRAVED) };
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
    // From run to run no higher than over the stock; over clamps where there are any.
    const travel = this.choice.clamps.length > 0 ? this.safe : this.stock.top + AIR;
    const low = runs.map((run, i) => (i === 0 ? run : { ...run, over: Math.min(travel, run.over ?? travel) }));
    this.cuts.push({ tool, purpose, from, to, depthPerPass: this.depthOf(tool), feeds, runs: low, lengthMm });
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

/** A terrace as it is cleared by tool after tool. */
interface State {
  readonly terrace: Terrace;
  left: Outline;
  leftMm2: number;
  space?: FreeSpace;
  /** Radius of the smallest tool so far. */
  before?: number;
  /** Whether what large tools come to has been cleared: not where cones were alone, nor where nothing is open before the last cut. */
  isOpen?: boolean;
}

/** What a tool would leave of a terrace, and gain. */
interface Reached {
  readonly state: State;
  readonly clearing: Pick<Clearing, 'space' | 'radius' | 'before'>;
  readonly left: Outline;
  readonly leftMm2: number;
  readonly gainMm2: number;
}

/** The largest of some smaller diameters that clears most of what is left. */
function neededFor(left: Outline, space: FreeSpace, smallest: number): number | undefined {
  // A share of many places tells as much as all.
  const every = Math.ceil(left.length / TRIED_PLACES);
  const places = every === 1 ? left : left.filter((ring, i) => i % every === 0 && contourArea(ring) > 0);
  const leftBy = space.leftAmong(places);
  return SMALLER_STILL.map((part) => Math.floor(part * smallest * 20) / 20).find(
    (diameter) => diameter > 0 && area(leftBy(diameter / 2)) < (1 - MOST_OF_IT) * area(places),
  );
}

/** Whether a ring runs through an area, asked at every mm. */
const crosses = (ring: Outline[number], area: Outline): boolean => {
  if (area.length === 0) return false;
  const loop = new Loop(ring);
  return Array.from({ length: Math.ceil(loop.length) }, (_, mm) => loop.at(mm)).some(([x, y]) => contains(area, x, y));
};
const tipOf = ({ form }: ShopTool): number => ('tip' in form ? form.tip : 0);
const ballOf = ({ form }: ShopTool): number => (form.kind === 'taper' ? form.tip : form.diameter);
const shown = (mm: number): string => String(Number(mm.toFixed(2)));

/** Where a program's zero lies in the places of the work. */
export function zeroOf({ zero: { at, height } }: Pick<CutChoice, 'zero'>, { box, top, bottom }: StockBox): CutPlan['zero'] {
  const isMiddle = at === 'middle';
  const x = isMiddle ? (box.minX + box.maxX) / 2 : at.endsWith('left') ? box.minX : box.maxX;
  const y = isMiddle ? (box.minY + box.maxY) / 2 : at.startsWith('lower') ? box.minY : box.maxY;
  return { x, y, z: height === 'bed' ? bottom : top };
}
