/** What the plan's places are painted with. */
export type PlanPaint = 'heights' | 'finishes' | 'relief' | 'outlines' | 'stretch';

/** In the order in which they are offered, in the trade's words. */
export const PLAN_PAINTS: readonly { readonly value: PlanPaint; readonly words: string }[] = [
  { value: 'heights', words: 'heights' },
  { value: 'finishes', words: 'finishes' },
  { value: 'relief', words: 'light and shade' },
  { value: 'outlines', words: 'outlines only' },
  { value: 'stretch', words: 'stretch' },
];
