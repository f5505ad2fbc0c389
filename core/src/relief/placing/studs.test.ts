import { describe, expect, it } from '@jest/globals';
import { circle, contains, rectangle } from '../../geometry/index.js';
import { edgeDistance } from '../../../testing/heights.js';
import { studPlaces } from './studs.js';

describe('places of studs', () => {
  it('are in the middle of a bar, at both its ends, as near to them as the edge distance allows', () => {
    const places = studPlaces([rectangle(60, 10)], { diameter: 4, depth: 5, edge: 2, count: 2 });
    expect(places).toHaveLength(2);
    for (const { x, y } of places) {
      expect(Math.abs(y)).toBeLessThanOrEqual(1 + 1e-6);
      expect(Math.abs(x)).toBeGreaterThan(24);
      expect(Math.abs(x)).toBeLessThanOrEqual(26);
    }
  });

  it('keep their distance from every edge, holes among them, and two diameters from each other', () => {
    const hole = circle(0, 0, 6);
    const ring = [
      circle(0, 0, 20),
      Float64Array.from({ length: hole.length }, (_, i) => hole[hole.length - 2 - (i - (i % 2)) + (i % 2)]),
    ];
    for (const count of [1, 2, 3, 4, 6]) {
      const places = studPlaces(ring, { diameter: 5, depth: 5, edge: 3, count });
      expect(places).toHaveLength(count);
      places.forEach(({ x, y }, i) => {
        expect(contains(ring, x, y)).toBe(true);
        expect(edgeDistance(ring, x, y)).toBeGreaterThan(5.5 - 0.01);
        for (const other of places.slice(i + 1)) expect(Math.hypot(other.x - x, other.y - y)).toBeGreaterThanOrEqual(10);
      });
    }
  });

  it('are one where two would be too near, none where no hole fits, and the same every time', () => {
    const small = [rectangle(12, 12)];
    const studs = { diameter: 6, depth: 5, edge: 2, count: 3 };
    expect(studPlaces(small, studs)).toHaveLength(1);
    expect(studPlaces([rectangle(12, 9)], { ...studs, edge: 3 })).toEqual([]);
    const wide = [rectangle(90, 30)];
    expect(studPlaces(wide, studs)).toEqual(studPlaces(wide, studs));
  });
});
