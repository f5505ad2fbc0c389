import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Camera, cameraAt, cameraOf, homographyBetween, inverse, mapped, type Point } from './index.js';

const SQUARE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];
const near = (a: Point, b: Point, off = 1e-9): void => expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(off);

describe('the map between four points and four others', () => {
  it('of the unit square and a quadrilateral is Heckbert’s closed form', () => {
    // P. Heckbert, Fundamentals of Texture Mapping and Image Warping, 1989, 2.2.3.
    const quad = [{ x: 10, y: 20 }, { x: 110, y: 35 }, { x: 95, y: 140 }, { x: 5, y: 120 }]; // prettier-ignore
    const [p0, p1, p2, p3] = quad;
    const [dx1, dx2, sx] = [p1.x - p2.x, p3.x - p2.x, p0.x - p1.x + p2.x - p3.x];
    const [dy1, dy2, sy] = [p1.y - p2.y, p3.y - p2.y, p0.y - p1.y + p2.y - p3.y];
    const below = dx1 * dy2 - dx2 * dy1;
    const [g, h] = [(sx * dy2 - dx2 * sy) / below, (dx1 * sy - sx * dy1) / below];
    const wanted = [p1.x - p0.x + g * p1.x, p3.x - p0.x + h * p3.x, p0.x, p1.y - p0.y + g * p1.y, p3.y - p0.y + h * p3.y, p0.y, g, h, 1]; // prettier-ignore
    homographyBetween(SQUARE, quad).forEach((value, i) => expect(value).toBeCloseTo(wanted[i], 9));
  });

  it('keeps the cross-ratio of four points on a line, and leads back', () => {
    const map = homographyBetween(SQUARE, [{ x: 0, y: 0 }, { x: 50, y: 5 }, { x: 40, y: 60 }, { x: 3, y: 30 }]); // prettier-ignore
    const [a, b, c, d] = [0.1, 0.3, 0.6, 0.95].map((t) => mapped(map, { x: t, y: 0.2 + 0.5 * t }));
    const apart = (p: Point, q: Point): number => Math.hypot(p.x - q.x, p.y - q.y);
    const ratio = (apart(a, c) * apart(b, d)) / (apart(b, c) * apart(a, d));
    expect(ratio).toBeCloseTo((0.5 * 0.65) / (0.3 * 0.85), 9);
    for (const point of [a, b, c, d]) near(mapped(map, mapped(inverse(map), point)), point);
  });

  it('is refused of corners that do not go round, with what to do', () => {
    const crossed = [SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]];
    const flat = [SQUARE[0], SQUARE[1], { x: 2, y: 0 }, SQUARE[3]];
    const dart = [SQUARE[0], SQUARE[1], { x: 0.2, y: 0.2 }, SQUARE[3]];
    for (const wrong of [crossed, flat, dart, [SQUARE[0], SQUARE[0], SQUARE[0], SQUARE[0]]])
      expect(() => homographyBetween(SQUARE, wrong)).toThrow('do not go round a rectangle');
  });
});

describe('the camera that took a picture', () => {
  const around = fc.record({
    turn: fc.double({ min: -60, max: 60, noNaN: true }),
    tilt: fc.double({ min: -40, max: 40, noNaN: true }),
    distance: fc.double({ min: 1500, max: 9000, noNaN: true }),
    lens: fc.double({ min: 0.5, max: 3, noNaN: true }),
  });
  const corners = [{ x: -400, y: 300 }, { x: 400, y: 300 }, { x: 400, y: -300 }, { x: -400, y: -300 }]; // prettier-ignore
  const markedBy = (camera: Camera): Point[] => corners.map(({ x, y }) => {
    const [across, down] = camera.seen(x, y, 0);
    return { x: across, y: down };
  }); // prettier-ignore

  it('is found from four corners: what stands before the wall comes where it was', () => {
    fc.assert(
      fc.property(around, ({ lens, ...standpoint }) => {
        fc.pre(Math.hypot(standpoint.turn, standpoint.tilt) > 12);
        const [width, height] = [1600, 1200];
        const taken = cameraAt({ x: 60, y: -40 }, standpoint, lens * width, width, height);
        const found = cameraOf(homographyBetween(corners, markedBy(taken)), width, height);
        fc.pre(!found.isAssumed);
        for (const [x, y, z] of [
          [0, 0, 0],
          [200, -100, 0],
          [150, 80, 90],
          [-300, 200, 40],
        ]) {
          const [a, b] = [taken.seen(x, y, z), found.seen(x, y, z)];
          near({ x: a[0], y: a[1] }, { x: b[0], y: b[1] }, 1e-3);
        }
        found.eye.forEach((mm, k) => expect(mm).toBeCloseTo(taken.eye[k], 1));
      }),
    );
  });

  it('is assumed where a picture was taken straight, and the wall is seen as it was marked', () => {
    const map = homographyBetween(corners, [{ x: 400, y: 300 }, { x: 1200, y: 300 }, { x: 1200, y: 900 }, { x: 400, y: 900 }]); // prettier-ignore
    const camera = cameraOf(map, 1600, 1200);
    expect(camera.isAssumed).toBe(true);
    expect(camera.seen(400, -300, 0).slice(0, 2)).toEqual([1200, 900]);
    // One pixel a mm, seen from 0.8 of the longest side: what stands 128 mm before the wall is a ninth larger.
    expect(camera.eye[2]).toBeCloseTo(1280, 6);
    expect(camera.seen(90, 0, 128)[0]).toBeCloseTo(800 + 100, 6);
  });

  it('looks at what it is said to look at, from where it is said to stand', () => {
    const camera = cameraAt({ x: 10, y: 20 }, { turn: 90, tilt: 0, distance: 500 }, 1000, 400, 300);
    camera.eye.forEach((mm, k) => expect(mm).toBeCloseTo([510, 20, 0][k], 6));
    const [across, down, nearness] = cameraAt({ x: 10, y: 20 }, { turn: 30, tilt: -20, distance: 500 }, 1000, 400, 300).seen(10, 20, 0); // prettier-ignore
    [across, down, 1 / nearness].forEach((value, k) => expect(value).toBeCloseTo([200, 150, 500][k], 6));
    // 1 mm at 1 m seen with 1000 pixels is a pixel.
    const straight = cameraAt({ x: 0, y: 0 }, { turn: 0, tilt: 0, distance: 1000 }, 1000, 400, 300);
    expect(straight.seen(1, -1, 0).slice(0, 2)).toEqual([201, 151]);
  });

  it('tells the place that is seen at a pixel', () => {
    fc.assert(
      fc.property(around, ({ lens, ...standpoint }) => {
        const camera = cameraAt({ x: 0, y: 0 }, standpoint, lens * 800, 800, 600);
        const place = [70, -120, 55] as const;
        camera.placeAt(...camera.seen(...place)).forEach((mm, k) => expect(mm).toBeCloseTo(place[k], 5));
        const [across, down] = camera.seen(33, 44, 0);
        near(camera.onWall(across, down)!, { x: 33, y: 44 }, 1e-5);
      }),
    );
    // Above the horizon of a wall that is seen from aside there is none.
    expect(cameraAt({ x: 0, y: 0 }, { turn: 80, tilt: 0, distance: 500 }, 300, 800, 600).onWall(1, 300)).toBeUndefined();
  });
});
