import { freeId } from '../document/new-sign.js';
import { type NamedSection, type SectionLine, type Sign } from '../document/schema.js';

/** The named section that a line is; undefined where it is none. */
export const sectionAt = (sign: Sign, { x, y, turn }: SectionLine): NamedSection | undefined =>
  sign.sections?.find((each) => each.x === x && each.y === y && each.turn === turn);

/** The cut line of a sign under a name of its own: "A–A", then "B–B" … */
export function namedSection(sign: Sign): NamedSection {
  const taken = sign.sections ?? [];
  const names = [...'ABCDEFGHIJKLMNOPQRST'].map((letter) => `${letter}–${letter}`);
  const name = names.find((each) => taken.every((section) => section.name !== each)) ?? `${taken.length + 1}–${taken.length + 1}`;
  const id = freeId(
    'section',
    taken.map((section) => section.id),
  );
  return { id, name, ...sign.section };
}
