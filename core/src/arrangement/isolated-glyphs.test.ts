import { describe, expect, it } from '@jest/globals';
import { circle, placement, placeRun, rectangle, reversed, snapRing, type Contour } from '../geometry/index.js';
import { markGlyph, isolatedGlyphs } from './isolated-glyphs.js';

/** A marked ring with a hole, about (x, y). */
function letter(x: number, y: number): Contour[] {
  const rings = [circle(x, y, 5), reversed(circle(x, y, 2))];
  markGlyph(rings);
  return rings;
}
const at = (contour: Contour, x: number, y: number): Contour => snapRing(placeRun(contour, placement({ x, y })));

describe('lonelyLetters', () => {
  it('are those that no other letter and no segment reaches', () => {
    const [a, b, c] = [letter(0, 0), letter(20, 0), letter(28, 0)];
    const found = isolatedGlyphs([[rectangle(200, 100)], [...a, ...b, ...c]]);
    expect(found).toHaveLength(1);
    expect([...found[0].contours]).toEqual(a);
    expect(found[0].layers).toEqual([1]);
  });

  it('are none where an edge runs through them, or past them within their box', () => {
    expect(isolatedGlyphs([[rectangle(200, 100)], letter(100, 0)])).toEqual([]);
    expect(isolatedGlyphs([letter(0, 0), [at(rectangle(2, 2), 4.4, 4.4)]])).toEqual([]);
    expect(isolatedGlyphs([letter(0, 0), [at(rectangle(2, 2), 9, 9)]])).toHaveLength(1);
  });

  it('may share their boxes with others that they do not touch', () => {
    /** A wedge standing on its foot or on its point, like A and V. */
    const wedge = (x: number, isUp: boolean): Contour[] => {
      const s = isUp ? 1 : -1;
      const rings = [Float64Array.of(x - 5 * s, -5 * s, x + 5 * s, -5 * s, x, 5 * s)];
      markGlyph(rings);
      return rings;
    };
    const found = (gap: number) => isolatedGlyphs([[...wedge(0, true), ...wedge(5 + gap, false)]]).length;
    expect([found(1), found(0.001), found(0), found(-1)]).toEqual([2, 2, 0, 0]);
    // In a counter, but not in the body.
    const inCounter = [circle(0, 0, 1)];
    const inBody = [circle(3.5, 0, 1)];
    for (const rings of [inCounter, inBody]) markGlyph(rings);
    expect(isolatedGlyphs([[...letter(0, 0), ...inCounter]])).toHaveLength(2);
    expect(isolatedGlyphs([[...letter(0, 0), ...inBody]])).toHaveLength(0);
  });

  it('may be part of several layers, each with the whole of them', () => {
    const a = letter(0, 0);
    expect(isolatedGlyphs([[], a, a])[0].layers).toEqual([1, 2]);
    expect(isolatedGlyphs([a, [a[0]]])).toEqual([]);
    expect(isolatedGlyphs([[...a, ...a]])).toEqual([]);
  });

  it('are never rings that were not marked', () => {
    expect(isolatedGlyphs([[circle(0, 0, 5)], [circle(40, 0, 5)]])).toEqual([]);
  });
});
