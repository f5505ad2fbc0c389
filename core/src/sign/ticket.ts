import { formatLength, type LengthUnit } from '../units/index.js';
import type { FontEntry } from '../type/index.js';
import type { Action, Area, Part, Sign, Tier } from './schema.js';

/** Where a value stands in the sign document. */
export type FieldPath = readonly (string | number)[];

/** A value that is edited where it stands in the sentence. */
export type TicketField =
  | { readonly kind: 'length'; readonly path: FieldPath; readonly value: number; readonly label: string }
  | { readonly kind: 'number'; readonly path: FieldPath; readonly value: number; readonly label: string; readonly suffix: string }
  | { readonly kind: 'words'; readonly path: FieldPath; readonly value: string; readonly label: string }
  | { readonly kind: 'font'; readonly path: FieldPath; readonly value: string; readonly label: string }
  | {
      readonly kind: 'choice';
      readonly path: FieldPath;
      readonly value: string;
      readonly label: string;
      readonly choices: readonly { readonly value: string; readonly text: string }[];
    };

/** A piece of a sentence: plain words, or a field with the text that stands for it. */
export interface TicketWord {
  readonly text: string;
  readonly field?: TicketField;
  /** Says what goes without saying ("turned 0°"): shown where it can be edited, left out on the proof. */
  readonly isQuiet?: boolean;
}

/** One sentence of the ticket, about the blank, a part, or a tier of it. */
export interface Sentence {
  readonly part?: string;
  readonly tier?: string;
  readonly words: readonly TicketWord[];
}

/** A sentence as plain text. */
export const sentenceText = (sentence: Sentence): string =>
  sentence.words
    .filter((word) => !word.isQuiet)
    .map((word) => word.text)
    .join('');

/** The ticket in paragraphs, one for the blank and one a part with its tiers, as it stands on the proof. */
export function ticketParagraphs(sentences: readonly Sentence[]): string[] {
  const paragraphs: { part: string | undefined; text: string }[] = [];
  for (const sentence of sentences) {
    const plainText = sentenceText(sentence);
    const text = plainText.charAt(0).toUpperCase() + plainText.slice(1);
    const last = paragraphs[paragraphs.length - 1];
    if (last && last.part === sentence.part) last.text += ` ${text}`;
    else paragraphs.push({ part: sentence.part, text });
  }
  return paragraphs.map(({ text }) => text);
}

/** The sign as a work order in sentences; what they say is what will be made. */
export function ticket(sign: Sign, catalogue: readonly FontEntry[]): Sentence[] {
  const write = new Writer(sign.unit, catalogue);
  return [
    blankSentence(sign, write),
    ...sign.parts.flatMap((part, index) => [
      partSentence(part, index, write),
      ...part.tiers.map((tier, at) => tierSentence(sign, part, index, tier, at, write)),
    ]),
  ];
}

class Writer {
  constructor(
    private readonly unit: LengthUnit,
    private readonly catalogue: readonly FontEntry[],
  ) {}

  length(label: string, value: number, ...path: FieldPath): TicketWord {
    return { text: formatLength(value, this.unit), field: { kind: 'length', path, value, label } };
  }
  number(label: string, value: number, suffix: string, ...path: FieldPath): TicketWord {
    return {
      text: `${Number(value.toFixed(2))}${suffix}`.replace('-', '−'),
      field: { kind: 'number', path, value, label, suffix },
    };
  }
  words(label: string, value: string, ...path: FieldPath): TicketWord {
    return { text: `“${value}”`, field: { kind: 'words', path, value, label } };
  }
  font(label: string, value: string, ...path: FieldPath): TicketWord {
    const entry = this.catalogue.find(({ id }) => id === value);
    return { text: entry ? `${entry.family} ${entry.style}` : value, field: { kind: 'font', path, value, label } };
  }
  choice(label: string, value: string, choices: readonly (readonly [string, string])[], ...path: FieldPath): TicketWord {
    const options = choices.map(([key, text]) => ({ value: key, text }));
    const text = options.find((option) => option.value === value)?.text ?? value;
    return { text, field: { kind: 'choice', path, value, label, choices: options } };
  }
}

const plain = (text: string): TicketWord => ({ text });

const quietIf = (isQuiet: boolean, ...words: TicketWord[]): TicketWord[] =>
  isQuiet ? words.map((word) => ({ ...word, isQuiet })) : words;

function blankSentence({ blank }: Sign, write: Writer): Sentence {
  const { outline, thickness, material } = blank;
  return {
    words: [
      plain('The blank is '),
      write.length('width', outline.width, 'blank', 'outline', 'width'),
      plain(' wide, '),
      write.length('height', outline.height, 'blank', 'outline', 'height'),
      plain(' high and '),
      write.length('thickness', thickness, 'blank', 'thickness'),
      plain(' thick'),
      ...quietIf(
        outline.cornerRadius === 0,
        plain(', corners rounded '),
        write.length('corner radius', outline.cornerRadius, 'blank', 'outline', 'cornerRadius'),
      ),
      ...(material ? [plain(`, in ${material}`)] : []),
      plain('.'),
    ],
  };
}

const ALIGN = [
  ['centre', 'centred'],
  ['left', 'set left'],
  ['right', 'set right'],
] as const;

function placeWords(part: Part, index: number, write: Writer): TicketWord[] {
  return [
    write.length('place across', part.place.x, 'parts', index, 'place', 'x'),
    plain(' across and '),
    write.length('place up', part.place.y, 'parts', index, 'place', 'y'),
    plain(' up from the middle'),
    ...quietIf(
      part.place.turn === 0,
      plain(', turned '),
      write.number('turn', part.place.turn, '°', 'parts', index, 'place', 'turn'),
    ),
    ...(part.place.mirror ? [plain(', mirrored')] : []),
  ];
}

function partSentence(part: Part, index: number, write: Writer): Sentence {
  if (part.kind === 'text') {
    const lines = part.words.includes('\n');
    return {
      part: part.id,
      words: [
        write.words('words', part.words, 'parts', index, 'words'),
        plain(' set in '),
        write.font('font', part.font, 'parts', index, 'font'),
        plain(', capitals '),
        write.length('cap height', part.capHeight, 'parts', index, 'capHeight'),
        plain(' tall'),
        ...quietIf(
          part.tracking === 0,
          plain(', tracking '),
          write.number('tracking', part.tracking, ' %', 'parts', index, 'tracking'),
        ),
        ...(lines ? [plain(', leading '), write.number('leading', part.leading, ' %', 'parts', index, 'leading')] : []),
        plain(', '),
        write.choice('alignment', part.align, ALIGN, 'parts', index, 'align'),
        plain(' at '),
        ...placeWords(part, index, write),
        plain('.'),
      ],
    };
  }
  const { shape } = part;
  const sizes =
    shape.kind === 'circle'
      ? [plain(': a circle of '), write.length('diameter', shape.diameter, 'parts', index, 'shape', 'diameter')]
      : [
          plain(': a rectangle '),
          write.length('width', shape.width, 'parts', index, 'shape', 'width'),
          plain(' wide and '),
          write.length('height', shape.height, 'parts', index, 'shape', 'height'),
          plain(' high'),
          ...quietIf(
            shape.cornerRadius === 0,
            plain(', corners rounded '),
            write.length('corner radius', shape.cornerRadius, 'parts', index, 'shape', 'cornerRadius'),
          ),
        ];
  return {
    part: part.id,
    words: [plain(part.name), ...sizes, plain(', middle at '), ...placeWords(part, index, write), plain('.')],
  };
}

/** The actions that can be chosen, in the trade's words. */
export const ACTION_WORDS: readonly (readonly [Action['kind'], string])[] = [
  ['raise', 'raised'],
  ['carve', 'carved'],
  ['set', 'set to a level'],
  ['cut-through', 'cut through'],
  ['line', 'line engraved'],
];

/** "The face", or the floor or top of every earlier part, as values of a choice. */
export function hostChoices(sign: Sign, before: number): (readonly [string, string])[] {
  return [
    ['face', 'the face'] as const,
    ...sign.parts
      .slice(0, before)
      .flatMap(({ id, name }) => [
        [`floor:${id}`, `the floor of ${name}`] as const,
        [`top:${id}`, `the top of ${name}`] as const,
      ]),
  ];
}

/** What a part sits on, as one of {@link hostChoices}. */
export const hostValue = ({ sitsOn }: Part): string => (sitsOn.kind === 'face' ? 'face' : `${sitsOn.at}:${sitsOn.part}`);

/** The counterpart of {@link hostValue}. */
export function hostFrom(value: string): Part['sitsOn'] {
  const match = /^(floor|top):(.+)$/u.exec(value);
  return match ? { kind: 'part', at: match[1] as 'floor' | 'top', part: match[2] } : { kind: 'face' };
}

function areaWords(area: Area, path: FieldPath, write: Writer): TicketWord[] {
  if (area.kind === 'outline') return [];
  return [plain(', its outline grown by '), write.length('growth', area.by, ...path, 'area', 'by')];
}

function tierSentence(sign: Sign, part: Part, index: number, tier: Tier, at: number, write: Writer): Sentence {
  const path: FieldPath = ['parts', index, 'tiers', at];
  const { action } = tier;
  const host = write.choice('host', hostValue(part), hostChoices(sign, index), 'parts', index, 'sitsOn');
  const kind = write.choice('action', action.kind, ACTION_WORDS, ...path, 'action', 'kind');
  const words: TicketWord[] = [kind];
  switch (action.kind) {
    case 'raise':
    case 'carve':
      words.push(
        plain(' by '),
        write.length(action.kind === 'raise' ? 'height' : 'depth', action.by, ...path, 'action', 'by'),
        plain(' from '),
        host,
      );
      break;
    case 'set':
      words.push(plain(': '), write.length('level', action.to, ...path, 'action', 'to'), plain(' from '), host);
      break;
    case 'line':
      words.push(
        plain(' '),
        write.length('depth', action.depth, ...path, 'action', 'depth'),
        plain(' deep and '),
        write.length('groove width', action.width, ...path, 'action', 'width'),
        plain(' wide from '),
        host,
      );
      break;
    case 'cut-through':
      break;
  }
  words.push(...areaWords(tier.area, path, write), plain(tier.on ? '.' : ' (switched off).'));
  return { part: part.id, tier: tier.id, words };
}
