import { type SignFault } from './faults.js';

/** What no document of this application holds, whatever it is of: looked for before anything else reads it, at little cost. */

const DEEPEST = 40;
const MOST_KEYS = 200;
const MOST_FAULTS = 20;

interface Place {
  readonly value: unknown;
  readonly key: string | number;
  readonly parent?: Place;
  readonly depth: number;
}

const pathOf = (place: Place): string => {
  const keys: (string | number)[] = [];
  for (let at: Place | undefined = place; at?.parent; at = at.parent) keys.unshift(at.key);
  return keys.reduce<string>((path, key) => (typeof key === 'number' ? `${path}[${key}]` : path ? `${path}.${key}` : key), '');
};

/**
 * Values nested too deep, objects with too many fields, and texts that are none: NUL, which PostgreSQL keeps in no text, and halves of
 * characters (lone surrogates), which no encoding has.
 * @param document as JSON gives it
 */
export function implausible(document: unknown): SignFault[] {
  const faults: SignFault[] = [];
  const add = (place: Place, message: string): void => void faults.push({ path: pathOf(place), message });
  const open: Place[] = [{ value: document, key: '', depth: 0 }];
  for (let place = open.pop(); place && faults.length < MOST_FAULTS; place = open.pop()) {
    const { value, depth } = place;
    if (typeof value === 'string') {
      const wrong = textFault(value);
      if (wrong) add(place, wrong);
    }
    if (typeof value !== 'object' || value === null) continue;
    if (depth === DEEPEST) {
      add(place, `is nested more than ${DEEPEST} deep, which nothing here is.`);
      continue;
    }
    const inner = { parent: place, depth: depth + 1 };
    if (Array.isArray(value)) {
      for (let i = value.length - 1; i >= 0; i--) open.push({ value: value[i], key: i, ...inner });
      continue;
    }
    const keys = Object.keys(value);
    if (keys.length > MOST_KEYS) {
      add(
        place,
        `has ${keys.length} fields, of which the last is “${shown(keys[keys.length - 1])}”: nothing here has more than ${MOST_KEYS}.`,
      );
      continue;
    }
    for (const key of keys.reverse()) {
      const wrong = textFault(key);
      if (wrong) add(place, `the name of a field ${wrong}`);
      open.push({ value: (value as Record<string, unknown>)[key], key, ...inner });
    }
  }
  return faults;
}

function textFault(text: string): string | undefined {
  if (text.includes('\0')) return 'has the character NUL in it, which no text has: take it out.';
  if (/[\uD800-\uDFFF]/u.test(text)) return 'has half of a character in it (a lone surrogate): take it out, or type it anew.';
  return undefined;
}

const shown = (key: string): string => (key.length > 40 ? `${key.slice(0, 39)}…` : key).replace(/[\0\uD800-\uDFFF]/gu, '?');
