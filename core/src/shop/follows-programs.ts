import type { ShopMachine } from './schema.js';

/** Whether a machine is driven by the programs made here. */
export const followsPrograms = ({ kind }: Pick<ShopMachine, 'kind'>): boolean => kind === 'router' || kind === 'engraver';
