import { bounds, type Contour } from '../geometry/index.js';
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
import { type ToolForm } from './tool-form.js';

/** What is to come out of a program. */
export interface Target {
  readonly mesh: Mesh;
  readonly blank: Contour;
  /** Heights of the stock's face and underside. */
  readonly top: number;
  readonly floor: number;
}

export interface Workplace {
  /** Of every place in the changer. */
  readonly forms: ReadonlyMap<number, ToolForm>;
  readonly limits: MotionLimits;
  /** What is added to a program's places to get the sign's, in mm. */
  readonly zero: Place;
}

export interface DryRun extends Difference {
  /** Rapid moves that cut. */
  readonly rapidsInMaterial: number;
  readonly duration: Duration;
}

/** mm between the places at which the stock is looked at, where nothing else is asked. */
const CELL = 0.1;

/** A program that is run: its text, and what it is called. */
export interface NamedProgram {
  readonly name: string;
  readonly text: string;
}

/** A program that cannot be read, or not be run here, with its name and line. */
export class DryRunError extends Error {}

/**
 * Runs programs one after the other on one stock, and compares what is left with the sign. Programs are read back as they are written.
 * @throws DryRunError where one cannot be read, or moves with a tool that is not there
 */
export function dryRun(
  programs: readonly NamedProgram[],
  target: Target,
  { forms, limits, zero }: Workplace,
  cell = CELL,
): DryRun {
  const { minX, minY, maxX, maxY } = bounds([target.blank])!;
  const stock = new Stock({ x: minX, y: minY }, maxX - minX, maxY - minY, target.top, cell);
  let rapidsInMaterial = 0;
  const steps = function* ({ name, text }: NamedProgram): Generator<Step> {
    try {
      for (const step of readProgram(text)) {
        yield step;
        if (step.kind !== 'rapid' && step.kind !== 'feed') continue;
        const { deepest } = stock.cut(moved(step, zero), formOf(step, forms));
        if (step.kind === 'rapid' && deepest > 0) rapidsInMaterial++;
      }
    } catch (error) {
      if (error instanceof ProgramError || error instanceof DryRunError) throw new DryRunError(`${name}: ${error.message}`);
      throw error;
    }
  };
  const all = function* (): Generator<Step> {
    for (const program of programs) yield* steps(program);
  };
  const duration = durationOf(all(), limits);
  return { ...compared(stock, target.mesh, target.blank, target.floor), rapidsInMaterial, duration };
}

function formOf({ tool, line }: Motion, forms: ReadonlyMap<number, ToolForm>): ToolForm {
  const form = forms.get(tool);
  if (form) return form;
  const known = [...forms.keys()].map((number) => `T${number}`).join(', ');
  throw new DryRunError(
    tool === 0
      ? `Line ${line} moves before a tool was taken up: a program begins with a tool and M6, such as T1 M6.`
      : `Line ${line} moves with T${tool}, which is no tool of the shop: it has ${known || 'none'}.`,
  );
}

function moved(motion: Motion, zero: Place): Motion {
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
