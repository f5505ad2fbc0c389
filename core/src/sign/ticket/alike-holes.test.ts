import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../../testing/signs.js';
import { type Sign } from '../document/schema.js';
import { listed, numberWord, placesInWords } from './alike-holes.js';
import { ticket, ticketParagraphs } from './ticket.js';

const mm = (length: number): string => `${length} mm`;

function drilled(places: readonly (readonly [number, number])[]): Sign {
  const sign = bareSign(300, 200, 8);
  for (const [x, y] of places) addShape(sign, 7, { kind: 'cut-through' }, { x, y });
  return sign;
}

const holesOf = (sign: Sign): string[] => ticketParagraphs(ticket(sign, []), sign).slice(1);
const CORNERS = [[-140, 90], [140, 90], [-140, -90], [140, -90]] as const; // prettier-ignore

describe('places in words', () => {
  it('are columns and rows where they are the crossings of those', () => {
    const corners = CORNERS.map(([x, y]) => ({ x, y }));
    expect(placesInWords(corners, ['across', 'up'], mm)).toBe('at -140 mm and 140 mm across, -90 mm and 90 mm up');
    expect(placesInWords(corners.slice(0, 3), ['across', 'up'], mm)).toBe(
      'across and up at -140 mm, 90 mm; 140 mm, 90 mm; -140 mm, -90 mm',
    );
    expect(placesInWords([{ x: 3, y: 4 }], ['across', 'up'], mm)).toBe('at 3 mm across, 4 mm up');
    // Twice the same place and not a grid.
    expect(placesInWords([corners[0], corners[0]], ['across', 'up'], mm)).toContain(';');
  });

  it('are listed as one says them', () => {
    expect([['a'], ['a', 'b'], ['a', 'b', 'c']].map(listed)).toEqual(['a', 'a and b', 'a, b and c']);
    expect([1, 12, 13].map(numberWord)).toEqual(['one', 'twelve', '13']);
  });
});

describe('holes that are alike', () => {
  it('are one sentence on the sheet', () => {
    expect(holesOf(drilled(CORNERS))).toEqual([
      'Four holes of 7 mm (part-1 to part-4) at −140 mm and 140 mm across, −90 mm and 90 mm up from the middle. Cut through.',
    ]);
  });

  it('are told one by one where they are otherwise than in their place', () => {
    const sign = drilled(CORNERS);
    Object.assign(sign.parts[2], { shape: { kind: 'circle', diameter: 9 } });
    expect(holesOf(sign).map((text) => text.split(':')[0].slice(0, 12))).toEqual(['Two holes of', 'Part-3', 'Part-4']);
    for (const change of [
      { hidden: true },
      { side: 'back' },
      { copies: { kind: 'row', count: 2, stepX: 20, stepY: 0 } },
      { bridges: { width: 1, count: 2, turn: 0 } },
    ]) {
      const other = drilled(CORNERS.slice(0, 2));
      Object.assign(other.parts[1], change);
      expect([change, holesOf(other).some((text) => text.startsWith('Two holes'))]).toEqual([change, false]);
    }
  });

  it('are each their own sentences on the bench', () => {
    expect(ticketParagraphs(ticket(drilled(CORNERS), []))).toHaveLength(5);
  });
});
