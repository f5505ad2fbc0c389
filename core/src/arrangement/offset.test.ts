import { beforeAll, describe, expect, it } from '@jest/globals';
import type { ManifoldToplevel } from 'manifold-3d';
import { crossSection, referee } from '../../testing/referee.js';
import { area, circle, type Outline, perimeter, rectangle, regularPolygon, reversed } from '../geometry/index.js';
import { union } from './combine.js';
import { offset, withoutSliverRings } from './offset.js';

let m: ManifoldToplevel;
beforeAll(async () => {
  m = await referee();
});

describe('offset', () => {
  it('grows a convex outline by Steiner’s formula A + P·r + π·r² (textbook)', () => {
    for (const outline of [[rectangle(40, 25)], [regularPolygon(5, 30, 'flat')], [circle(0, 0, 12)]]) {
      const [r, tolerance] = [3, 0.0005];
      const wanted = area(outline) + perimeter(outline) * r + Math.PI * r * r;
      expect(Math.abs(area(offset(outline, r, tolerance)) - wanted)).toBeLessThan(0.01);
    }
  });

  it('runs the corners of a square on until they meet, and cuts them square at the distance of the growth', () => {
    const side = 20;
    const r = 2;
    expect(area(offset([rectangle(side, side)], r, undefined, 'mitred'))).toBeCloseTo((side + 2 * r) ** 2, 6);
    // Each corner loses a triangle with legs r·(2 − √2) to the cut at the distance r from the corner.
    const leg = r * (2 - Math.SQRT2);
    expect(area(offset([rectangle(side, side)], r, undefined, 'square'))).toBeCloseTo((side + 2 * r) ** 2 - 2 * leg * leg, 3);
  });

  it('cuts a mitre that would run further than four times the growth', () => {
    const needle = [Float64Array.of(0, 0, 40, 0, 0, 4)];
    const mitred = offset(needle, 1, undefined, 'mitred');
    const furthest = Math.max(...mitred[0].filter((_, i) => i % 2 === 0));
    expect(furthest).toBeLessThan(42);
    expect(furthest).toBeGreaterThan(40.9);
  });

  it.each([
    [3.95, true],
    [4.05, false],
    [5.5, false],
  ])('a corner whose mitre is %s times the growth is mitred: %s', (times, isMitred) => {
    // The tip of a triangle at the origin, its halves at asin(1/times) from the axis.
    const half = Math.asin(1 / times);
    const up = 100 * Math.tan(half);
    const [grown] = offset([Float64Array.of(0, 0, -100, up, -100, -up)], 2, undefined, 'mitred');
    const furthest = Math.max(...grown.filter((_, i) => i % 2 === 0));
    if (isMitred) expect(furthest).toBeCloseTo(2 * times, 2);
    else expect(furthest).toBeCloseTo(2, 2);
  });

  it('leaves no holes that chords alone make, and keeps those that are there', () => {
    // Three squares turned towards a middle, their corners all 4 mm from it: grown by 4 mm they just close over it.
    const towards = (turn: number) => {
      const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
      return Float64Array.from(
        [4, 0, 10, -6, 16, 0, 10, 6].map((_, i, all) =>
          i % 2 === 0 ? cos * all[i] - sin * all[i + 1] : sin * all[i - 1] + cos * all[i],
        ),
      );
    };
    const squares = [0.2, 0.2 + (2 * Math.PI) / 3, 0.2 + (4 * Math.PI) / 3].map(towards);
    const holes = (by: number) => withoutSliverRings(offset(squares, by), by).filter((ring) => area([ring]) < 0);
    expect(offset(squares, 4.002).filter((ring) => area([ring]) < 0)).toHaveLength(1);
    expect(holes(4.002)).toHaveLength(0);
    expect(holes(3.9)).toHaveLength(1);
    // The same in the ground around them, shrunk: pieces that chords alone leave.
    const ground = [rectangle(60, 60), ...squares.map(reversed)];
    const pieces = (outline: Outline) => outline.filter((ring) => area([ring]) > 0).length;
    const shrunk = offset(ground, -4.002);
    expect(pieces(shrunk) - pieces(withoutSliverRings(shrunk, -4.002))).toBe(1);
  });

  it('grows and shrinks by far more than its edges are long, as a general library does', () => {
    // A comb of fine curves.
    const outline = union(...Array.from({ length: 6 }, (_, i) => [circle(3 * i, (i * i) % 5, 2, 0.0005)]));
    for (const by of [30, 8, -0.9, -1.9]) {
      const theirs = crossSection(m, outline).offset(by, 'Round', 2, 4000).area();
      expect(Math.abs(area(offset(outline, by, 0.0005)) - theirs)).toBeLessThan(0.002 * Math.max(1, theirs));
    }
    expect(offset(outline, -500)).toEqual([]);
  });

  it.each(['mitred', 'square', 'round'] as const)(
    'with %s corners agrees with a general library on shapes with holes',
    (corners) => {
      const outline = union([rectangle(50, 30)], [regularPolygon(3, 40, 'point')]);
      const kind = ({ mitred: 'Miter', square: 'Square', round: 'Round' } as const)[corners];
      for (const by of [2.5, -2.5]) {
        const theirs = crossSection(m, outline).offset(by, kind, 4, 4000).area();
        expect(Math.abs(area(offset(outline, by, 0.0005, corners)) - theirs)).toBeLessThan(0.02);
      }
    },
  );
});
