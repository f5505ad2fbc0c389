import { type ToolForm } from '../tooling/index.js';
import { type ShopTool } from './schema.js';

/** What a tool of the shop cuts as: an engraving point and a drill cut as a cone does. */
export function toolFormOf({ form }: Pick<ShopTool, 'form'>): ToolForm {
  if (form.kind === 'drill') return { kind: 'vee', diameter: form.diameter, angle: form.angle, tip: 0 };
  return form.kind === 'point' ? { ...form, kind: 'vee' } : form;
}

/** Degrees by which a slope may be steeper or flatter than a cone and still be cut by it at once. */
const ALIKE = 0.4;

/** Whether a tool is a cone as steep as a slope, given in degrees from level. */
export const isConeOf = ({ form }: Pick<ShopTool, 'form'>, degrees: number): boolean =>
  'angle' in form && Math.abs(90 - form.angle / 2 - degrees) <= ALIKE;
