import { type LetterByHand, type Sign, type Slot, type SlotSetting, SLOT_TOKEN } from '../sign/index.js';
import { plainWords } from '../type/index.js';
import { settingWords, withSetting } from './settings.js';

/** Values by the names of slots. */
export type Values = ReadonlyMap<string, string>;

/** What is otherwise on the plate of one row alone. */
export interface Correction {
  readonly sets: SlotSetting;
  readonly value: string;
}

/** A sign as it is made for one row of a list. */
export interface Filled {
  /** Without slots: its words are what they say. */
  readonly sign: Sign;
  /** Slots that had no value and must have one. */
  readonly refused: readonly string[];
  /** Why values choose nothing, in sentences. */
  readonly faults: readonly string[];
}

const declared = ({ slots = [] }: Sign): Map<string, Slot> => new Map(slots.map((slot) => [slot.name, slot]));

/** The names of a sign's slots that its words have, in the order in which they are read. */
export const slotsInWords = (sign: Sign): string[] => slotsAmong(sign, [sign.title, ...sign.parts.flatMap(wordsOf)]);

/** Whether words of a part have a slot in them. */
export const hasSlots = (sign: Sign, part: string): boolean =>
  slotsAmong(sign, sign.parts.filter(({ id }) => id === part).flatMap(wordsOf)).length > 0;

function slotsAmong(sign: Sign, words: readonly string[]): string[] {
  const known = declared(sign);
  const all = words.flatMap((each) => [...each.matchAll(SLOT_TOKEN)].map(([, name]) => name));
  return [...new Set(all)].filter((name) => known.has(name));
}

/** Whether a sign has anything for a list: slots in its words, or columns that choose. */
export const takesLists = (sign: Sign): boolean => slotsInWords(sign).length > 0 || (sign.slots ?? []).some(({ sets }) => sets !== undefined); // prettier-ignore

function wordsOf(part: Sign['parts'][number]): string[] {
  if (part.kind === 'text') return [part.words];
  return part.shape.kind === 'braille' || part.shape.kind === 'code' ? [part.shape.words] : [];
}

/**
 * A sign with the values of a row in place of its slots. A line whose slots that close up have no value, and that has no other words, is
 * left out; one that has others goes without the blank that a missing value leaves. What was set on letters stays on the letters that are
 * still there: in a slot on as many of the value as the slot's own name had.
 * @param values by the names of slots; one that is not there is empty
 * @param corrections of this row alone, after all that columns choose
 */
export function filled(sign: Sign, values: Values, corrections: readonly Correction[] = []): Filled {
  const slots = declared(sign);
  const refused = new Set<string>();
  const valueOf = (slot: Slot): string => {
    const given = plainWords(values.get(slot.name) ?? '').trim();
    const value = given === '' ? (slot.default ?? '') : given;
    if (value === '' && slot.empty === 'refuse') refused.add(slot.name);
    return cased(value, slot.case);
  };
  const rest = JSON.parse(JSON.stringify(sign)) as Sign;
  delete rest.slots;
  const parts = rest.parts.map((part) => {
    if (part.kind === 'text') {
      const { words, places } = filledWords(part.words, slots, valueOf);
      if (words === part.words) return part;
      const letters = part.letters && movedTo(part.letters, places);
      const isGone = words === '' && part.words !== '';
      return { ...part, words, ...(letters && { letters }), ...(isGone && { hidden: true }) };
    }
    if (part.shape.kind !== 'braille' && part.shape.kind !== 'code') return part;
    return { ...part, shape: { ...part.shape, words: filledWords(part.shape.words, slots, valueOf).words } };
  });
  const title = filledWords(rest.title, slots, valueOf).words.replaceAll('\n', ' ').slice(0, 200).trim() || rest.title;
  const faults: string[] = [];
  let own: Sign = { ...rest, title, parts };
  const chosen = [...slots.values()].flatMap(({ sets, ...slot }) =>
    sets ? [{ name: slot.name, sets, value: valueOf(slot) }] : [],
  );
  const alone = corrections.map(({ sets, value }) => ({ name: `For this plate alone ${settingWords(sign, sets)}`, sets, value }));
  // One option, the last that is said, and first of all, since it says of tiers what others say again.
  const all = [...chosen, ...alone].filter(({ value }) => value !== '');
  const option = all.filter(isOption).at(-1);
  for (const { name, sets, value } of [...(option ? [option] : []), ...all.filter((each) => !isOption(each))]) {
    const next = withSetting(own, { name }, sets, value);
    if (typeof next === 'string') faults.push(next);
    else own = next;
  }
  return { sign: own, refused: [...refused], faults };
}

const isOption = ({ sets }: { readonly sets: SlotSetting }): boolean => sets.kind === 'option';

function cased(value: string, to: Slot['case']): string {
  if (to === 'upper') return value.toUpperCase();
  if (to === 'lower') return value.toLowerCase();
  // The first letter of every word; what is written otherwise in the middle, such as McKay, stays.
  return to === 'title'
    ? value.replace(/(^|[\s-])(\p{Ll})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    : value;
}

interface FilledWords {
  readonly words: string;
  /** Where every character of the words before is now; −1 where it is gone. */
  readonly places: Int32Array;
}

function filledWords(before: string, slots: ReadonlyMap<string, Slot>, valueOf: (slot: Slot) => string): FilledWords {
  const plain = plainWords(before);
  const places = new Int32Array(plain.length).fill(-1);
  const lines: string[] = [];
  let [from, length] = [0, 0];
  for (const line of plain.split('\n')) {
    const { words, own, isLeftOut } = filledLine(line, slots, valueOf);
    if (!isLeftOut) {
      // The break before it.
      if (lines.length > 0) {
        places[from - 1] = length;
        length += 1;
      }
      own.forEach((at, i) => (places[from + i] = at < 0 ? -1 : length + at));
      lines.push(words);
      length += words.length;
    }
    from += line.length + 1;
  }
  return { words: lines.join('\n'), places };
}

interface FilledLine {
  readonly words: string;
  /** Where every character of the line is in the filled one; −1 where it is gone. */
  readonly own: readonly number[];
  readonly isLeftOut: boolean;
}

function filledLine(line: string, slots: ReadonlyMap<string, Slot>, valueOf: (slot: Slot) => string): FilledLine {
  const own: number[] = [];
  let [words, at, closes] = ['', 0, false];
  const copy = (to: number): void => {
    for (; at < to; at++) {
      own.push(words.length);
      words += line[at];
    }
  };
  for (const match of line.matchAll(SLOT_TOKEN)) {
    const [token, name] = match;
    const slot = name === undefined ? undefined : slots.get(name);
    copy(match.index);
    // The second brace of two.
    if (token === '{{') {
      own.push(words.length);
      at += 1;
      own.push(words.length);
      words += '{';
      at += 1;
    } else if (!slot) {
      copy(match.index + token.length);
    } else {
      const value = valueOf(slot);
      for (let k = 0; k < token.length; k++) own.push(k > 0 && k - 1 < value.length ? words.length + k - 1 : -1);
      words += value;
      at += token.length;
      if (value === '' && slot.empty === 'close') closes = true;
    }
  }
  copy(line.length);
  if (!closes) return { words, own, isLeftOut: false };
  return words.trim() === '' ? { words: '', own, isLeftOut: true } : { ...closedUp(words, own), isLeftOut: false };
}

/** Without the blanks that a missing value left: two in a row become one, and none are at the ends. */
function closedUp(words: string, own: readonly number[]): { readonly words: string; readonly own: readonly number[] } {
  const kept: number[] = [];
  let out = '';
  for (let i = 0; i < words.length; i++) {
    const isMore = words[i] === ' ' && (out === '' || out.endsWith(' ') || words.slice(i).trim() === '');
    kept.push(isMore ? -1 : out.length);
    if (!isMore) out += words[i];
  }
  return { words: out, own: own.map((at) => (at < 0 ? -1 : kept[at])) };
}

/** What was set on letters, on the same letters where they are now. */
function movedTo(letters: readonly LetterByHand[], places: Int32Array): LetterByHand[] {
  const moved = new Map<number, LetterByHand>();
  for (const letter of letters) {
    const at = places[letter.at] ?? -1;
    if (at >= 0) moved.set(at, { ...letter, at });
  }
  return [...moved.values()].sort((a, b) => a.at - b.at);
}
