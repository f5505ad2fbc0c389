import { type ToolForm } from '../tooling/index.js';
import { type ShopTool } from './schema.js';

/** What a tool of the shop cuts as: an engraving point and a drill cut as a cone does. */
export function toolFormOf({ form }: Pick<ShopTool, 'form'>): ToolForm {
  if (form.kind === 'drill') return { kind: 'vee', diameter: form.diameter, angle: form.angle, tip: 0 };
  return form.kind === 'point' ? { ...form, kind: 'vee' } : form;
}
