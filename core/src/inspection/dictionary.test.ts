import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { type Sign } from '../sign/index.js';
import { applyRemedy, Dictionary, type Finding, HINTS, inspect, remediesOf, USUAL_LIMITS } from './index.js';

const workshop = new Workshop();
const require = createRequire(import.meta.url);
let dictionary: Dictionary;
beforeAll(() => {
  const files = ['dictionary-en', 'dictionary-en-au'].map((name) => {
    const read = (file: string): string => readFileSync(join(dirname(require.resolve(name)), file), 'utf8');
    return { aff: read('index.aff'), dic: read('index.dic') };
  });
  dictionary = new Dictionary(files);
});

function worded(words: string): Sign {
  const sign = bareSign(400, 80, 12);
  addText(sign, words, 'barlow-semibold', 12, { kind: 'raise', by: 1 });
  return sign;
}
const found = (sign: Sign): Finding[] =>
  inspect(workshop.evaluate(sign), USUAL_LIMITS, dictionary).filter(({ check }) => check === 'unknown-word');
const unknown = (words: string): string[] => found(worded(words)).flatMap((finding) => finding.words ?? []);

describe('spelling', () => {
  it('knows English as it is written on either side of the ocean, in capitals or small', () => {
    expect(unknown('COLOUR color Harbour HARBOR centre center organize organise')).toEqual([]);
    expect(unknown('Please don’t feed the swans, they’re fine')).toEqual([]);
  });

  it('finds what is misspelt, whatever it is written in, and neither figures nor other scripts', () => {
    expect(unknown('READNIG ROOM 2.14, the libary')).toEqual(['READNIG', 'libary']);
    expect(unknown('स्वागत أهلاً ברוכים 24 B')).toEqual([]);
  });

  it('tells many of one text together', () => {
    const [one, ...more] = found(worded('Wilmott Renn Solheim Aldous Fernhollow Quillstreet'));
    expect([more.length, one.words!.length, one.about]).toEqual([0, one.measured, undefined]);
    expect(one.text).toMatch(/“\p{L}+” and \d more are not in the dictionary\.$/u);
  });

  it('takes a shop’s own words, and is a hint', () => {
    expect(unknown('Wilmott Hall')).toEqual(['Wilmott']);
    dictionary.learn(['wilmott']);
    expect(unknown('Wilmott Hall, WILMOTT')).toEqual([]);
    dictionary.learn([]);
    expect([...HINTS]).toContain('unknown-word');
  });

  it('offers what may have been meant, written as it stands there', () => {
    for (const [words, better] of [
      ['READING ROOM AND LIBARY', 'READING ROOM AND LIBRARY'],
      ['Libary. Libarys are none', 'Library. Libarys are none'],
    ] as const) {
      const sign = worded(words);
      const evaluation = workshop.evaluate(sign);
      const finding = found(sign).find(({ about }) => about!.toLowerCase() === 'libary')!;
      const remedies = remediesOf(finding, evaluation, new Evaluator(workshop.book), USUAL_LIMITS, dictionary);
      applyRemedy(sign, remedies[0]);
      const [part] = sign.parts;
      expect(part.kind === 'text' && part.words).toBe(better);
    }
  });
});
