import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { newShape, type Sign } from '../sign/index.js';
import { brailleOfRows, plateOf } from './index.js';

const workshop = new Workshop();

/** A door sign: a number and a name, and braille that follows the name. */
function doorSign(): Sign {
  const sign = bareSign(200, 150, 3);
  addText(sign, '{room}\n{name}', 'barlow-semibold', 20, { kind: 'raise', by: 0.8 });
  const braille = newShape(sign, 'braille');
  if (braille.shape.kind === 'braille') Object.assign(braille.shape, { follows: sign.parts[0].id, table: 'ueb-1' });
  sign.parts.push(braille);
  sign.slots = [{ name: 'room', empty: 'close' }, { name: 'name', empty: 'close' }]; // prettier-ignore
  return sign;
}

/** Stands for a translator: every letter becomes a cell, so that what came of what is seen. */
const cellOf = (letter: string): string =>
  letter === '\n' ? '\n' : String.fromCharCode(0x2800 + (letter.charCodeAt(0) % 63) + 1);
const cells = (words: string): string => [...words].map(cellOf).join('');
const rows = (...values: (readonly [string, string])[]) => values.map(([room, name]) => ({ values: new Map([['room', room], ['name', name]]) })); // prettier-ignore

describe('braille of a list', () => {
  it('has the cells of each row, of a line or of two, asked for together and each once', async () => {
    const sign = doorSign();
    const asked: string[] = [];
    const list = rows(['12', 'Map room'], ['', 'Store'], ['12', 'Map room'], ['14', 'Quiet']);
    const memory = new Map<string, string>();
    const ask = async (words: string, table: string): Promise<string> => {
      asked.push(`${table}: ${words}`);
      return cells(words);
    };
    const cellsOf = await brailleOfRows(sign, list, ask, memory);
    expect(asked).toHaveLength(1);
    expect(asked[0].split('\n')).toHaveLength(5);
    await workshop.book.need(new Set(['barlow-semibold']));
    for (const { values } of list) {
      const plate = plateOf(sign, values, new Evaluator(workshop.book), [], cellsOf);
      const { shape } = plate.sign.parts[1] as { shape: { cells: string; translated?: { words: string } } };
      const said = [values.get('room')!, values.get('name')!].filter((line) => line !== '').join('\n');
      expect(shape.translated?.words.toLowerCase()).toBe(said.toLowerCase());
      expect(shape.cells).toBe(cells(shape.translated!.words));
      expect(plate.notes.map(({ code }) => code)).not.toContain('braille-stale');
    }
    // What is known is not asked for again.
    await brailleOfRows(sign, list, ask, memory);
    expect(asked).toHaveLength(1);
  });

  it('stays as it is where nothing translates, which is noted; what was corrected by hand stays in any case', async () => {
    const sign = doorSign();
    const list = rows(['12', 'Map room']);
    const cellsOf = await brailleOfRows(sign, list, () => Promise.reject(new Error('There is no translator.')));
    await workshop.book.need(new Set(['barlow-semibold']));
    const plate = plateOf(sign, list[0].values, new Evaluator(workshop.book), [], cellsOf);
    expect(plate.notes.map(({ code }) => code)).toContain('braille-stale');
    Object.assign((sign.parts[1] as { shape: object }).shape, { corrected: true, cells: '⠁' });
    let times = 0;
    await brailleOfRows(sign, list, async (words) => (times++, cells(words)));
    expect(times).toBe(0);
  });

  it('of hundreds of rows is asked for in few questions, none longer than a translator takes', async () => {
    const list = rows(...Array.from({ length: 600 }, (_, i) => [`${i}`, `Reading room of the river ${i}`] as const));
    const lengths: number[] = [];
    const cellsOf = await brailleOfRows(doorSign(), list, async (words) => (lengths.push(words.length), cells(words)));
    expect(lengths.length).toBeLessThan(10);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(3800);
    await workshop.book.need(new Set(['barlow-semibold']));
    const plate = plateOf(doorSign(), list[599].values, new Evaluator(workshop.book), [], cellsOf);
    const { shape } = plate.sign.parts[1] as { shape: { cells: string; translated: { words: string } } };
    expect(shape.cells).toBe(cells(shape.translated.words));
  });
});
