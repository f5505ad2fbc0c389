import { beforeAll, describe, expect, it } from '@jest/globals';
import { type Evaluation, Evaluator, exactRise, type Layer } from '../relief/index.js';
import type { Edge } from '../sign/index.js';
import { catalogue, loadedBook } from '../../testing/fonts.js';
import { Definition, Tops } from '../../testing/heights.js';
import { addText, bareSign } from '../../testing/signs.js';
import type { FontBook } from '../type/index.js';
import { isWatertight, solidOf } from './index.js';

const CHARACTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789&'];

/** Every edge form, with mm that a height may be off: 0.01 for plane slopes and 0.02 for round forms. */
const FORMS: readonly (readonly [string, Edge | undefined, number])[] = [
  ['upright', undefined, 1e-9],
  ['sloped 10°', { kind: 'sloped', angle: 10, sized: 'foot' }, 0.01],
  ['ridged 90°', { kind: 'ridged', angle: 90, capped: false }, 0.01],
  ['ridged and capped', { kind: 'ridged', angle: 60, capped: true }, 0.01],
  ['chamfered', { kind: 'chamfered', width: 0.4, height: 0.6 }, 0.01],
  ['rounded', { kind: 'rounded', radius: 0.6 }, 0.02],
  ['cove', { kind: 'cove', radius: 0.5 }, 0.02],
];
const AMOUNT = 1.5;
const PLACES_A_LETTER = 60;

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

/** Every letter of every outline font once; from font to font each letter meets another form. */
function lettersOf(form: number): { font: string; words: string }[] {
  const fonts = catalogue.filter(({ file }) => !file.endsWith('.svg'));
  return fonts.map(({ id }, f) => ({
    font: id,
    words: CHARACTERS.filter((_, c) => (c + f) % FORMS.length === form).join(' '),
  }));
}

const exact =
  (edge: Edge | undefined, sign: 1 | -1) =>
  (_: Layer, d: number): number =>
    sign * exactRise(edge, AMOUNT, d);

describe('the solid of every shipped font’s letters is the relief function', () => {
  it.each(FORMS.map((form, i) => [...form, i] as const))('%s', (_, edge, tolerance, index) => {
    let tried = 0;
    for (const [f, { font, words }] of lettersOf(index).entries()) {
      const isCarved = f % 2 === 1;
      const sign = bareSign(240, 30, 6);
      const text = addText(sign, words, font, 12, isCarved ? { kind: 'carve', by: AMOUNT } : { kind: 'raise', by: AMOUNT });
      if (edge) text.tiers[0].edge = edge;
      const evaluation: Evaluation = new Evaluator(book).evaluateLoaded(sign);
      const mesh = solidOf(evaluation);
      expect(isWatertight(mesh)).toBe(true);
      const [definition, tops] = [new Definition(evaluation, exact(edge, isCarved ? -1 : 1)), new Tops(mesh)];
      const { ink, contours } = evaluation.parts[0];
      if (!ink) continue;
      for (let i = 1; i <= PLACES_A_LETTER * Math.ceil(words.length / 2); i++) {
        // Near the letters: beside points of their own outlines.
        const ring = contours[i % contours.length];
        const at = 2 * ((i * 7) % (ring.length / 2));
        const [x, y] = [ring[at] + 2 * (((i * 0.618) % 1) - 0.5), ring[at + 1] + 2 * (((i * 0.755) % 1) - 0.5)];
        const right = definition.at(x, y, 0.004);
        if (!right) continue;
        const z = tops.at(x, y) ?? NaN;
        const error = Math.max(right.least - z, z - right.most, 0);
        expect([font, words, x, y, error < tolerance]).toEqual([font, words, x, y, true]);
        tried++;
      }
    }
    expect(tried).toBeGreaterThan(5000);
  });
});
