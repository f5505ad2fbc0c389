import { describe, expect, it } from '@jest/globals';
import { Random } from '../../testing/random.js';
import { gapBetween, type Outline } from './index.js';

describe('the gap between outlines', () => {
  it('is the same where only what is near is looked at: 400 random pairs', () => {
    let near = 0;
    for (let seed = 0; seed < 400; seed++) {
      const random = new Random(seed);
      const star = (x: number, y: number): Outline => {
        const count = random.whole(3, 24);
        const ring = Array.from({ length: count }, (_, i) => {
          const [angle, far] = [(2 * Math.PI * i) / count, 2 + 8 * random.unit()];
          return [x + far * Math.cos(angle), y + far * Math.sin(angle)];
        });
        return [Float64Array.from(ring.flat())];
      };
      const [one, other] = [star(0, 0), star(30 * random.unit() - 15, 30 * random.unit() - 15)];
      const within = random.pick([0, 0.5, 3, 12]);
      const [whole, part] = [gapBetween(one, other, 'edges'), gapBetween(one, other, 'edges', within)];
      if (whole <= within) near++;
      if (whole <= within) expect(part).toBe(whole);
      else expect(part).toBeGreaterThanOrEqual(whole);
    }
    expect(near).toBeGreaterThan(100);
  });
});
