import { beforeAll, describe, expect, it } from '@jest/globals';
import { notesOf } from '../../checks/index.js';
import { difference } from '../../arrangement/index.js';
import { area, circle } from '../../geometry/index.js';
import { type Part, setField, type Sign, ticket, ticketParagraphs } from '../../sign/index.js';
import { piecesOf, isWatertight } from '../../mesh/index.js';
import { solidOf } from '../../solid/index.js';
import { catalogue, loadedBook } from '../../../testing/fonts.js';
import { addText, bareSign } from '../../../testing/signs.js';
import { type FontBook } from '../../type/index.js';
import { withBridges } from './bridges.js';
import { Evaluator } from '../plan/evaluate.js';

let book: FontBook;
beforeAll(async () => {
  book = await loadedBook();
});

function cutWord(words: string, bridges?: Part['bridges']): Sign {
  const sign = bareSign(260, 80, 6);
  addText(sign, words, 'barlow-bold', 40, { kind: 'cut-through' });
  if (bridges) sign.parts[0].bridges = bridges;
  return sign;
}
const evaluate = (sign: Sign) => new Evaluator(book).evaluateLoaded(sign);

describe('bridges', () => {
  it('take strips of their width out of a ring, from the island to what lies around it', () => {
    const ring = difference([circle(0, 0, 20)], [circle(0, 0, 10)]);
    const held = withBridges(ring, { width: 2, count: 2, turn: 90 });
    // Two strips of 2 mm across a ring 10 mm wide, but for the round ends of the strip.
    expect(Math.abs(area(ring) - area(held) - 40)).toBeLessThan(0.2);
    expect(held.filter((outline) => area([outline]) > 0)).toHaveLength(2);
    expect(area(withBridges(ring, { width: 2, count: 5, turn: 0 }))).toBeLessThan(area(held));
    // Without an island there is nothing to hold.
    const disc = [circle(0, 0, 20)];
    expect(withBridges(disc, { width: 2, count: 2, turn: 90 })).toBe(disc);
  });

  it('hold every island of letters that are cut through, and the sign stays in one piece', () => {
    const free = evaluate(cutWord('BOA 8&'));
    const note = notesOf(free).find(({ code }) => code === 'loose-pieces')!;
    expect([note.part, note.remedy]).toEqual(['line-1', { kind: 'bridges' }]);
    expect(piecesOf(solidOf(free)).length).toBeGreaterThan(7);
    for (const turn of [90, 0, 37]) {
      const held = evaluate(cutWord('BOA 8&', { width: 2, count: 2, turn }));
      expect(notesOf(held)).toEqual([]);
      const mesh = solidOf(held);
      expect(isWatertight(mesh)).toBe(true);
      expect(piecesOf(mesh)).toHaveLength(1);
    }
  });

  it('are chosen, changed and told in the ticket', () => {
    const sign = cutWord('BOA');
    expect(ticketParagraphs(ticket(sign, catalogue)).join(' ')).not.toContain('islands');
    setField(sign, ['parts', 0, 'bridges', 'kind'], 'bridged');
    expect(sign.parts[0].bridges).toEqual({ width: 4, count: 2, turn: 90 });
    expect(ticketParagraphs(ticket(sign, catalogue)).join(' ')).toContain(
      'Its islands are held by bridges, 2 from each, 4 mm wide, the first at 90°.',
    );
    setField(sign, ['parts', 0, 'bridges', 'count'], 1);
    expect(notesOf(evaluate(sign))).toEqual([]);
    setField(sign, ['parts', 0, 'bridges', 'kind'], 'free');
    expect(sign.parts[0].bridges).toBeUndefined();
  });
});
