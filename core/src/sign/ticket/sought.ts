import { type Sign } from '../document/schema.js';
import { type Sentence, type TicketField, type Topic } from './sentence.js';

/** A value of the ticket, and where it is found. */
export interface SoughtValue {
  readonly field: TicketField;
  /** What it is called, whose it is, and what it is now. */
  readonly label: string;
  readonly about: string;
  readonly text: string;
  readonly topic: Topic;
  readonly part?: string;
  /** Goes without saying, and is shown when more is asked for. */
  readonly isQuiet: boolean;
}

/** Most values that are given for a question. */
const MOST = 8;

/**
 * The values of a ticket whose name, part or text has every word of a question, the likeliest first: of the selected part, then those
 * whose name begins with the question.
 * @param selected id of the part that is selected
 */
export function soughtValues(
  sentences: readonly Sentence[],
  sign: Pick<Sign, 'parts'>,
  question: string,
  selected?: string,
): SoughtValue[] {
  const words = question
    .toLowerCase()
    .split(/\s+/u)
    .filter((word) => word !== '');
  if (words.length === 0) return [];
  const names = new Map(sign.parts.map(({ id, name }) => [id, name]));
  const found = sentences.flatMap(({ part, topic, words: own }) =>
    own.flatMap(({ field, text, isQuiet = false }): SoughtValue[] => {
      if (!field) return [];
      const about = part === undefined ? 'Blank' : (names.get(part) ?? part);
      const all = `${about} ${field.label} ${text}`.toLowerCase();
      if (!words.every((word) => all.includes(word))) return [];
      return [{ field, label: field.label, about, text, topic, isQuiet, ...(part !== undefined && { part }) }];
    }),
  );
  const whole = words.join(' ');
  const rank = ({ part, about, label }: SoughtValue): number => {
    const isNamed = label.startsWith(whole) || `${about} ${label}`.toLowerCase().startsWith(whole) || whole.endsWith(label);
    return (isNamed ? 0 : 2) + (part === selected ? 0 : 1);
  };
  return found
    .map((value, i) => ({ value, i, rank: rank(value) }))
    .sort((a, b) => a.rank - b.rank || a.value.label.length - b.value.label.length || a.i - b.i)
    .slice(0, MOST)
    .map(({ value }) => value);
}
