import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type ShapePart, type Sign } from '../sign/index.js';
import { sectionSpans } from './section.js';

const workshop = new Workshop();

describe('the section across a level in a plane', () => {
  it('has over the plan laid flat the height of the plane over the arc, from in front and from behind', () => {
    const [radius, depth] = [60, 4];
    const sign: Sign = { ...bareSign(180, 80, 10), support: { kind: 'cylinder', radius, facing: 'outside' } };
    addShape(sign, 10, { kind: 'set', to: -depth, flat: true });
    const part = sign.parts[0] as ShapePart;
    part.shape = { kind: 'rectangle', width: 40, height: 20, cornerRadius: 0 };
    part.place.x = 15;
    const at = (angle: number): number => (radius - depth) / Math.cos(angle) - radius;
    for (const side of ['front', 'back'] as const) {
      const spans = sectionSpans(workshop.evaluate(sign, side), { x: 0, y: 0, turn: 0 });
      const middle = side === 'front' ? 15 : -15;
      const flat = spans.filter(({ from, to }) => from > middle - 20.001 && to < middle + 20.001);
      expect(flat.length).toBeGreaterThan(20);
      for (const { from, to, z, zEnd, under, underEnd } of flat) {
        const [begin, end] = side === 'front' ? [z, zEnd] : [-10 - under, -10 - underEnd];
        expect(Math.abs(begin - at((from - middle) / radius))).toBeLessThan(1e-3);
        expect(Math.abs(end - at((to - middle) / radius))).toBeLessThan(1e-3);
      }
      // What is told of the whole: the deepest place is the middle of the plane, and on the edge it is nearly the face.
      const heights = flat.map(({ z, under }) => (side === 'front' ? z : -10 - under));
      expect(Math.min(...heights)).toBeCloseTo(-depth, 3);
      expect(Math.max(...heights)).toBeCloseTo(at(20 / radius), 1);
    }
    expect(workshop.evaluate(sign).deepest).toBeCloseTo(-depth, 9);
  });
});
