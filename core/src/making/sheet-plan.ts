import {
  CLEARANCE,
  type Cut,
  type CutChoice,
  cutPlan,
  type CutPlan,
  laidOut,
  PlanError,
  type Progress,
  type Purpose,
  type Run,
  zeroOf,
} from '../cutting/index.js';
import { dryRunOfSheet, isProven, type SheetRun, type Target } from '../dry-run/index.js';
import { type Program, programsOf } from '../gcode/index.js';
import { type Box, direction, type Placement, placePolyline, placeRings } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { turningTools } from './stage.js';
import { filesOf, type PlannedFile } from './written-plan.js';

/** A work on a sheet: turned about its origin by degrees, then moved. */
export interface SheetWork {
  /** What it is called in programs and in what is told. */
  readonly name: string;
  readonly evaluation: Evaluation;
  readonly x: number;
  readonly y: number;
  readonly turn: number;
}

/** What several works are cut out of, in mm; its lower left corner is the origin. */
export interface SheetOfWorks {
  readonly width: number;
  readonly height: number;
  /** Between any two works at least. */
  readonly spacing: number;
}

/** How one work of a sheet comes out. */
export interface WorkOutcome {
  readonly name: string;
  readonly gougeMm: number;
  readonly leftAreaMm2: number;
  readonly leftVolumeMm3: number;
  /** What its plan foresees to stay. */
  readonly left: readonly { readonly areaMm2: number; readonly reason: string }[];
}

/** The programs of a sheet, one for each tool in turn, and what a dry run of them showed. */
export interface SheetPlan {
  readonly cuts: readonly Cut[];
  readonly programs: readonly Program[];
  readonly files: readonly PlannedFile[];
  readonly run: SheetRun;
  readonly works: readonly WorkOutcome[];
  readonly stock: { readonly top: number; readonly bottom: number };
  readonly zero: CutPlan['zero'];
  readonly minutes: number;
  readonly lengthMm: number;
  readonly isProven: boolean;
}

/** Of the work that programs are laid, written, and run dry: part of the progress after each. */
const LAID = 0.6;
/** What sets a work free, and is done when all are finished. */
const FREEING: ReadonlySet<Purpose> = new Set(['window', 'cut out']);

/**
 * Lays the cuts of works on a sheet as those of each alone, in a stock of one thickness, and goes through all works with one tool before the
 * next is taken up; windows and the works themselves are cut out when all else is done. What is alike is laid once. The programs are read
 * back and cut out of the sheet.
 * @param choice as for one work; clamps lie on the sheet
 * @throws PlanError where a work cannot be laid, is of another thickness, or works lie too near to each other for the tool that cuts them out
 */
export function sheetPlan(
  works: readonly SheetWork[],
  sheet: SheetOfWorks,
  choice: CutChoice,
  title: string,
  { cell, progress }: { readonly cell?: number; readonly progress?: Progress } = {},
): SheetPlan {
  if (works.length === 0) throw new PlanError('Nothing lies on the sheet.');
  const turned = works.find(({ evaluation }) => evaluation.sign.parts.some(({ side }) => side === 'back'));
  if (turned) throw new PlanError(`${turned.name} has a back, and a sheet is cut from the front alone: lay its cuts by itself, a side after the other.`); // prettier-ignore
  const own: CutChoice = { ...choice, clamps: [] };
  const stocks = works.map(({ evaluation }) => laidOut(evaluation, own).stock);
  const top = Math.max(...stocks.map((stock) => stock.top));
  const { bottom } = stocks[0];
  const strange = stocks.findIndex((stock) => stock.bottom !== bottom);
  if (strange > 0)
    throw new PlanError(`${works[strange].name} is ${-stocks[strange].bottom} mm thick and ${works[0].name} ${-bottom} mm: cut them from sheets of their own.`); // prettier-ignore
  const laid = new Map<Evaluation, CutPlan>();
  const plans = works.map(({ name, evaluation }, i) => {
    const tell = (part: number) => progress?.((LAID * (i + part)) / works.length, `Laying ${name}`);
    tell(0);
    const known = laid.get(evaluation);
    if (known) return known;
    const plan = cutPlan(evaluation, { ...own, stockThickness: top + evaluation.sign.blank.thickness }, tell);
    laid.set(evaluation, plan);
    return plan;
  });
  judgeSpacing(plans, sheet);
  const placements = works.map(placementOf);
  const cuts = inTurn(works.map(({ name }, i) => plans[i].cuts.map((cut) => movedCut(cut, placements[i], name))));
  const box: Box = { minX: 0, minY: 0, maxX: sheet.width, maxY: sheet.height };
  const zero = zeroOf(choice, { box, top, bottom });
  const safe = top + CLEARANCE + choice.clamps.reduce((most, { above }) => Math.max(most, above), 0);
  const programs = programsOf({ choice, zero, safe, cuts }, title);
  progress?.(LAID, 'Dry run');
  const { machine, tools, overcut, clamps } = choice;
  const run = dryRunOfSheet(
    programs,
    plans.map((plan, i) => targetOf(plan, placements[i], { top, bottom })),
    {
      ...{ tools: turningTools(tools), limits: machine, zero, area: machine.area, travel: machine.travel, bed: overcut },
      clamps: clamps.map(({ x, y, width, height, above }) => ({ minX: x, minY: y, maxX: x + width, maxY: y + height, top: top + above })), // prettier-ignore
    },
    { cell, progress: (part) => progress?.(LAID + (1 - LAID) * part, 'Dry run') },
  );
  const files = filesOf(programs, machine);
  return {
    ...{ cuts, programs, files, run, zero, stock: { top, bottom } },
    works: works.map(({ name }, i) => {
      const { gougeMm, leftAreaMm2, leftVolumeMm3 } = run.of[i];
      const left = plans[i].left.map(({ areaMm2, reason }) => ({ areaMm2, reason }));
      return { name, gougeMm, leftAreaMm2, leftVolumeMm3, left };
    }),
    minutes: files.reduce((sum, file) => sum + file.minutes, 0),
    lengthMm: run.duration.lengthMm,
    isProven: isProven(run),
  };
}

/** What frees a work goes around it: where the next lies nearer than that tool is wide, it would be cut into. */
function judgeSpacing(plans: readonly CutPlan[], { spacing }: SheetOfWorks): void {
  if (plans.length < 2) return;
  const freeing = plans.flatMap(({ cuts }) => cuts.filter(({ purpose }) => purpose === 'cut out'));
  const widest = freeing.reduce((most, { tool }) => Math.max(most, tool.form.diameter), 0);
  if (widest > spacing)
    throw new PlanError(`Plates lie ${spacing} mm apart and are cut out by a tool of ${widest} mm: lay them ${Math.ceil(widest * 10) / 10} mm apart, or allow a smaller tool alone.`); // prettier-ignore
}

function placementOf({ x, y, turn }: SheetWork): Placement {
  const { cos, sin } = direction(turn);
  return { a: cos, b: sin, c: -sin, d: cos, e: x, f: y };
}

function movedCut(cut: Cut, placement: Placement, name: string): Cut {
  const point = (x: number, y: number): readonly [number, number] => [
    placement.a * x + placement.c * y + placement.e,
    placement.b * x + placement.d * y + placement.f,
  ];
  const runs = cut.runs.map((run): Run => {
    const [x, y] = point(run.x, run.y);
    const stretches = run.stretches.map(({ points, pace }) => {
      const moved = points.slice();
      for (let i = 0; i < points.length; i += 3) [moved[i], moved[i + 1]] = point(points[i], points[i + 1]);
      return { points: moved, pace };
    });
    return { ...run, x, y, stretches };
  });
  // The way to the next work leads over the stock.
  const [first, ...rest] = runs;
  return { ...cut, of: name, runs: first ? [{ ...first, over: undefined }, ...rest] : [] };
}

/** The cuts of works, each in its order, with as few changes of tools as a simple rule finds; those that free a work after all others. */
function inTurn(works: readonly (readonly Cut[])[]): Cut[] {
  const phase = (isFreeing: boolean): Cut[] => byTool(works.map((cuts) => cuts.filter(({ purpose }) => FREEING.has(purpose) === isFreeing))); // prettier-ignore
  return [...phase(false), ...phase(true)];
}

function byTool(works: readonly (readonly Cut[])[]): Cut[] {
  const at = works.map(() => 0);
  const done: Cut[] = [];
  for (;;) {
    // The tool that the most works are ready for, less those that will need it once more.
    const worth = new Map<string, number>();
    works.forEach((cuts, i) => {
      const ahead = cuts.slice(at[i]).map(({ tool }) => tool.id);
      for (const id of new Set(ahead)) worth.set(id, (worth.get(id) ?? 0) + (id === ahead[0] ? 1 : -1));
    });
    const ready = works.flatMap((cuts, i) => (at[i] < cuts.length ? [cuts[at[i]].tool.id] : []));
    if (ready.length === 0) return done;
    const next = ready.reduce((best, id) => (worth.get(id)! > worth.get(best)! ? id : best));
    works.forEach((cuts, i) => {
      while (at[i] < cuts.length && cuts[at[i]].tool.id === next) done.push(cuts[at[i]++]);
    });
  }
}

function targetOf({ work, stock, waste }: CutPlan, placement: Placement, { top, bottom }: SheetPlan['stock']): Target {
  const { positions, triangles } = work.mesh;
  const moved = positions.slice();
  for (let i = 0; i < moved.length; i += 3) {
    const [x, y] = [positions[i], positions[i + 1]];
    moved[i] = placement.a * x + placement.c * y + placement.e;
    moved[i + 1] = placement.b * x + placement.d * y + placement.f;
  }
  const { minX, minY, maxX, maxY } = stock.box;
  const corners = placePolyline(Float64Array.of(minX, minY, maxX, maxY), placement);
  const box = {
    minX: Math.min(corners[0], corners[2]),
    minY: Math.min(corners[1], corners[3]),
    maxX: Math.max(corners[0], corners[2]),
    maxY: Math.max(corners[1], corners[3]),
  };
  const isSquare = Number.isInteger(Math.abs(placement.a));
  return {
    mesh: { positions: moved, triangles },
    blank: placeRings([work.blank], placement)[0],
    ...(isSquare && { box }),
    ...{ top, floor: bottom, waste: placeRings(waste, placement) },
  };
}
