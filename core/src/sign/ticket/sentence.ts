import { type FontEntry } from '../../type/index.js';
import { formatLength, type LengthUnit } from '../../units/index.js';
import { type PartExtent } from '../document/copies.js';
import { type Finish, type Support } from '../document/schema.js';

/** Where a value stands in a sign. */
export type FieldPath = readonly (string | number)[];

/** A value that is edited where it stands in the sentence. */
export type TicketField =
  | { readonly kind: 'length'; readonly path: FieldPath; readonly value: number; readonly label: string }
  | { readonly kind: 'number'; readonly path: FieldPath; readonly value: number; readonly label: string; readonly suffix: string }
  | { readonly kind: 'words'; readonly path: FieldPath; readonly value: string; readonly label: string }
  /** A few words, such as a colour. */
  | { readonly kind: 'name'; readonly path: FieldPath; readonly value: string; readonly label: string }
  | { readonly kind: 'font'; readonly path: FieldPath; readonly value: string; readonly label: string }
  /** A length, or percent of something. */
  | { readonly kind: 'measure'; readonly path: FieldPath; readonly value: Measure; readonly label: string }
  | {
      readonly kind: 'choice';
      readonly path: FieldPath;
      readonly value: string;
      readonly label: string;
      readonly choices: readonly { readonly value: string; readonly text: string }[];
    };

/** A length in mm or percent, as margins and leading are given. */
export type Measure = { readonly kind: 'length'; readonly length: number } | { readonly kind: 'percent'; readonly of: number };

/** A piece of a sentence: plain words, or a field with the text that stands for it. */
export interface TicketWord {
  readonly text: string;
  readonly field?: TicketField;
  /** Says what goes without saying ("turned 0°"): shown where it can be edited, left out on the proof. */
  readonly isQuiet?: boolean;
}

/** What a sentence is about: how a sign is laid out, or how high and deep it is and what its surfaces are. */
export type Topic = 'layout' | 'heights';

/** One sentence of the ticket, about the blank, a part, or a tier of it. */
export interface Sentence {
  readonly topic: Topic;
  readonly part?: string;
  readonly tier?: string;
  /** About the picture under the plan. */
  readonly isGround?: boolean;
  readonly words: readonly TicketWord[];
}

/** Writes the words of sentences in the sign's unit. */
export class Writer {
  constructor(
    private readonly unit: LengthUnit,
    private readonly catalogue: readonly FontEntry[],
    /** Those of the shop, besides the ones that every sign has at hand. */
    readonly finishes: readonly Finish[] = [],
    /** How large one copy of each part is, where it is known, by the part's id. */
    readonly extents: ReadonlyMap<string, PartExtent> = new Map(),
    /** What the sign is bent around. */
    readonly support?: Support,
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
  measure(label: string, value: Measure, ...path: FieldPath): TicketWord {
    const text = value.kind === 'length' ? formatLength(value.length, this.unit) : `${Number(value.of.toFixed(2))} %`;
    return { text, field: { kind: 'measure', path, value, label } };
  }
  words(label: string, value: string, ...path: FieldPath): TicketWord {
    return { text: `“${value}”`, field: { kind: 'words', path, value, label } };
  }
  name(label: string, value: string, ...path: FieldPath): TicketWord {
    return { text: value, field: { kind: 'name', path, value, label } };
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

export const plain = (text: string): TicketWord => ({ text });

export const quiet = (...words: TicketWord[]): TicketWord[] => words.map((word) => ({ ...word, isQuiet: true }));

/** The same where something is as it usually is. */
export const quietIf = (isUsual: boolean, ...words: TicketWord[]): TicketWord[] => (isUsual ? quiet(...words) : words);
