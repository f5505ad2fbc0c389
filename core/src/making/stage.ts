import { type CutChoice, type CutPlan } from '../cutting/index.js';
import { type Target, type TurningTool, type Workplace } from '../dry-run/index.js';
import { toolFormOf } from '../shop/index.js';

/** What a dry run of a plan's programs begins with. */
export interface Stage {
  readonly target: Target;
  readonly workplace: Workplace;
}

/** What of a plan decides what a dry run of its programs begins with. */
export interface Staged extends Pick<CutPlan, 'work' | 'stock' | 'zero' | 'pins'> {
  readonly choice: Pick<CutChoice, 'machine' | 'tools' | 'overcut' | 'clamps' | 'rotary'>;
  /** What falls off; nothing where it is not known. */
  readonly waste?: CutPlan['waste'];
}

/** The stock as it lies on the machine, with all that stands around it. */
export function stageOf({ work, stock, zero, pins, waste, choice }: Staged): Stage {
  const { machine, tools, overcut, clamps, rotary } = choice;
  const { travel } = machine;
  // Round there is no end; along the axis it reaches as far as before.
  const reach = rotary && machine.area[rotary.along === 'x' ? 'width' : 'height'];
  const area = rotary ? { width: Infinity, height: Infinity, [rotary.round === 'x' ? 'height' : 'width']: reach } : machine.area;
  return {
    target: { mesh: work.mesh, blank: work.blank, box: stock.box, top: stock.top, floor: stock.bottom, ...(waste && { waste }) },
    workplace: {
      tools: turningTools(tools),
      limits: machine,
      zero,
      area,
      travel,
      bed: overcut,
      pits: pins,
      clamps: clamps.map(({ x, y, width, height, above }) => ({ minX: x, minY: y, maxX: x + width, maxY: y + height, top: stock.top + above })), // prettier-ignore
    },
  };
}

/** Tools as they turn, by their places in the changer. */
export const turningTools = (tools: CutChoice['tools']): ReadonlyMap<number, TurningTool> =>
  new Map(tools.map((tool) => [tool.number, { ...tool, form: toolFormOf(tool) }]));
