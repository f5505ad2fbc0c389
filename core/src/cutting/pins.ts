import { circle } from '../geometry/index.js';
import { type ShopTool } from '../shop/index.js';
import { type CutChoice, type Pins } from './choice.js';
import { drillFor, drillRun } from './drilling.js';
import { PlanError } from './plan-error.js';
import { profileRun } from './profile.js';
import { PATH_TOLERANCE } from './regions.js';
import { type Run } from './toolpath.js';
import { type PinHole, type StockBox } from './workpiece.js';

/** mm that stay between a pin and the way of the tool that cuts the sign out. */
const PIN_GAP = 1;

/** @throws PlanError where the tool that cuts out comes to pins */
export function judgePins({ apart, diameter }: Pins, cuttingOut: ShopTool | undefined): void {
  const least = diameter / 2 + (cuttingOut?.form.diameter ?? 0) + PIN_GAP;
  if (apart >= least) return;
  throw new PlanError(
    `The pins stand ${shown(apart)} mm off the sign, and ${cuttingOut?.name ?? 'the tool'} that cuts it out would come to them: put them at least ${shown(least)} mm off.`,
  );
}

/**
 * The tool that holes for pins are cut with, and its runs: a drill as wide as they are, else the largest end mill that goes down around them
 * in a helix without leaving anything in the middle.
 * @throws PlanError where no tool does
 */
export function pinRuns(
  holes: readonly PinHole[],
  choice: CutChoice,
  { top, bottom }: StockBox,
  safe: number,
): { readonly tool: ShopTool; readonly runs: readonly Run[] } {
  const [{ diameter, bottom: ground }] = holes;
  const depth = top - ground;
  const drill = drillFor(holes[0], choice.tools, depth);
  if (drill) return { tool: drill, runs: holes.map((hole) => drillRun(hole, diameter, top, ground, safe)) };
  const [mill] = choice.tools
    .filter(
      ({ form, left, cuttingLength }) =>
        form.kind === 'end' && left > 0 && cuttingLength >= depth && form.diameter < diameter && 2 * form.diameter >= diameter,
    ) // prettier-ignore
    .sort((a, b) => b.form.diameter - a.form.diameter);
  if (!mill) {
    const deep = `${shown(depth)} mm deep (${shown(bottom - ground)} mm of it into the bed)`;
    throw new PlanError(
      `No tool makes the holes for pins, ⌀ ${shown(diameter)} mm and ${deep}: tick a drill of that diameter, or an end mill from ${shown(diameter / 2)} mm up to less than that, that is as long; or have pins of another diameter.`,
    );
  }
  const radius = mill.form.diameter / 2;
  const how = {
    bottom: ground,
    mostDepth: Math.min(mill.cuttingLength, choice.material.depthPerPass * mill.form.diameter),
    radius,
    holding: { kind: 'nothing' } as const,
    isClimb: choice.direction === 'climb',
    safe,
    keepOff: [],
  };
  const runs = holes.map(({ x, y }) => {
    const ring = circle(x, y, diameter / 2 - radius, PATH_TOLERANCE);
    return profileRun({ ring, from: top }, how).run;
  });
  return { tool: mill, runs };
}

const shown = (mm: number): string => String(Number(mm.toFixed(2)));
