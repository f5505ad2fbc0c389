import nspell from 'nspell';
import { type Words } from './wording.js';

/** A dictionary as Hunspell writes them: the endings that words may have, and the words. */
export interface DictionaryFiles {
  readonly aff: string;
  readonly dic: string;
}

/** Suggestions that are told of a word. */
const MOST_SUGGESTED = 3;

/** What words are looked up in: any of some dictionaries, which differ in how English is written, and a shop's own words. */
export class Dictionary implements Words {
  private readonly spellers: readonly ReturnType<typeof nspell>[];
  private own: ReadonlySet<string> = new Set();

  constructor(files: readonly DictionaryFiles[]) {
    this.spellers = files.map(({ aff, dic }) => nspell({ aff, dic }));
  }

  /** Takes a shop's own words in the place of those before; whether they are capitals does not matter. */
  learn(words: readonly string[]): this {
    this.own = new Set(words.map((word) => word.trim().toLowerCase()));
    return this;
  }

  isKnown = (word: string): boolean => this.own.has(word.toLowerCase()) || this.spellers.some((speller) => speller.correct(word));

  /** What may have been meant, the likeliest first. */
  suggested = (word: string): string[] =>
    [...new Set(this.spellers.flatMap((speller) => speller.suggest(word)))].slice(0, MOST_SUGGESTED);
}
