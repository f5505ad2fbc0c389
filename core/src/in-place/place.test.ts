import { describe, expect, it } from '@jest/globals';
import { Ajv } from 'ajv';
import { cameraOfPlace, firstScale, mapped, minutesOf, newPlace, type PhotographScale, Place, readingView, wallMap } from './index.js'; // prettier-ignore

const line = (x1: number, y1: number, x2: number, y2: number, mm: number) => ({
  from: { x: x1, y: y1 },
  to: { x: x2, y: y2 },
  mm,
});

describe('a place', () => {
  it('begins as signs beside each other before a plain ground, and is what its schema says', () => {
    const place = newPlace([{ id: 'a', width: 400 }, { id: 'b', width: 200 }]); // prettier-ignore
    expect(new Ajv().compile(Place)(place)).toBe(true);
    const [a, b] = place.signs;
    expect([b.x - a.x, a.x - 200 + (b.x + 100)]).toEqual([400, 0]);
    expect(newPlace([]).signs).toEqual([]);
    const photograph = { ...place, ground: { kind: 'photograph', file: 'f', width: 800, height: 600, scale: firstScale(800, 600) } }; // prettier-ignore
    expect(new Ajv().compile(Place)(photograph)).toBe(true);
  });

  it.each([
    ['drawn as one reads', line(100, 500, 500, 500, 800), line(300, 500, 300, 100, 800)],
    ['drawn backwards', line(500, 500, 100, 500, 800), line(300, 100, 300, 500, 800)],
  ])('of two lengths is to their scale, upright and not mirrored: %s', (_, across, up) => {
    const map = wallMap({ kind: 'lengths', across, up });
    expect(mapped(map, { x: 0, y: 0 })).toEqual({ x: 300, y: 500 });
    expect(mapped(map, { x: 100, y: 200 })).toEqual({ x: 350, y: 400 });
  });

  it('of two lengths along each other is refused', () => {
    const scale: PhotographScale = { kind: 'lengths', across: line(0, 0, 100, 0, 100), up: line(0, 0, 100, 8, 100) };
    expect(() => wallMap(scale)).toThrow('mark one across the wall and one up it');
  });

  it('of four corners has its origin in the middle of their diagonals', () => {
    const points = [{ x: 100, y: 100 }, { x: 500, y: 160 }, { x: 500, y: 380 }, { x: 100, y: 420 }]; // prettier-ignore
    const map = wallMap({ kind: 'corners', width: 900, height: 2100, points });
    const middle = mapped(map, { x: 0, y: 0 });
    const cross = (a: number, b: number): number =>
      (middle.x - points[a].x) * (points[b].y - points[a].y) - (middle.y - points[a].y) * (points[b].x - points[a].x);
    expect(Math.abs(cross(0, 2)) + Math.abs(cross(1, 3))).toBeLessThan(1e-6);
    expect(mapped(map, { x: -450, y: 1050 }).x).toBeCloseTo(100, 9);
    // In a smaller picture the same wall is smaller.
    const place = { ...newPlace([]), ground: { kind: 'photograph' as const, file: 'f', width: 800, height: 600, scale: { kind: 'corners' as const, width: 900, height: 2100, points } } }; // prettier-ignore
    const [across, down] = cameraOfPlace(place, [], 400, 300).seen(450, -1050, 0);
    expect([across, down].map((value) => Number(value.toFixed(6)))).toEqual([250, 190]);
  });

  it('before a plain ground is seen whole and not small, from every side', () => {
    for (const turn of [-60, 0, 45])
      for (const tilt of [-40, 0, 50]) {
        const place = { ...newPlace([{ id: 'a', width: 400 }]), view: { turn, tilt } };
        const camera = cameraOfPlace(place, [{ width: 400, height: 150, depth: 20 }], 1000, 700);
        const seen = [-200, 200].flatMap((x) => [-75, 75].map((y) => camera.seen(x, y, 20)));
        const reach = Math.max(...seen.map(([x, y]) => Math.max(Math.abs(x - 500) / 500, Math.abs(y - 350) / 350)));
        expect(reach).toBeGreaterThan(0.7);
        expect(reach).toBeLessThan(0.75);
      }
  });

  it('is read under the angle that its letters have, and on a screen at arm’s length as large', () => {
    // The letters of normal sight: 5 minutes of arc, 8.73 mm at 6 m (H. Snellen’s chart; from memory).
    const at = (distance: number, height = 1600) => ({ ...newPlace([]), reading: { distance, height, eyes: 1600 } });
    expect(minutesOf(at(6), 8.727)).toBeCloseTo(5, 3);
    // 3 m above the eyes and 4 m away: 5 m off, and foreshortened to four fifths.
    expect(minutesOf(at(4, 4600), 100) / (((Math.atan(80 / 5000) * 180) / Math.PI) * 60)).toBeCloseTo(1, 3);
    const view = readingView(at(3), newPlace([{ id: 'a', width: 600 }]).signs[0], { width: 600, height: 200, depth: 10 });
    const [left, right] = [view.camera.seen(-300, 0, 0)[0], view.camera.seen(300, 0, 0)[0]];
    // 600 mm at 3 m are 120 mm at 600 mm: 453.5 pixels of CSS.
    expect(right - left).toBeCloseTo((120 * 96) / 25.4, 3);
    expect([left > 0, right < view.width]).toEqual([true, true]);
    expect(readingView(at(4, 4600), newPlace([{ id: 'a', width: 600 }]).signs[0], { width: 600, height: 200, depth: 10 })).toMatchObject({ away: 5, lookUp: expect.closeTo(36.87, 2) }); // prettier-ignore
  });
});
