import { type Part, type Sign, type Tier } from './schema.js';

/**
 * The part of a sign that takes most of its working out, by what is asked of it: how many letters and copies, with what sides. An
 * estimate from the document alone, so that it can be told of a sign that is never worked out to its end.
 */
export function costliestPart({ parts }: Sign): Part | undefined {
  const made = parts.filter(({ hidden, tiers }) => !hidden && tiers.some(({ on }) => on));
  return made.sort((a, b) => effortOf(b) - effortOf(a))[0];
}

/** How much more work the sides of tiers are than upright ones would be, in points that outlines have, about. */
export function effortOfSides(sign: Sign): number {
  const all = ({ parts }: Sign): number => parts.reduce((sum, part) => sum + (part.hidden ? 0 : effortOf(part)), 0);
  return all(sign) - all(withUprightSides(sign));
}

/** The sign with every side upright: its outlines and levels are the same. */
export function withUprightSides(sign: Sign): Sign {
  const blank = { ...sign.blank };
  delete blank.edge;
  delete blank.backEdge;
  const upright = (tier: Tier): Tier => {
    const other = { ...tier };
    delete other.edge;
    return other;
  };
  return { ...sign, blank, parts: sign.parts.map((part) => ({ ...part, tiers: part.tiers.map(upright) })) };
}

/** Lines that an edge form draws inside an outline, about. */
const LINES = { sloped: 2, chamfered: 2, ridged: 3, rounded: 8, cove: 8, domed: 5 } as const;
/** Points of a letter, about. */
const LETTER = 60;

/** Points of a module, and modules of a code of so many letters, about. */
const MODULE = 2;
const codeArea = (letters: number): number => 441 + 8 * letters;

/** Dots of a cell, about. */
const DOTS_IN_CELL = 3;

function effortOf(part: Part): number {
  const points =
    part.kind === 'text'
      ? LETTER * part.words.length
      : part.shape.kind === 'outline'
        ? Math.max(8, part.shape.path.length / 12)
        : part.shape.kind === 'braille'
          ? DOTS_IN_CELL * 16 * part.shape.cells.length
          : part.shape.kind === 'code'
            ? MODULE * codeArea(part.shape.words.length)
            : 40;
  const once = part.tiers.filter(({ on }) => on).reduce((sum, tier) => sum + points * effortOfTier(tier), 0);
  const count = copiesOf(part.copies);
  // Copies that overlap cross each other.
  return once * count * Math.sqrt(count);
}

/** Faces of a block that something is repeated on, or so. */
const ON_FACES = 8;
const copiesOf = (copies: Part['copies']): number => (copies?.kind === 'faces' ? ON_FACES : (copies?.count ?? 1));

const effortOfTier = ({ area, action, edge }: Tier): number =>
  (edge ? LINES[edge.kind] : 1) * (area.kind === 'outline' && action.kind !== 'line' ? 1 : 2);
