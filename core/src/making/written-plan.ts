import { type CutChoice, type CutPlan, cutPlan, type Progress, type Purpose } from '../cutting/index.js';
import { type DryRun, dryRun, type DryRunChoice, isProven } from '../dry-run/index.js';
import { type Program, programsOf } from '../gcode/index.js';
import { motionLength, readProgram, timedSteps } from '../program/index.js';
import { type Evaluation } from '../relief/index.js';
import { type ShopMachine } from '../shop/index.js';
import { leftStanding, type ToldLeft } from './left-standing.js';
import { stageOf } from './stage.js';
import { type Feeds } from '../tooling/index.js';

/** A file of a plan. */
export interface PlannedFile {
  readonly name: string;
  readonly tool: {
    readonly number: number;
    readonly kind: string;
    readonly diameter: number;
    readonly angle?: number;
    readonly tip?: number;
  };
  readonly minutes: number;
  readonly lengthMm: number;
}

/** A cut of a plan, as it is written. */
export interface PlannedCut {
  readonly purpose: Purpose;
  /** Which of the files it is in, and its lines there. */
  readonly file: number;
  readonly firstLine: number;
  readonly lastLine: number;
  /** Number and name of its tool. */
  readonly tool: number;
  readonly toolName: string;
  readonly from: number;
  readonly to: number;
  readonly depthPerPass: number;
  readonly feeds: Feeds;
  readonly minutes: number;
  readonly lengthMm: number;
}

/** A plan with its programs, and what a dry run of them showed. */
export interface WrittenPlan {
  readonly plan: CutPlan;
  readonly programs: readonly Program[];
  readonly run: DryRun;
  readonly files: readonly PlannedFile[];
  readonly cuts: readonly PlannedCut[];
  readonly stock: { readonly top: number; readonly bottom: number };
  readonly zero: CutPlan['zero'];
  readonly minutes: number;
  readonly lengthMm: number;
  /** Of that through air, rapidly. */
  readonly airMm: number;
  readonly airMinutes: number;
  readonly left: readonly ToldLeft[];
  readonly gougeMm: number;
  readonly gougeAreaMm2: number;
  readonly leftAreaMm2: number;
  readonly leftVolumeMm3: number;
  readonly isProven: boolean;
}

export interface WritingChoice extends Pick<DryRunChoice, 'cell' | 'seen'> {
  readonly progress?: Progress;
}

/** Part of the progress that laying the plan is. */
const LAYING = 0.7;

/**
 * Lays the cuts of a sign, writes their programs, reads these back and cuts them out of the stock, and compares that with the sign.
 * @throws PlanError, DryRunError
 */
export function writtenPlan(
  evaluation: Evaluation,
  choice: CutChoice,
  { cell, seen, progress }: WritingChoice = {},
): WrittenPlan {
  const plan = cutPlan(evaluation, choice, (part, words) => progress?.(part * LAYING, words));
  const programs = programsOf(plan, evaluation.sign.title);
  progress?.(LAYING, 'Dry run');
  let left: readonly ToldLeft[] = [];
  const { target, workplace } = stageOf(plan);
  const run = dryRun(programs, target, workplace, {
    cell,
    progress: (part) => progress?.(LAYING + (1 - LAYING) * part, 'Dry run'),
    seen: (stock, overAt) => {
      left = leftStanding(plan.left, stock, overAt);
      seen?.(stock, overAt);
    },
  });
  const timed = programs.map((program, i) => timedFile(program, i, choice.machine));
  const files = timed.map(({ file }) => file);
  const minutes = files.reduce((sum, file) => sum + file.minutes, 0);
  return {
    plan,
    programs,
    run,
    files,
    cuts: timed.flatMap(({ cuts }) => cuts),
    stock: { top: plan.stock.top, bottom: plan.stock.bottom },
    zero: plan.zero,
    minutes,
    lengthMm: run.duration.lengthMm,
    airMm: run.duration.rapidMm,
    airMinutes: run.duration.rapidSeconds / 60,
    left,
    gougeMm: run.gougeMm,
    gougeAreaMm2: run.gougeAreaMm2,
    leftAreaMm2: run.leftAreaMm2,
    leftVolumeMm3: run.leftVolumeMm3,
    isProven: isProven(run),
  };
}

/** The files of programs with the time of each. */
export const filesOf = (programs: readonly Program[], machine: ShopMachine): PlannedFile[] =>
  programs.map((program, i) => timedFile(program, i, machine).file);

/** A program's own time, with the change to its tool, and that of its cuts. */
function timedFile(
  { name, tool, text, cuts }: Program,
  file: number,
  machine: ShopMachine,
): { readonly file: PlannedFile; readonly cuts: readonly PlannedCut[] } {
  const { form } = tool;
  const spent = cuts.map(() => ({ seconds: 0, lengthMm: 0 }));
  let [seconds, lengthMm, changes, at] = [0, 0, 0, 0];
  for (const { step, seconds: taken } of timedSteps(readProgram(text), machine)) {
    seconds += taken;
    if (step.kind === 'tool') changes++;
    if (step.kind !== 'rapid' && step.kind !== 'feed') continue;
    const length = motionLength(step);
    lengthMm += length;
    while (at + 1 < cuts.length && step.line >= cuts[at + 1].firstLine) at++;
    if (step.line < cuts[at].firstLine) continue;
    spent[at].seconds += taken;
    spent[at].lengthMm += length;
  }
  const planned = {
    name,
    tool: {
      number: tool.number,
      kind: form.kind,
      diameter: form.diameter,
      ...('angle' in form && { angle: form.angle }),
      ...('tip' in form && { tip: form.tip }),
    },
    minutes: (seconds + changes * machine.toolChange) / 60,
    lengthMm,
  };
  return {
    file: planned,
    cuts: cuts.map(({ cut, firstLine, lastLine }, i) => ({
      purpose: cut.purpose,
      file,
      firstLine,
      lastLine,
      tool: tool.number,
      toolName: tool.name,
      from: cut.from,
      to: cut.to,
      depthPerPass: cut.depthPerPass,
      feeds: cut.feeds,
      minutes: spent[i].seconds / 60,
      lengthMm: spent[i].lengthMm,
    })),
  };
}
