import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { newShape, type Sign } from '../sign/index.js';
import { Evaluator } from '../relief/index.js';
import { brailleOfRows, newRun, plateOf, plateSign, type Run, signOfRun, valuesOfRun, withList } from './index.js';

const workshop = new Workshop();
/** Stands for a translator. */
const translate = (words: string): Promise<string> => Promise.resolve(words.replace(/[^\n]/gu, '⠗'));

/** A sign with a name, braille of it and an option; and a list of three names, one of which is lacking. */
function labels(): { sign: Sign; run: Run } {
  const sign = bareSign(80, 40, 6);
  const name = addText(sign, '{name}', 'barlow-bold', 8, { kind: 'raise', by: 1 });
  sign.slots = [{ name: 'name', empty: 'refuse' }];
  const braille = newShape(sign, 'braille');
  if (braille.shape.kind === 'braille') Object.assign(braille.shape, { follows: name.id, table: 'ueb-1' });
  sign.parts.push(braille);
  sign.options = [{ id: 'low', name: 'Low', tiers: [{ part: name.id, tier: name.tiers[0].id, amount: 0.5 }] }];
  const { run } = withList(newRun('s'), { columns: ['name'], rows: [['Rowan'], [''], ['Yew']] });
  return { sign, run: { ...run, option: 'low' } };
}

describe('a row as the document that it is made of', () => {
  it('is what its plate is laid out from, as the option of the run, with the rows beside it', async () => {
    const { sign, run } = labels();
    const made = signOfRun(sign, run);
    const values = valuesOfRun(made, run);
    const cellsOf = await brailleOfRows(made, values.map((each) => ({ values: each })), translate); // prettier-ignore
    const evaluator = new Evaluator(workshop.book);
    for (const [at, { id }] of run.rows.entries()) {
      const plate = plateOf(made, values[at], evaluator, undefined, cellsOf);
      const own = (await plateSign(sign, run, id, translate))!;
      expect({ ...own.sign, options: sign.options }).toEqual(plate.sign);
      expect([own.at, own.before, own.next]).toEqual([at, run.rows[at - 1]?.id, run.rows[at + 1]?.id]);
      expect(own.refused).toEqual(plate.refused);
    }
    const { sign: first } = (await plateSign(sign, run, run.rows[0].id, translate))!;
    const [text, braille] = first.parts;
    expect([text.kind === 'text' && text.words, text.tiers[0].action, first.options]).toEqual(['Rowan', { kind: 'raise', by: 0.5 }, undefined]); // prettier-ignore
    expect(braille.kind === 'shape' && braille.shape.kind === 'braille' && braille.shape.cells).toBe('⠗⠗⠗⠗⠗');
    expect((await plateSign(sign, run, run.rows[1].id, translate))!.refused).toEqual(['name has no value.']);
  });

  it('has what was corrected in it alone; a row that is gone has none', async () => {
    const { sign, run } = labels();
    run.rows[2].corrections = [{ sets: { kind: 'shown', part: sign.parts[1].id }, value: 'no' }];
    const hidden = async (row: number): Promise<unknown> => (await plateSign(sign, run, row, translate))!.sign.parts[1].hidden;
    expect([await hidden(run.rows[0].id), await hidden(run.rows[2].id)]).toEqual([undefined, true]);
    expect(await plateSign(sign, run, 99, translate)).toBeUndefined();
  });
});
