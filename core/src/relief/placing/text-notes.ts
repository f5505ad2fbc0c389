import { type Note, note } from '../../notes/index.js';
import { type Sign, type TextPart } from '../../sign/index.js';
import { covers, type Fitted, type FontBook, type FontEntry } from '../../type/index.js';

/** That a font lacks characters, with the fonts that have them all; one that has every character of the words is offered. */
export function missingNote(part: TextPart, missing: readonly string[], { family, style }: FontEntry, book: FontBook): Note {
  const [first, ...rest] = missing.map((character) => book.covering(character.codePointAt(0)!));
  const others = first.filter(({ id }) => rest.every((entries) => entries.some((entry) => entry.id === id)));
  const codes = [...part.words].map((character) => character.codePointAt(0)!).filter((code) => code > 0x20);
  const whole = others.find((entry) => codes.every((code) => covers(entry, code)));
  const remedy = whole && ({ kind: 'font', font: whole.id, name: `${whole.family} ${whole.style}` } as const);
  const names = [...new Set(others.map((entry) => entry.family))];
  return note(
    'missing-characters',
    { part: part.id, ...(remedy && { remedy }) },
    part.name,
    missing,
    `${family} ${style}`,
    names,
  );
}

/** What was done to make a text fit its frame. */
export function fittedNote(fitted: Fitted, { id, name }: TextPart, { unit }: Sign): Note {
  const at = { part: id };
  switch (fitted.kind) {
    case 'tighten':
      return note('tightened', at, name, fitted.tracking);
    case 'narrow':
      return note('narrowed', at, name, fitted.percent);
    case 'reduce':
      return note('reduced', at, name, fitted.percent);
    case 'wrap':
      return note('wrapped', at, name, fitted.lines);
    case 'too-large':
      return note('too-large', at, name, fitted.across, fitted.up, unit);
  }
}
