import { type Block, BLOCKS, type SheetLayout } from '@plain-relief/core/sheet';

/** What a sheet can show, for those who choose. */
export const BLOCK_WORDS: Readonly<Record<Block, string>> = {
  section: 'section along the cut line',
  picture: 'picture in its finishes',
  ticket: 'ticket',
  notes: 'notes',
  fixing: 'fixing holes, studs and hardware',
  back: 'back',
  'named sections': 'named sections',
  options: 'options',
  spelling: 'spelling list',
  finishes: 'finishes with call-outs, material, weight',
  brief: 'what was ordered',
  revisions: 'revisions',
  terms: 'terms',
  standard: 'standard, clause by clause',
  'in place': 'signs in their places',
  checks: 'checks, for the shop’s copy',
};

/** Those on the pages by which a frozen proof is approved. */
export const CLOSING_BLOCKS: ReadonlySet<Block> = new Set(['spelling', 'brief', 'revisions', 'terms']);

/** Which way the paper of a layout lies. */
export type Way = 'by the sign' | 'upright' | 'across';

export const wayOf = ({ isTurnedBySign, isUpright }: SheetLayout): Way =>
  isTurnedBySign ? 'by the sign' : isUpright ? 'upright' : 'across';

/** Whether two layouts give the same sheet. */
export const isSameLayout = (a: SheetLayout, b: SheetLayout): boolean =>
  a.paper === b.paper &&
  wayOf(a) === wayOf(b) &&
  a.isInBothUnits === b.isInBothUnits &&
  (a.isInFinishes ?? false) === (b.isInFinishes ?? false) &&
  BLOCKS.every((block) => a.shows.includes(block) === b.shows.includes(block));
