import { type Sign, type Slot } from '../sign/index.js';

/** A name that a slot can have: of a column, without braces and not too long. */
export const slotName = (column: string): string => column.replace(/[{}\n]/gu, ' ').replace(/ +/gu, ' ').trim().slice(0, 40).trim() || 'value'; // prettier-ignore

/** Words of a part that say something: of a text, of braille that follows none, of a code. */
export function wordsOfPart(sign: Sign, id: string): string | undefined {
  const part = sign.parts.find((each) => each.id === id);
  if (part?.kind === 'text') return part.words;
  if (part?.kind !== 'shape') return undefined;
  if (part.shape.kind === 'code') return part.shape.words;
  return part.shape.kind === 'braille' && part.shape.follows === undefined ? part.shape.words : undefined;
}

/** A sign with other words in a part. Slots that are declared stay so. */
export function withWords(sign: Sign, id: string, words: string): Sign {
  const parts = sign.parts.map((part) => {
    if (part.id !== id) return part;
    if (part.kind === 'text') return { ...part, words };
    if (part.shape.kind === 'code' || part.shape.kind === 'braille') return { ...part, shape: { ...part.shape, words } };
    return part;
  });
  return { ...sign, parts };
}

/** A sign with a slot in a part's words, after what it says, declared if it is not yet: a line without a value is left out. */
export function withSlotIn(sign: Sign, id: string, column: string): Sign {
  const name = slotName(column);
  const words = wordsOfPart(sign, id);
  if (words === undefined) return sign;
  const said = words === '' || /\s$/u.test(words) ? words : `${words} `;
  return withWords(withSlot(sign, { name, empty: 'close' }), id, `${said}{${name}}`);
}

/** A sign in which a slot is declared, unless one of the name is. */
export const withSlot = (sign: Sign, slot: Slot): Sign =>
  sign.slots?.some(({ name }) => name === slot.name) ? sign : { ...sign, slots: [...(sign.slots ?? []), slot] };

/** A sign with other settings of a slot, or without it where there are none; its words keep what they say. */
export function withSlotSet(sign: Sign, name: string, slot: Slot | undefined): Sign {
  const slots = (sign.slots ?? []).flatMap((each) => (each.name === name ? (slot ? [slot] : []) : [each]));
  const next = { ...sign, slots };
  if (slots.length > 0) return next;
  const rest: Sign = next;
  delete rest.slots;
  return rest;
}
