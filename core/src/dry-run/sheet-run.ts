import Flatbush from 'flatbush';
import { bounds, type Box } from '../geometry/index.js';
import { type Motion } from '../program/index.js';
import { compared, type Difference } from './comparison.js';
import {
  type DryRun,
  type DryRunChoice,
  goThrough,
  Run,
  type Target,
  toolOf,
  type NamedProgram,
  type Workplace,
} from './dry-run.js';
import { Stock } from './stock.js';

/** A dry run of several works that are cut out of one stock. */
export interface SheetRun extends DryRun {
  /** What is left of each, in their order. */
  readonly of: readonly Difference[];
}

/** mm between the places at which the stock is looked at, where nothing else is asked. */
const CELL = 0.1;
/** mm that counts as no way. */
const NO_WAY = 1e-6;

/**
 * Runs programs on one stock that several works are cut out of, and compares what is left of each with it. Only what is within the box of a
 * work is kept as material: between works rapid moves may go over the stock alone, and are told as in material below its face.
 * @param targets works that do not overlap, all of a thickness
 * @throws DryRunError as a dry run of one work does
 */
export function dryRunOfSheet(
  programs: readonly NamedProgram[],
  targets: readonly Target[],
  workplace: Workplace,
  { cell = CELL, progress }: Pick<DryRunChoice, 'cell' | 'progress'> = {},
): SheetRun {
  const top = targets.reduce((most, target) => Math.max(most, target.top), -Infinity);
  const floor = targets.reduce((least, target) => Math.min(least, target.floor), Infinity);
  const boxes = targets.map((target) => target.box ?? bounds([target.blank])!);
  const stocks = targets.map((target, i) => new Stock({ x: boxes[i].minX, y: boxes[i].minY }, boxes[i].maxX - boxes[i].minX, boxes[i].maxY - boxes[i].minY, target.top, cell)); // prettier-ignore
  const { zero, limits, tools } = workplace;
  // What the bed, the clamps and the machine's reach say of a move is said once, by a stock without places.
  const around = new Run(
    new Stock({ x: 0, y: 0 }, 0, 0, top, cell),
    { mesh: EMPTY, blank: new Float64Array(), top, floor },
    workplace,
  );
  const runs = targets.map((target, i) => new Run(stocks[i], target, { zero, limits, tools, bed: Infinity }));
  const index = new Flatbush(Math.max(1, boxes.length));
  for (const { minX, minY, maxX, maxY } of boxes) index.add(minX, minY, maxX, maxY);
  if (boxes.length === 0) index.add(0, 0, 0, 0);
  index.finish();
  let betweenWorks = 0;
  const duration = goThrough(programs, workplace, top, (motion) => {
    const { form, shank, holder } = toolOf(motion, tools);
    around.move(motion);
    if (Math.min(motion.from.z, motion.to.z) >= top) return;
    const way = wayOf(motion);
    const reach = Math.max(form.diameter, shank, holder.diameter) / 2;
    const near = boxes.length === 0 ? [] : index.search(way.minX - reach, way.minY - reach, way.maxX + reach, way.maxY + reach);
    for (const i of near) runs[i].move(motion);
    const isAcross = way.maxX - way.minX > NO_WAY || way.maxY - way.minY > NO_WAY;
    if (motion.kind === 'rapid' && isAcross && !boxes.some((box) => isWithin(way, box, form.diameter))) betweenWorks++;
  }, progress); // prettier-ignore
  const of = targets.map(({ mesh, blank, floor: under, waste }, i) => compared(stocks[i], mesh, blank, under, waste));
  const sum = (pick: (each: Difference) => number): number => of.reduce((all, each) => all + pick(each), 0);
  const most = (pick: (each: Difference) => number): number => of.reduce((all, each) => Math.max(all, pick(each)), 0);
  const told = runs.map((run) => run.mishaps());
  const { belowBed, inClamps, isOutside } = around.mishaps();
  return {
    gougeMm: most(({ gougeMm }) => gougeMm),
    gougeAreaMm2: sum(({ gougeAreaMm2 }) => gougeAreaMm2),
    leftAreaMm2: sum(({ leftAreaMm2 }) => leftAreaMm2),
    leftVolumeMm3: sum(({ leftVolumeMm3 }) => leftVolumeMm3),
    deepestLeftMm: most(({ deepestLeftMm }) => deepestLeftMm),
    rapidsInMaterial: told.reduce((all, { rapidsInMaterial }) => all + rapidsInMaterial, betweenWorks),
    holderTouches: told.reduce((all, { holderTouches }) => all + holderTouches, 0),
    spindleStill: told.reduce((all, { spindleStill }) => all + spindleStill, 0),
    ...{ belowBed, inClamps, isOutside, duration, of },
  };
}

const EMPTY = { positions: new Float64Array(), triangles: new Uint32Array() };

/** The box around a move's way; an arc lies within its circle. */
function wayOf({ from, to, arc }: Motion): Box {
  const minX = Math.min(from.x, to.x);
  const maxX = Math.max(from.x, to.x);
  const minY = Math.min(from.y, to.y);
  const maxY = Math.max(from.y, to.y);
  if (arc?.plane !== 'xy') return { minX, minY, maxX, maxY };
  const { centre: [x, y], radius } = arc; // prettier-ignore
  return { minX: Math.min(minX, x - radius), maxX: Math.max(maxX, x + radius), minY: Math.min(minY, y - radius), maxY: Math.max(maxY, y + radius) }; // prettier-ignore
}

const isWithin = (way: Box, box: Box, by: number): boolean =>
  way.minX >= box.minX - by && way.maxX <= box.maxX + by && way.minY >= box.minY - by && way.maxY <= box.maxY + by;
