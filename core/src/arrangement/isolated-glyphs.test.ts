import { describe, expect, it } from '@jest/globals';
import {
  circle,
  placement,
  placePolyline,
  rectangle,
  reversed,
  snapRing,
  type Contour,
  type Outline,
} from '../geometry/index.js';
import { ContourSet } from './contour-set.js';
import { isolatedGlyphs } from './isolated-glyphs.js';

/** A ring with a hole, about (x, y). */
const ring = (x: number, y: number): Outline => [circle(x, y, 5), reversed(circle(x, y, 2))];
const at = (contour: Contour, x: number, y: number): Contour => snapRing(placePolyline(contour, placement({ x, y })));
const glyphs = (...outlines: readonly Outline[]): ContourSet => ContourSet.of(outlines);
const loose = (...rings: readonly Contour[]): ContourSet => ContourSet.loose(rings);

describe('isolatedGlyphs', () => {
  it('are those that no other glyph and no segment reaches', () => {
    const [a, b, c] = [ring(0, 0), ring(20, 0), ring(28, 0)];
    const found = isolatedGlyphs([loose(rectangle(200, 100)), glyphs(a, b, c)]);
    expect(found).toHaveLength(1);
    expect(found[0].contours).toBe(a);
    expect(found[0].layers).toEqual([1]);
  });

  it('are none where an edge runs through them, or past them within their box', () => {
    expect(isolatedGlyphs([loose(rectangle(200, 100)), glyphs(ring(100, 0))])).toEqual([]);
    expect(isolatedGlyphs([glyphs(ring(0, 0)), loose(at(rectangle(2, 2), 4.4, 4.4))])).toEqual([]);
    expect(isolatedGlyphs([glyphs(ring(0, 0)), loose(at(rectangle(2, 2), 9, 9))])).toHaveLength(1);
  });

  it('may share their boxes with others that they do not touch', () => {
    /** A wedge standing on its foot or on its point, like A and V. */
    const wedge = (x: number, isUp: boolean): Outline => {
      const s = isUp ? 1 : -1;
      return [Float64Array.of(x - 5 * s, -5 * s, x + 5 * s, -5 * s, x, 5 * s)];
    };
    const found = (gap: number) => isolatedGlyphs([glyphs(wedge(0, true), wedge(5 + gap, false))]).length;
    expect([found(1), found(0.001), found(0), found(-1)]).toEqual([2, 2, 0, 0]);
    // In a counter, but not in the body.
    expect(isolatedGlyphs([glyphs(ring(0, 0), [circle(0, 0, 1)])])).toHaveLength(2);
    expect(isolatedGlyphs([glyphs(ring(0, 0), [circle(3.5, 0, 1)])])).toHaveLength(0);
  });

  it('may be part of several layers, once in each', () => {
    const a = ring(0, 0);
    expect(isolatedGlyphs([ContourSet.EMPTY, glyphs(a), glyphs(a)])[0].layers).toEqual([1, 2]);
    // A ring of it by itself in another layer meets it.
    expect(isolatedGlyphs([glyphs(a), loose(a[0])])).toEqual([]);
    expect(isolatedGlyphs([glyphs(a, a)])).toEqual([]);
  });

  it('are never loose rings', () => {
    expect(isolatedGlyphs([loose(circle(0, 0, 5)), loose(circle(40, 0, 5))])).toEqual([]);
  });
});
