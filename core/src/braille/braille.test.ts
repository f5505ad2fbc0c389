import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { volume } from '../mesh/index.js';
import { solidOf } from '../solid/index.js';
import { notesOf } from '../checks/index.js';
import { type BrailleShape, newShape, type ShapePart, type Sign } from '../sign/index.js';
import { stlFile } from '../format/index.js';
import { ballCap, BRAILLE_TABLES, brailleLayout, dotsOf, linesOf, lineWidth, saidWords, USUAL_BRAILLE } from './index.js';

const workshop = new Workshop();
const sizes = USUAL_BRAILLE;

/** A plate of 120 × 40 × 6 mm with cells of usual sizes in its middle. */
function plate(cells: string): Sign {
  const sign = bareSign(120, 40, 6);
  const part = newShape(sign, 'braille');
  if (part.shape.kind === 'braille') part.shape.cells = cells;
  sign.parts.push({ ...part, place: { ...part.place, x: 0, y: 4 } });
  return sign;
}

/** Corners of the triangles of a binary STL. */
function cornersOf(stl: Uint8Array): [number, number, number][] {
  const view = new DataView(stl.buffer, stl.byteOffset);
  const count = view.getUint32(80, true);
  return Array.from({ length: 3 * count }, (_, i) => {
    const at = 84 + 50 * Math.floor(i / 3) + 12 + 12 * (i % 3);
    return [view.getFloat32(at, true), view.getFloat32(at + 4, true), view.getFloat32(at + 8, true)];
  });
}

describe('cells', () => {
  it('have the dots that Unicode numbers them by (The Unicode Standard, “Braille Patterns”)', () => {
    expect(dotsOf('⠀')).toEqual([]);
    // Dots 1, 2 and 3 are the left column from the top, 4, 5 and 6 the right one.
    expect(dotsOf('⠇')).toEqual([[0, 0], [0, 1], [0, 2]]); // prettier-ignore
    expect(dotsOf('⠹')).toEqual([[0, 0], [1, 0], [1, 1], [1, 2]]); // prettier-ignore
    expect(dotsOf('⠿')).toHaveLength(6);
  });

  it('are broken into lines where words end', () => {
    expect(linesOf('⠁⠃⠀⠉⠙⠀⠑', 5)).toEqual(['⠁⠃⠀⠉⠙', '⠑']);
    expect(linesOf('⠁⠃⠀⠉⠙⠀⠑', 4)).toEqual(['⠁⠃', '⠉⠙⠀⠑']);
    // A word is not parted, however long it is; blanks at either end take no room.
    expect(linesOf('⠀⠁⠃⠉⠙⠑⠀⠁⠀', 3)).toEqual(['⠁⠃⠉⠙⠑', '⠁']);
    expect(linesOf('⠁\n\n⠃')).toEqual(['⠁', '', '⠃']);
  });

  it('are as wide as their distances make them, aligned by the sides of their dots', () => {
    expect(lineWidth(3, sizes)).toBeCloseTo(2 * 6.2 + 2.4 + 1.6, 9);
    for (const [align, left] of [
      ['left', 0],
      ['centre', -8.2],
      ['right', -16.4],
    ] as const) {
      const { dots } = brailleLayout('⠿⠿⠿\n⠿', sizes, align);
      expect(Math.min(...dots.filter(({ line }) => line === 0).map(({ x }) => x)) - 0.8).toBeCloseTo(left, 9);
    }
    const { dots } = brailleLayout('⠿\n⠿', sizes, 'left');
    expect([...new Set(dots.map(({ y }) => Number(y.toFixed(6))))]).toEqual([2.4, 0, -2.4, -7.7, -10.1, -12.5]);
    // As many cells as a room has, the last dot and the base included.
    expect(brailleLayout('⠿⠀⠿⠀⠿', sizes, 'left', 28.8).lines).toHaveLength(1);
    expect(brailleLayout('⠿⠀⠿⠀⠿', sizes, 'left', 28.7).lines).toHaveLength(2);
  });

  it('are made of words without the capitals of lettering', () => {
    expect(saidWords('READING  ROOM\n 204 ', false)).toBe('reading room\n204');
    expect(saidWords('READING ROOM', true)).toBe('READING ROOM');
    // Words that have small letters have capitals where they are meant.
    expect(saidWords('Quill Street', false)).toBe('Quill Street');
  });

  it('are of tables that have names of their own', () => {
    expect(new Set(BRAILLE_TABLES.map(({ id }) => id)).size).toBe(BRAILLE_TABLES.length);
    expect(new Set(BRAILLE_TABLES.map(({ language }) => language)).size).toBeGreaterThanOrEqual(9);
  });
});

describe('balls', () => {
  it('stand out of their holes as caps: half sunk they are as wide as they are', () => {
    expect(ballCap(1.6, 0.8)).toEqual({ height: 0.8, base: 1.6 });
    // 2 √(0.6 · 1.0)
    expect(ballCap(1.6, 1).base).toBeCloseTo(1.549, 3);
    expect(ballCap(1.6, 1.6)).toEqual({ height: 0, base: 0 });
  });
});

describe('dots of a solid', () => {
  it('are where, as wide and as high as they were asked, in the STL: each within 0.02 mm', () => {
    const evaluation = workshop.evaluate(plate('⠿⠇⠀⠿\n⠿'));
    const corners = cornersOf(stlFile(solidOf(evaluation), 'dots'));
    const { dots } = brailleLayout('⠿⠇⠀⠿\n⠿', sizes, 'centre');
    expect(dots).toHaveLength(21);
    for (const { x, y } of dots) {
      const own = corners.filter(([px, py, pz]) => Math.hypot(px - x, py - y - 4) < 1 && pz > -1e-6);
      // The top is over the middle and as high as it was asked; the base is a circle of that diameter about it.
      const top = own.reduce((a, b) => (b[2] > a[2] ? b : a));
      expect(Math.abs(top[2] - 0.7)).toBeLessThan(0.02);
      expect(Math.hypot(top[0] - x, top[1] - y - 4)).toBeLessThan(0.02);
      const base = own.filter(([, , pz]) => pz < 1e-6).map(([px, py]) => Math.hypot(px - x, py - y - 4));
      expect(Math.abs(2 * Math.max(...base) - 1.6)).toBeLessThan(0.02);
      expect(Math.abs(2 * Math.min(...base) - 1.6)).toBeLessThan(0.02);
    }
  });

  it('are spherical caps: their volume is π h (3 a² + h²) / 6 (any collection of formulas)', () => {
    const mm3 = (cells: string): number => volume(solidOf(workshop.evaluate(plate(cells))));
    const cap = (Math.PI * 0.7 * (3 * 0.8 ** 2 + 0.7 ** 2)) / 6;
    // Chords that stray by 0.008 mm to either side are 2 % of so small a cap.
    expect(Math.abs((mm3('⠿⠿') - mm3('')) / 12 / cap - 1)).toBeLessThan(0.02);
  });

  it('become holes for balls, as deep as lets them stand as high', () => {
    const sign = plate('⠁');
    const [part] = sign.parts;
    if (part.kind === 'shape' && part.shape.kind === 'braille') part.shape.ball = 1.6;
    part.tiers = [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'carve', by: 0.9 } }];
    const hole = 120 * 40 * 6 - volume(solidOf(workshop.evaluate(sign)));
    expect(hole / (Math.PI * 0.8 ** 2 * 0.9)).toBeCloseTo(1, 2);
  });
});

describe('tables', () => {
  it('are in the document of the format, each by its id', () => {
    const text = readFileSync(new URL('../../../docs/sign-format.md', import.meta.url), 'utf8');
    for (const { id } of BRAILLE_TABLES) expect(text).toContain(`\`${id}\``);
  });
});

describe('notes of braille', () => {
  const notes = (change: (sign: Sign, shape: BrailleShape) => void) => {
    const sign = plate('⠿');
    const [part] = sign.parts as [ShapePart];
    const shape = part.shape as BrailleShape;
    Object.assign(shape, { words: 'for', translated: { words: 'for', table: 'ueb-2' } });
    change(sign, shape);
    return notesOf(workshop.evaluate(sign)).map(({ code, text }) => [code, text]);
  };

  it('tell of cells that are not those of the words, of mirrored ones, and of words that are too wide', () => {
    expect(notes(() => undefined)).toEqual([]);
    expect(notes((_, shape) => (shape.words = 'with'))).toEqual([['braille-stale', 'Braille 1: its cells are not those of “with”: they are yet to be translated.']]); // prettier-ignore
    expect(notes((_, shape) => Object.assign(shape, { words: 'with', corrected: true }))[0][1]).toContain(
      'corrected by hand before',
    );
    expect(notes((_, shape) => (shape.table = 'ueb-1'))[0][0]).toBe('braille-stale');
    expect(notes((sign) => (sign.parts[0].place.mirror = true))[0][0]).toBe('braille-mirrored');
    expect(notes((_, shape) => Object.assign(shape, { cells: '⠿⠿⠿', room: 10 }))).toEqual([
      ['braille-too-wide', 'Braille 1 has a word of 16.4 mm in a room of 10 mm: words are not parted.'],
    ]);
  });

  it('go with the words of a text that is followed', () => {
    const followed = (words: string) =>
      notes((sign, shape) => {
        const text = addText(sign, words, 'barlow-semibold', 8, { kind: 'raise', by: 1 });
        text.place.y = -12;
        shape.follows = text.id;
      });
    expect([followed('FOR'), followed('WITH').map(([code]) => code)]).toEqual([[], ['braille-stale']]);
  });
});
