import { bounds, type Box, type Contour, type Outline } from '../geometry/index.js';
import { type Mesh } from '../mesh/index.js';
import {
  type Duration,
  durationOf,
  type Motion,
  type MotionLimits,
  type Place,
  ProgramError,
  readProgram,
  type Step,
} from '../program/index.js';
import { compared, type Difference } from './comparison.js';
import { Stock } from './stock.js';
import { type ToolForm } from '../tooling/index.js';

/** What is to come out of a program. */
export interface Target {
  readonly mesh: Mesh;
  readonly blank: Contour;
  /** Of the stock in the plan; as large as the blank where it is not told. */
  readonly box?: Box;
  /** Heights of the stock's face and underside. */
  readonly top: number;
  readonly floor: number;
  /** Parts of the plan that fall out. */
  readonly waste?: Outline;
}

/** A tool as it turns: what it cuts with, and what must touch nothing. */
export interface TurningTool {
  readonly form: ToolForm;
  readonly cuttingLength: number;
  readonly shank: number;
  readonly holder: { readonly diameter: number; readonly standOut: number };
}

/** A round hole in the bed, which may be cut into there. */
export interface Pit {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
  /** Height of its ground. */
  readonly bottom: number;
}

/** A box in the sign's places that no tool may enter below its top. */
export interface Obstacle extends Box {
  readonly top: number;
}

export interface Workplace {
  /** Of every place in the changer. */
  readonly tools: ReadonlyMap<number, TurningTool>;
  readonly limits: MotionLimits;
  /** What is added to a program's places to get the sign's, in mm. */
  readonly zero: Place;
  /** What the machine reaches across, up and in z. */
  readonly area?: { readonly width: number; readonly height: number };
  readonly travel?: number;
  /** mm that may be cut below the underside of the stock. */
  readonly bed?: number;
  readonly pits?: readonly Pit[];
  readonly clamps?: readonly Obstacle[];
}

/** What went wrong on the way, each as often as moves did so. */
export interface Mishaps {
  /** Rapid moves that cut. */
  readonly rapidsInMaterial: number;
  /** Moves by which shank or holder came to material. */
  readonly holderTouches: number;
  readonly belowBed: number;
  readonly inClamps: number;
  /** Moves that cut while the spindle stood still. */
  readonly spindleStill: number;
  /** Whether the moves span more than the machine reaches. */
  readonly isOutside: boolean;
}

export interface DryRun extends Difference, Mishaps {
  readonly duration: Duration;
}

/** Whether nothing of a dry run keeps its programs from being run. */
export const isProven = (run: Omit<DryRun, 'duration'>): boolean =>
  run.gougeMm === 0 &&
  run.rapidsInMaterial + run.holderTouches + run.belowBed + run.inClamps + run.spindleStill === 0 &&
  !run.isOutside;

/** What keeps programs from being run, in words; empty where nothing does. */
export function troubleOf(run: Omit<DryRun, 'duration'>): string {
  const times = (count: number, one: string, many: string): string => (count === 0 ? '' : count === 1 ? one : `${count} ${many}`);
  return [
    run.gougeMm > 0 ? `cuts ${run.gougeMm.toFixed(2)} mm into the sign on ${run.gougeAreaMm2.toFixed(1)} mm²` : '',
    times(run.rapidsInMaterial, 'a rapid move in material', 'rapid moves in material'),
    times(run.holderTouches, 'shank or holder touches once', 'moves by which shank or holder touch'),
    times(run.belowBed, 'a move below the bed', 'moves below the bed'),
    times(run.inClamps, 'a move into a clamp', 'moves into clamps'),
    times(run.spindleStill, 'a cut with a spindle that stands still', 'cuts with a spindle that stands still'),
    run.isOutside ? 'moves span more than the machine reaches' : '',
  ]
    .filter((words) => words !== '')
    .join(', ');
}

/** mm between the places at which the stock is looked at, where nothing else is asked. */
const CELL = 0.1;
/** mm by which a tool is thinner where it is asked whether a rapid move cuts: places at its very edge are no material. */
const EDGE = 0.02;
/** mm by which a move may be lower than the bed by rounding. */
const ROUNDING = 0.002;

/** A program that is run: its text, and what it is called. */
export interface NamedProgram {
  readonly name: string;
  readonly text: string;
}

/** A program that cannot be read, or not be run here, with its name and line. */
export class DryRunError extends Error {}

/** The mm by which a place stands above the relief: 0 where it is right, below 0 where it is cut too deep. */
export type OverAt = (column: number, row: number) => number;

/** What else a dry run is asked for. */
export interface DryRunChoice {
  /** mm between the places at which the stock is looked at. */
  readonly cell?: number;
  /** Hears how far it is, 0 to 1; may end it by throwing. */
  readonly progress?: (part: number) => void;
  /** Gets what is left of the stock. */
  readonly seen?: (stock: Stock, overAt: OverAt) => void;
}

/** Lines from one telling of how far it is to the next. */
const TOLD_LINES = 500;

/**
 * Runs programs one after the other on one stock, and compares what is left with the sign. Programs are read back as they are written.
 * @throws DryRunError where one cannot be read, or moves with a tool that is not there
 */
export function dryRun(
  programs: readonly NamedProgram[],
  target: Target,
  workplace: Workplace,
  { cell = CELL, progress, seen }: DryRunChoice = {},
): DryRun {
  const { minX, minY, maxX, maxY } = target.box ?? bounds([target.blank])!;
  const stock = new Stock({ x: minX, y: minY }, maxX - minX, maxY - minY, target.top, cell);
  const run = new Run(stock, target, workplace);
  const duration = goThrough(programs, workplace, target.top, (motion) => run.move(motion), progress);
  const found = seen && new Float32Array(stock.columns * stock.rows);
  const difference = compared(stock, target.mesh, target.blank, target.floor, target.waste, (column, row, over) => {
    if (found) found[row * stock.columns + column] = over;
  });
  seen?.(stock, (column, row) => found![row * stock.columns + column]);
  return { ...difference, ...run.mishaps(), duration };
}

/**
 * Reads programs one after the other and does every move of theirs, in the places of the sign.
 * @returns how long they take
 * @throws DryRunError where one cannot be read; what `done` throws
 */
export function goThrough(
  programs: readonly NamedProgram[],
  { zero, limits }: Pick<Workplace, 'zero' | 'limits'>,
  top: number,
  done: (motion: Motion) => void,
  progress?: (part: number) => void,
): Duration {
  const letters = programs.reduce((sum, { text }) => sum + text.length, 0);
  let [read, told] = [0, 0];
  const steps = function* ({ name, text }: NamedProgram): Generator<Step> {
    const lines = text.split('\n').length;
    let isFirst = true;
    try {
      for (const step of readProgram(text)) {
        yield step;
        if (step.kind === 'rapid' || step.kind === 'feed') {
          done(begun(moved(step, zero), isFirst, top));
          isFirst = false;
        }
        if (progress && told++ % TOLD_LINES === 0) progress((read + (text.length * step.line) / lines) / letters);
      }
    } catch (error) {
      throw programTrouble(name, error);
    }
    read += text.length;
  };
  const all = function* (): Generator<Step> {
    for (const program of programs) yield* steps(program);
  };
  return durationOf(all(), limits);
}

/**
 * The first move of a program begins where the tool was taken up, over the stock: that it is at the program's zero is what readers take for
 * granted, and may lie within it.
 */
export function begun(motion: Motion, isFirst: boolean, top: number): Motion {
  if (!isFirst || motion.arc) return motion;
  return { ...motion, from: { ...motion.from, z: Math.max(motion.from.z, motion.to.z, top) } };
}

/** What a program is refused by, with the program's name; anything else as it is. */
export function programTrouble(name: string, error: unknown): unknown {
  const isTold = error instanceof ProgramError || error instanceof DryRunError;
  return isTold ? new DryRunError(`${name}: ${error.message}`) : error;
}

/** Moves on a stock, and what goes wrong with them. */
export class Run {
  private rapidsInMaterial = 0;
  private holderTouches = 0;
  private belowBed = 0;
  private inClamps = 0;
  private spindleStill = 0;
  private readonly lows = { x: Infinity, y: Infinity, z: Infinity };
  private readonly highs = { x: -Infinity, y: -Infinity, z: -Infinity };

  constructor(
    private readonly stock: Stock,
    private readonly target: Target,
    private readonly workplace: Workplace,
  ) {}

  move(motion: Motion): void {
    const { stock, target } = this;
    const tool = toolOf(motion, this.workplace.tools);
    const lowest = Math.min(motion.from.z, motion.to.z);
    this.spans(motion);
    const isDeep = lowest < target.floor - (this.workplace.bed ?? 0) - ROUNDING;
    if (isDeep && !this.isInPit(motion, tool.form.diameter / 2, lowest)) this.belowBed++;
    if (this.isInClamp(motion, tool.form.diameter / 2, lowest)) this.inClamps++;
    if (lowest >= target.top) return;
    if (this.isTouched(motion, tool, lowest)) this.holderTouches++;
    const { deepest } = stock.cut(motion, motion.kind === 'rapid' ? thinner(tool.form) : tool.form);
    if (motion.kind === 'rapid') {
      if (deepest > 0) this.rapidsInMaterial++;
      stock.cut(motion, tool.form);
    } else if (deepest > 0 && motion.spindle === 'still') this.spindleStill++;
  }

  mishaps(): Mishaps {
    const { rapidsInMaterial, holderTouches, belowBed, inClamps, spindleStill, lows, highs } = this;
    const { area, travel = Infinity } = this.workplace;
    const isOutside =
      highs.x - lows.x > (area?.width ?? Infinity) || highs.y - lows.y > (area?.height ?? Infinity) || highs.z - lows.z > travel;
    return { rapidsInMaterial, holderTouches, belowBed, inClamps, spindleStill, isOutside };
  }

  private spans({ from, to }: Motion): void {
    for (const place of [from, to]) {
      for (const axis of ['x', 'y', 'z'] as const) {
        this.lows[axis] = Math.min(this.lows[axis], place[axis]);
        this.highs[axis] = Math.max(this.highs[axis], place[axis]);
      }
    }
  }

  /** Whether what is above the cutting edges comes to what still stands. */
  private isTouched({ from, to }: Motion, { form, cuttingLength, shank, holder }: TurningTool, lowest: number): boolean {
    const { top } = this.target;
    const shaft = lowest + cuttingLength;
    if (shank > form.diameter && shaft < top && this.stock.highestNear(from, to, shank / 2) > shaft + ROUNDING) return true;
    const nose = lowest + holder.standOut;
    return nose < top && this.stock.highestNear(from, to, holder.diameter / 2) > nose + ROUNDING;
  }

  private isInPit({ from, to }: Motion, radius: number, lowest: number): boolean {
    return (this.workplace.pits ?? []).some(
      ({ x, y, diameter, bottom }) =>
        lowest >= bottom - ROUNDING &&
        [from, to].every((place) => Math.hypot(place.x - x, place.y - y) <= diameter / 2 - radius + EDGE),
    );
  }

  private isInClamp({ from, to }: Motion, radius: number, lowest: number): boolean {
    return (this.workplace.clamps ?? []).some(
      ({ minX, minY, maxX, maxY, top }) =>
        lowest < top &&
        Math.max(from.x, to.x) > minX - radius &&
        Math.min(from.x, to.x) < maxX + radius &&
        Math.max(from.y, to.y) > minY - radius &&
        Math.min(from.y, to.y) < maxY + radius &&
        isNearBox(from, to, { minX, minY, maxX, maxY }, radius),
    );
  }
}

/** Whether a straight way comes within a radius of a box. */
function isNearBox(from: Place, to: Place, { minX, minY, maxX, maxY }: Box, radius: number): boolean {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const pieces = Math.max(1, Math.ceil(length / Math.max(0.1, radius / 4)));
  for (let i = 0; i <= pieces; i++) {
    const [x, y] = [from.x + ((to.x - from.x) * i) / pieces, from.y + ((to.y - from.y) * i) / pieces];
    if (Math.hypot(Math.max(minX - x, 0, x - maxX), Math.max(minY - y, 0, y - maxY)) < radius) return true;
  }
  return false;
}

const thinner = (form: ToolForm): ToolForm => ({ ...form, diameter: Math.max(EDGE, form.diameter - 2 * EDGE) });

/** The tool of a move. @throws DryRunError where there is none of its number */
export function toolOf({ tool, line }: Motion, tools: ReadonlyMap<number, TurningTool>): TurningTool {
  const found = tools.get(tool);
  if (found) return found;
  const known = [...tools.keys()].map((number) => `T${number}`).join(', ');
  throw new DryRunError(
    tool === 0
      ? `Line ${line} moves before a tool was taken up: a program begins with a tool and M6, such as T1 M6.`
      : `Line ${line} moves with T${tool}, which is no tool of the shop: it has ${known || 'none'}.`,
  );
}

/** A move of a program in the places of the sign. */
export function moved(motion: Motion, zero: Place): Motion {
  const by = ({ x, y, z }: Place): Place => ({ x: x + zero.x, y: y + zero.y, z: z + zero.z });
  const { arc } = motion;
  const plane = { xy: [zero.x, zero.y], zx: [zero.z, zero.x], yz: [zero.y, zero.z] } as const;
  return {
    ...motion,
    from: by(motion.from),
    to: by(motion.to),
    ...(arc && { arc: { ...arc, centre: [arc.centre[0] + plane[arc.plane][0], arc.centre[1] + plane[arc.plane][1]] as const } }),
  };
}
