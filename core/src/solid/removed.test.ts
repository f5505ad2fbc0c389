import { describe, expect, it } from '@jest/globals';
import { roundSign } from '../../testing/round-signs.js';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type Action, type Edge, type ShapePart, type Sign, type Support } from '../sign/index.js';
import { figuresOf, solidOf } from './index.js';

const workshop = new Workshop();

function put(sign: Sign, action: Action, width: number, height: number, edge?: Edge): ShapePart {
  addShape(sign, 10, action);
  const part = sign.parts[sign.parts.length - 1] as ShapePart;
  part.shape = { kind: 'rectangle', width, height, cornerRadius: 0 };
  if (edge) part.tiers[0].edge = edge;
  return part;
}

const removed = (sign: Sign, side: 'front' | 'back' = 'front'): number => {
  const evaluation = workshop.evaluate(sign, side);
  return figuresOf(evaluation, solidOf(evaluation)).removedMm3;
};

describe('what is taken out of a bent blank', () => {
  const [radius, thickness] = [60, 8];
  const post = (support: Partial<Extract<Support, { kind: 'cylinder' }>> = {}): Sign =>
    roundSign({ kind: 'cylinder', radius, facing: 'outside', round: true, ...support }, 80, thickness);

  it('is nothing of what is only raised, and of a band carved all round π(R² − (R − d)²)w', () => {
    const sign = post({ lid: 5 });
    put(sign, { kind: 'raise', by: 3 }, 60, 20).place.y = 20;
    expect(removed(sign)).toBeCloseTo(0, 6);
    put(sign, { kind: 'carve', by: 3 }, 2000, 12).place.y = -20;
    expect(removed(sign)).toBeCloseTo(Math.PI * (radius ** 2 - (radius - 3) ** 2) * 12, 1);
  });

  it('is of what is cut through, on the outside and inside of a cylinder, a sector of a ring', () => {
    for (const [facing, other] of [
      ['outside', radius - thickness],
      ['inside', radius + thickness],
    ] as const) {
      // prettier-ignore
      const sign: Sign = { ...bareSign(150, 80, thickness), support: { kind: 'cylinder', radius, facing } };
      put(sign, { kind: 'cut-through' }, 40, 20).place.x = 25;
      const sector = (20 * (40 / radius) * Math.abs(radius ** 2 - other ** 2)) / 2;
      expect(removed(sign)).toBeCloseTo(sector, 6);
      expect(removed(sign, 'back')).toBeCloseTo(sector, 6);
    }
  });

  it('is as much from behind, with what is carved on both sides and what rises out of a carved place', () => {
    const sign: Sign = { ...bareSign(150, 80, thickness), support: { kind: 'cylinder', radius, facing: 'outside' } };
    const pocket = put(sign, { kind: 'carve', by: 3 }, 60, 40);
    const boss = put(sign, { kind: 'raise', by: 5 }, 20, 20, { kind: 'sloped', angle: 30, sized: 'foot' });
    boss.sitsOn = { kind: 'part', part: pocket.id, at: 'floor' };
    const behind = put(sign, { kind: 'carve', by: 2 }, 30, 30);
    behind.side = 'back';
    behind.place.x = -20;
    expect(removed(sign, 'back') / removed(sign)).toBeCloseTo(1, 4);
    const [front, back] = [radius - 3, radius - thickness];
    const bare = (40 * (60 / radius) * (radius ** 2 - front ** 2)) / 2 + (30 * (30 / radius) * ((back + 2) ** 2 - back ** 2)) / 2;
    // The boss stands in it up to the face: a frustum of a pyramid, stretched as the middle of its height is, or nearly.
    const [foot, at] = [20, 20 - 2 * 3 * Math.tan(Math.PI / 6)];
    const frustum = ((foot ** 2 + foot * at + at ** 2) / 3) * 3 * (1 - 1.6 / radius);
    expect(Math.abs(removed(sign) - (bare - frustum))).toBeLessThan(0.004 * frustum);
  });

  it('is on a cone what is between two cones (Pappus)', () => {
    const cone: Support = { kind: 'cone', bottom: 60, top: 40, height: 90, facing: 'outside', round: true };
    const sign = roundSign(cone, 90, 6);
    put(sign, { kind: 'carve', by: 2 }, 4000, 4000);
    const [slant, mean] = [Math.hypot(90, 20), 50];
    const lean = Math.atan2(20, 90);
    // A strip 2 mm thick under the face: its middle is 1 mm, along the normal, nearer to the axis.
    const strip = 2 * Math.PI * (mean - Math.cos(lean)) * slant * 2;
    expect(Math.abs(removed(sign) / strip - 1)).toBeLessThan(2e-3);
  });
});
