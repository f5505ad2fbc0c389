import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import { type Backer, sentenceText, setField, ticket } from '../sign/index.js';
import { judged } from '../../testing/judge.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { volume } from '../mesh/index.js';
import { solidOf } from './solid.js';

/** A bar that holds loose letters: closed forms of what is added, and the judge. */

const workshop = new Workshop();
type Bar = Extract<Backer, { kind: 'bar' }>;
const BAR: Bar = { kind: 'bar', y: 0, height: 10, thickness: 3 };

/** Two blocks of 20 × 30, 40 apart, 6 thick, held by a bar. */
function blocks(bar: Bar) {
  const sign = bareSign(200, 100, 6);
  for (const x of [-30, 30]) {
    addShape(sign, [20, 30], { kind: 'mark' });
    sign.parts.at(-1)!.place = { x, y: 0, turn: 0, mirror: false };
  }
  sign.blank.cutTo = { parts: sign.parts.map(({ id }) => id), backer: bar };
  return sign;
}

describe('a bar behind letters', () => {
  const own = 2 * 20 * 30 * 6;
  it.each<[string, Partial<Bar>, number]>([
    ['as long as they are', {}, 80 * 10 * 3],
    ['longer at either end', { beyond: { left: 5, right: 12 } }, 97 * 10 * 3],
    ['with round ends', { ends: 'round', beyond: { left: 10, right: 10 } }, (90 * 10 + Math.PI * 25) * 3],
    ['with a hole beyond the letters', { beyond: { left: 15, right: 0 }, hole: { diameter: 6, end: 'left', edge: 3 } }, (95 * 10 - Math.PI * 9) * 3],
    ['with a hole through a letter', { hole: { diameter: 6, end: 'right', edge: 5 } }, (80 * 10 - Math.PI * 9) * 3 - Math.PI * 9 * 6],
  ])('%s', async (_, change, mm3) => {
    const sign = blocks({ ...BAR, ...change });
    const { book, m } = workshop;
    // Chords of small circles keep their area within a thousandth.
    expect(Math.abs(volume(solidOf(workshop.evaluate(sign))) - own - mm3)).toBeLessThan(1e-3 * mm3);
    expect((await judged(sign, book, m)).findings).toEqual([]);
  }); // prettier-ignore

  it('says where a hole leaves nothing of it, or goes through a letter', () => {
    const codes = (bar: Partial<Bar>) => notesOf(workshop.evaluate(blocks({ ...BAR, ...bar }))).map(({ code }) => code);
    const at = { end: 'left', edge: 2 } as const;
    expect(codes({ hole: { ...at, diameter: 10 } })).toContain('hole-in-bar');
    expect(codes({ hole: { ...at, diameter: 5 } })).toContain('hole-in-letters');
    expect(
      codes({ hole: { ...at, diameter: 5 }, beyond: { left: 9, right: 0 } }).filter((code) => code.startsWith('hole')),
    ).toEqual([]);
  });

  it('is a key tag in a few words: the bar is made long enough for its hole', () => {
    const sign = bareSign(200, 60, 4);
    const { id } = addText(sign, 'Oak', 'barlow-semibold', 20, { kind: 'mark' });
    sign.blank.cutTo = { parts: [id], backer: { ...BAR, height: 12 } };
    const at = ['blank', 'cutTo', 'backer'];
    const told = () => ticket(sign, []).map(sentenceText).join(' ');
    expect(told()).toMatch(/longer than they are by 0 mm on the left and 0 mm on the right, its ends square, with no hole\./u);
    setField(sign, [...at, 'hole', 'end'], 'left');
    setField(sign, [...at, 'ends'], 'round');
    setField(sign, [...at, 'beyond', 'right'], 2);
    expect(sign.blank.cutTo.backer).toEqual({
      ...{ ...BAR, height: 12, ends: 'round', beyond: { left: 12, right: 2 } },
      hole: { diameter: 6, end: 'left', edge: 3 },
    });
    expect(told()).toMatch(/its ends round, with a hole at its left end of 6 mm, 3 mm from it\./u);
    expect(notesOf(workshop.evaluate(sign)).filter(({ code }) => code.startsWith('hole'))).toEqual([]);
    setField(sign, [...at, 'hole', 'end'], 'none');
    setField(sign, [...at, 'ends'], 'square');
    for (const side of ['left', 'right']) setField(sign, [...at, 'beyond', side], 0);
    expect(sign.blank.cutTo.backer).toEqual({ ...BAR, height: 12 });
  });
});
