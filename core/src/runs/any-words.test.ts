import { describe, expect, it } from '@jest/globals';
import { generatedSign } from '../../testing/sign-generator.js';
import { Workshop } from '../../testing/workshop.js';
import { productionOutlines } from '../drawing/index.js';
import { Evaluator } from '../relief/index.js';
import { type Sign, type Slot } from '../sign/index.js';
import { plateOf } from './index.js';

const workshop = new Workshop();

/** A sign with a slot in place of every line of its words, and what puts the words back. */
function emptied(sign: Sign): { readonly sign: Sign; readonly values: Map<string, string> } {
  const values = new Map<string, string>();
  const slotFor = (line: string): string => {
    // What is said in a list has no blanks at its ends.
    if (line === '' || line !== line.trim() || /[{}]/u.test(line)) return line;
    const name = `line ${values.size + 1}`;
    values.set(name, line);
    return `{${name}}`;
  };
  const parts = sign.parts.map((part) =>
    part.kind !== 'text' || part.letters !== undefined
      ? part
      : { ...part, words: part.words.split('\n').map(slotFor).join('\n') },
  );
  const slots = [...(sign.slots ?? []), ...[...values.keys()].map((name): Slot => ({ name, empty: 'close' }))];
  return { sign: { ...sign, parts, slots: slots.slice(0, 60) }, values };
}

describe('words of a list in any sign', () => {
  it('are laid out as the sign with the same words is: 24 signs of the generator', async () => {
    let [lines, compared] = [0, 0];
    for (let seed = 0; seed < 24; seed++) {
      const own = generatedSign(seed, seed % 2 === 0 ? 'plain' : 'extreme', workshop.book.catalogue);
      // What the generator has chosen by columns of its own is another test's.
      const plain: Sign = { ...own, slots: undefined };
      const { sign, values } = emptied(plain);
      if (values.size === 0 || values.size > 60) continue;
      lines += values.size;
      await workshop.book.need(new Set(plain.parts.flatMap((part) => (part.kind === 'text' ? [part.font] : []))));
      const plate = plateOf(sign, values, new Evaluator(workshop.book));
      expect([seed, plate.refused]).toEqual([seed, []]);
      expect(plate.sign.parts).toEqual(plain.parts);
      expect(productionOutlines(plate.evaluation!)).toEqual(
        productionOutlines(new Evaluator(workshop.book).evaluateLoaded(plain)),
      );
      compared++;
    }
    expect(compared).toBeGreaterThan(10);
    expect(lines).toBeGreaterThan(20);
  });
});
