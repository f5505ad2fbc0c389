import { firstScale, type PlaceGround, wallMap } from '@plain-relief/core/in-place';
import { handlesOf, movedHandle, otherScale } from './place-marks';

const scale = firstScale(1600, 1200);
const ground = (of = scale): PlaceGround => ({ kind: 'photograph', file: 'f', width: 1600, height: 1200, scale: of });

describe('the marks on a photograph', () => {
  it('are four corners, or the ends of two lengths, each by its name; none without a photograph', () => {
    expect(handlesOf(ground()).map(({ name }) => name)).toEqual(['upper left corner', 'upper right corner', 'lower right corner', 'lower left corner']); // prettier-ignore
    expect(handlesOf(ground(otherScale(scale))).map(({ name }) => name)[3]).toBe('upper end of the upright line');
    expect(handlesOf({ kind: 'none' })).toEqual([]);
  });

  it('are moved one at a time, to tenths of a pixel and never without end', () => {
    for (const of of [scale, otherScale(scale)]) {
      const before = handlesOf(ground(of));
      const after = handlesOf(ground(movedHandle(of, 2, { x: 12.3456, y: 1e9 })));
      expect(after[2]).toMatchObject({ x: 12.3, y: 20_000 });
      expect([after[0], after[1], after[3]]).toEqual([before[0], before[1], before[3]]);
    }
  });

  it('are a wall whichever way they are marked, and the other way lies where the first did', () => {
    const lengths = otherScale(scale);
    expect(() => wallMap(lengths)).not.toThrow();
    expect(otherScale(lengths)).toEqual(scale);
    // Of two lengths the map is to the same scale.
    const [a, b] = [wallMap(scale), wallMap(lengths)];
    expect(b[0] / b[8]).toBeCloseTo(a[0] / a[8], 6);
  });
});
