import { type Sign, type TextPart } from '../sign/index.js';
import { type CheckCode, type Finding } from './finding.js';

/** What words are checked against. */
export interface Words {
  /** Whether a word is spelt right; nothing is told of words where there is no dictionary. */
  readonly isKnown?: (word: string) => boolean;
  /** What may have been meant by a word that is not, the likeliest first. */
  readonly suggested?: (word: string) => readonly string[];
}

/** What of words is not as print has it, and what it would be. Latin alone. */
const WORDING: readonly { readonly check: CheckCode; readonly is: RegExp; readonly says: (found: string) => string }[] = [
  {
    check: 'straight-quotes',
    is: /["']/gu,
    says: (found) => `${found} is a straight mark of typewriters: print has ’ and “ ”.`,
  },
  {
    check: 'double-blank',
    is: / {2,}|^ +| +$/gmu,
    says: () => 'there are more spaces than one, or a space where a line begins or ends.',
  },
  {
    check: 'hyphen-for-dash',
    is: /(?<=\d)-(?=\d)|(?<= )-(?= )|--/gu,
    says: () => 'a hyphen stands where a dash belongs.',
  },
];

/** Words without figures, as dictionaries have them. */
const WORD = /\p{L}[\p{L}’']*\p{L}|\p{L}/gu;
const LATIN = /^[\p{Script=Latin}’']+$/u;
/** So many unknown words of a text are told one by one. */
const FEW = 4;

/** What is found of the words that are read on a sign. */
export function wordingFindings({ parts, checks }: Sign, { isKnown }: Words): Finding[] {
  const texts = parts.filter((part): part is TextPart => part.kind === 'text' && !part.hidden);
  const order = checks?.order;
  return [
    ...texts.flatMap((part) => [...marks(part), ...spelling(part, isKnown)]),
    ...(order === undefined || order.trim() === '' ? [] : ordered(texts, order)),
  ];
}

const placeOf = ({ place: { x, y } }: TextPart): { x: number; y: number } => ({ x, y });

function marks(part: TextPart): Finding[] {
  return WORDING.flatMap(({ check, is, says }) => {
    const found = [...part.words.matchAll(is)];
    if (found.length === 0) return [];
    return [
      {
        check,
        text: `${part.name}: ${says(found[0][0])}`,
        measured: found.length,
        limit: 0,
        places: [placeOf(part)],
        part: part.id,
      },
    ];
  });
}

/** The words with the marks of print: quotation marks open after a space and close after a letter. */
export function printed(words: string, check: CheckCode): string {
  switch (check) {
    case 'straight-quotes':
      return words
        .replace(/(^|[\s([{–—])"/gu, '$1“')
        .replace(/"/gu, '”')
        .replace(/(^|[\s([{–—“])'(?=\p{L}[^']*')/gu, '$1‘')
        .replace(/'/gu, '’');
    case 'double-blank':
      return words.replace(/ {2,}/gu, ' ').replace(/^ +| +$/gmu, '');
    case 'hyphen-for-dash':
      return words.replace(/--/gu, '–').replace(/(?<=\d)-(?=\d)|(?<= )-(?= )/gu, '–');
    default:
      return words;
  }
}

/** Words that no dictionary has: each once, and many of a text together. Lettering in capitals is looked up as it would be written. */
function spelling(part: TextPart, isKnown: Words['isKnown']): Finding[] {
  if (!isKnown) return [];
  const words = [...new Set(part.words.match(WORD) ?? [])].filter((word) => word.length > 2 && LATIN.test(word));
  const unknown = words.filter((word) => {
    const plain = word.replace(/’/gu, "'");
    const small = plain.toLowerCase();
    return ![plain, small, small[0].toUpperCase() + small.slice(1)].some(isKnown);
  });
  const finding = { check: 'unknown-word', limit: 0, places: [placeOf(part)], part: part.id } as const;
  if (unknown.length > FEW) {
    const first = unknown.slice(0, FEW).map((word) => `“${word}”`);
    const text = `${part.name}: ${first.join(', ')} and ${unknown.length - FEW} more are not in the dictionary.`;
    return [{ ...finding, text, measured: unknown.length, words: unknown }];
  }
  return unknown.map((word) => ({ ...finding, text: `${part.name}: “${word}” is not in the dictionary.`, measured: 1, about: word, words: [word] })); // prettier-ignore
}

/** A word as another one is written: in capitals, with a capital, or small. */
export function writtenAs(word: string, other: string): string {
  if (other === other.toUpperCase()) return word.toUpperCase();
  return other[0] === other[0].toUpperCase() ? word[0].toUpperCase() + word.slice(1) : word;
}

const wordsIn = (text: string): string[] =>
  text
    .toLowerCase()
    .normalize('NFC')
    .replace(/’/gu, "'")
    .match(/[\p{L}\p{N}][\p{L}\p{N}'-]*/gu) ?? [];

/** Words that the order has and the sign has not, and the other way round. */
function ordered(texts: readonly TextPart[], order: string): Finding[] {
  const [wanted, set] = [wordsIn(order), texts.flatMap(({ words }) => wordsIn(words))];
  const lacking = [...new Set(wanted)].filter((word) => !set.includes(word));
  const found: Finding[] = [];
  const some = (words: readonly string[]): string => words.slice(0, 6).map((word) => `“${word}”`).join(', ') + (words.length > 6 ? ` and ${words.length - 6} more` : ''); // prettier-ignore
  if (lacking.length > 0)
    found.push({
      check: 'not-ordered',
      text: `Ordered, but not on the sign: ${some(lacking)}.`,
      measured: lacking.length,
      limit: 0,
      places: [],
      about: 'lacking',
    });
  for (const part of texts) {
    const more = [...new Set(wordsIn(part.words))].filter((word) => !wanted.includes(word));
    if (more.length > 0)
      found.push({ check: 'not-ordered', text: `${part.name} says what was not ordered: ${some(more)}.`, measured: more.length, limit: 0, places: [placeOf(part)], part: part.id, about: 'more' }); // prettier-ignore
  }
  return found;
}
