/** What sheets of proofs are: their paper, and what they can show. */

/** Paper in mm, upright: ISO 216, and ANSI/ASME Y14.1 for Letter and Tabloid. */
export const PAPERS = {
  A4: [210, 297],
  A3: [297, 420],
  Letter: [215.9, 279.4],
  Tabloid: [279.4, 431.8],
} as const;
export type Paper = keyof typeof PAPERS;
export const PAPER_NAMES = Object.keys(PAPERS) as readonly Paper[];

/** Papers that a full-size template is printed on; a roll is one long sheet. */
export const TEMPLATE_PAPERS = [...PAPER_NAMES, 'roll'] as const;
export type TemplatePaper = (typeof TEMPLATE_PAPERS)[number];

/** What a sheet can show besides the plan. */
export const BLOCKS = [
  'section',
  'picture',
  'ticket',
  'notes',
  'fixing',
  'back',
  'named sections',
  'options',
  'spelling',
  'finishes',
  'brief',
  'revisions',
  'terms',
  'standard',
  'in place',
  'checks',
] as const;
export type Block = (typeof BLOCKS)[number];

export interface SheetLayout {
  readonly paper: Paper;
  readonly isUpright: boolean;
  /** The pages of every sign lie as its plan is drawn largest, and `isUpright` stands for the others alone. */
  readonly isTurnedBySign?: boolean;
  /** Lengths in the unit of the sign and in the other. */
  readonly isInBothUnits: boolean;
  /** Plans in their finishes and not by heights. */
  readonly isInFinishes?: boolean;
  readonly shows: readonly Block[];
}

export const EVERYTHING: SheetLayout = {
  paper: 'A4',
  isUpright: false,
  isTurnedBySign: true,
  isInBothUnits: false,
  isInFinishes: true,
  // What is checked is the shop's own business.
  shows: BLOCKS.filter((block) => block !== 'checks'),
};
