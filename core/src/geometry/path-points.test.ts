import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import svgpath from 'svgpath';
import { area, bounds } from './contour.js';
import { nearestOn } from './nearest.js';
import {
  addPoint,
  isSmooth,
  makeCorner,
  makeSmooth,
  moveHandle,
  movePoint,
  pathData,
  pathOfPoints,
  type PathPoints,
  pathPoints,
  removePoint,
} from './path-points.js';
import { flatten, type PathCommand, readPathData } from './path.js';
import { circle, rectangle } from './shapes.js';

const areaOf = (path: readonly PathCommand[]) => area(flatten(path, 1e-4).map(({ points }) => Float64Array.from(points)));

/** A circle of four cubic curves, as drawing programs make it. */
const k = 55.22847498;
const disc = `M100 0C100 ${k} ${k} 100 0 100C${-k} 100 -100 ${k} -100 0C-100 ${-k} ${-k} -100 0 -100C${k} -100 100 ${-k} 100 0Z`;
const subpaths: PathPoints = pathPoints(readPathData(disc));

describe('points of a path', () => {
  it('go there and back', () => {
    expect(subpaths).toHaveLength(1);
    expect(subpaths[0].points).toHaveLength(4);
    expect(subpaths[0].closed).toBe(true);
    expect(
      svgpath(pathData(pathOfPoints(subpaths)))
        .abs()
        .round(2)
        .toString(),
    ).toBe(svgpath(disc).round(2).toString());
    const mixed = 'M0 0L40 0Q60 20 40 40L0 40ZM5 5L10 5L10 10ZM0 60L20 80';
    const there = pathPoints(readPathData(mixed));
    expect(there.map(({ closed, points }) => [closed, points.length])).toEqual([
      [true, 4],
      [true, 3],
      [false, 2],
    ]);
    // A quadratic curve is the cubic one with handles two thirds of the way (textbook).
    expect(areaOf(pathOfPoints(there))).toBeCloseTo(areaOf(readPathData(mixed)), 3);
  });

  it('a point more changes nothing of the shape, wherever it is added', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 }), fc.double({ min: 0.02, max: 0.98, noNaN: true }), (point, t) => {
        const more = addPoint(subpaths, { subpath: 0, point }, t);
        expect(more[0].points).toHaveLength(5);
        expect(areaOf(pathOfPoints(more))).toBeCloseTo(areaOf(pathOfPoints(subpaths)), 0);
        expect(isSmooth(more[0].points[point + 1])).toBe(true);
        // Every point of the new curves lies on the circle of the old ones, to what four curves can do (0.03 %).
        for (const { points } of flatten(pathOfPoints(more), 1e-3))
          for (let i = 0; i < points.length; i += 2)
            expect(Math.abs(Math.hypot(points[i], points[i + 1]) - 100)).toBeLessThan(0.03);
      }),
      { numRuns: 40 },
    );
    expect(pathOfPoints(addPoint(pathPoints(readPathData('M0 0L10 0L10 10Z')), { subpath: 0, point: 2 }))).toContainEqual({
      kind: 'line',
      x: 5,
      y: 5,
    });
  });

  it('moves with its handles; a smooth one keeps them in line', () => {
    const moved = movePoint(subpaths, { subpath: 0, point: 0 }, 120, 10);
    expect(moved[0].points[0]).toMatchObject({ x: 120, y: 10, leaving: { x: 120, y: expect.closeTo(k + 10) } });
    const turned = moveHandle(subpaths, { subpath: 0, point: 0 }, 'leaving', 100 + 30, 40);
    expect(turned[0].points[0].arriving).toEqual({ x: expect.closeTo(100 - 0.6 * k), y: expect.closeTo(-0.8 * k) });
    expect(isSmooth(turned[0].points[0])).toBe(true);
  });

  it('go on having the handles that they had, and no others, through path data and back', () => {
    const square = pathPoints(readPathData('M0 0L10 0L10 10L0 10Z'));
    const smooth = makeSmooth(square, { subpath: 0, point: 0 });
    const again = pathPoints(readPathData(pathData(pathOfPoints(smooth))));
    expect(again[0].points.map(({ arriving, leaving }) => [arriving !== undefined, leaving !== undefined])).toEqual([
      [true, true],
      [false, false],
      [false, false],
      [false, false],
    ]);
    expect(areaOf(pathOfPoints(again))).toBeCloseTo(areaOf(pathOfPoints(smooth)), 2);
  });

  it('becomes a corner, becomes smooth, and goes', () => {
    const corner = makeCorner(subpaths, { subpath: 0, point: 0 });
    expect(corner[0].points[0]).toEqual({ x: 100, y: 0 });
    const smooth = makeSmooth(corner, { subpath: 0, point: 0 });
    expect(isSmooth(smooth[0].points[0])).toBe(true);
    const square = pathPoints(readPathData('M0 0L10 0L10 10L0 10Z'));
    const fewer = removePoint(square, { subpath: 0, point: 1 });
    expect(areaOf(pathOfPoints(fewer))).toBe(50);
    expect(removePoint(fewer, { subpath: 0, point: 0 })).toEqual([]);
  });
});

describe('the nearest place on outlines', () => {
  const plate = rectangle(100, 60);
  const ring = circle(0, 0, 20);
  const both = [
    { points: plate, closed: true },
    { points: ring, closed: true },
  ];

  it('is found on edges, with the length along them', () => {
    const at = nearestOn(both, 10, 29, 3)!;
    expect([at.polyline, at.x, at.y, at.length]).toEqual([0, 10, 30, 320]);
    const arc = [0, 90].map((degrees) => {
      const [x, y] = [19 * Math.cos((degrees * Math.PI) / 180), 19 * Math.sin((degrees * Math.PI) / 180)];
      return nearestOn(both, x, y, 3)!;
    });
    // A quarter of a circle is πr/2 long.
    const between = Math.abs(arc[1].along - arc[0].along);
    expect(Math.min(between, arc[0].length - between)).toBeCloseTo(10 * Math.PI, 0);
    expect(arc[0].isCorner).toBe(false);
    expect(bounds([ring])!.maxX).toBeCloseTo(20, 3);
  });

  it('is a corner where one is within reach, and nothing where nothing is', () => {
    const at = nearestOn(both, 48.5, 28.5, 3)!;
    expect([at.x, at.y, at.isCorner]).toEqual([50, 30, true]);
    expect(nearestOn(both, 35, 10, 3)).toBeUndefined();
    const end = nearestOn([{ points: [0, 0, 10, 0], closed: false }], 11, 0, 3)!;
    expect([end.x, end.isCorner, end.along]).toEqual([10, true, 10]);
  });
});
