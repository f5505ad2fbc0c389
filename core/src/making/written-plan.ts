import { type CutChoice, type CutPlan, cutPlan, type Progress } from '../cutting/index.js';
import { type DryRun, dryRun, isProven, type TurningTool } from '../dry-run/index.js';
import { type Program, programsOf } from '../gcode/index.js';
import { durationOf, readProgram } from '../program/index.js';
import { type Evaluation } from '../relief/index.js';
import { type ShopMachine, toolFormOf } from '../shop/index.js';
import { solidOf } from '../solid/index.js';

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

/** Something that stays, and why. */
export interface ToldLeft {
  readonly areaMm2: number;
  readonly volumeMm3: number;
  readonly deepestMm: number;
  readonly reason: string;
}

/** A plan with its programs, and what a dry run of them showed. */
export interface WrittenPlan {
  readonly plan: CutPlan;
  readonly programs: readonly Program[];
  readonly run: DryRun;
  readonly files: readonly PlannedFile[];
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

export interface WritingChoice {
  /** mm between the places at which the dry run looks. */
  readonly cell?: number;
  readonly progress?: Progress;
}

/** Part of the progress that laying the plan is. */
const LAYING = 0.7;

/**
 * Lays the cuts of a sign, writes their programs, reads these back and cuts them out of the stock, and compares that with the sign.
 * @throws PlanError, DryRunError
 */
export function writtenPlan(evaluation: Evaluation, choice: CutChoice, { cell, progress }: WritingChoice = {}): WrittenPlan {
  const plan = cutPlan(evaluation, choice, (part, words) => progress?.(part * LAYING, words));
  const programs = programsOf(plan, evaluation.sign.title);
  progress?.(LAYING, 'Dry run');
  const { machine } = choice;
  const clamps = choice.clamps.map(({ x, y, width, height, above }) => ({
    minX: x,
    minY: y,
    maxX: x + width,
    maxY: y + height,
    top: plan.stock.top + above,
  }));
  const run = dryRun(
    programs,
    {
      mesh: solidOf(evaluation),
      blank: evaluation.blank,
      top: plan.stock.top,
      floor: plan.stock.bottom,
      waste: plan.waste,
    },
    {
      tools: turningTools(choice.tools),
      limits: machine,
      zero: plan.zero,
      area: machine.area,
      travel: machine.travel,
      bed: choice.overcut,
      clamps,
    },
    cell,
  );
  const files = programs.map((program) => plannedFile(program, machine));
  const minutes = files.reduce((sum, file) => sum + file.minutes, 0);
  return {
    plan,
    programs,
    run,
    files,
    stock: { top: plan.stock.top, bottom: plan.stock.bottom },
    zero: plan.zero,
    minutes,
    lengthMm: run.duration.lengthMm,
    airMm: run.duration.rapidMm,
    airMinutes: run.duration.rapidSeconds / 60,
    left: plan.left.map(({ areaMm2, volumeMm3, deepestMm, reason }) => ({ areaMm2, volumeMm3, deepestMm, reason })),
    gougeMm: run.gougeMm,
    gougeAreaMm2: run.gougeAreaMm2,
    leftAreaMm2: run.leftAreaMm2,
    leftVolumeMm3: run.leftVolumeMm3,
    isProven: isProven(run),
  };
}

/** Tools as they turn, by their places in the changer. */
export const turningTools = (tools: CutChoice['tools']): ReadonlyMap<number, TurningTool> =>
  new Map(tools.map((tool) => [tool.number, { ...tool, form: toolFormOf(tool) }]));

/** A program's own time, with the change to its tool. */
function plannedFile({ name, tool, text }: Program, machine: ShopMachine): PlannedFile {
  const { seconds, lengthMm, toolChanges } = durationOf(readProgram(text), machine);
  const { form } = tool;
  return {
    name,
    tool: {
      number: tool.number,
      kind: form.kind,
      diameter: form.diameter,
      ...('angle' in form && { angle: form.angle }),
      ...('tip' in form && { tip: form.tip }),
    },
    minutes: (seconds + toolChanges * machine.toolChange) / 60,
    lengthMm,
  };
}
