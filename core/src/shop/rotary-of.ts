import { type Sign } from '../sign/index.js';
import { type ShopMachine } from './schema.js';

/** How a machine turns a sign that is bent around a cylinder, outside, while it cuts it; undefined where it does not. */
export function rotaryOf(
  { support }: Pick<Sign, 'support'>,
  { rotary }: Pick<ShopMachine, 'rotary'>,
): { readonly radius: number; readonly along: 'x' | 'y'; readonly round: 'x' | 'y' } | undefined {
  if ((rotary !== 'x' && rotary !== 'y') || support?.kind !== 'cylinder' || support.facing !== 'outside') return undefined;
  return { radius: Number(support.radius.toFixed(4)), along: rotary, round: support.axis === 'level' ? 'y' : 'x' };
}
