import { arrowOf, nudgeLength } from './arrow-keys';

describe('arrow keys', () => {
  it('go to the right and up, and other keys nowhere', () => {
    expect([arrowOf({ key: 'ArrowUp' }), arrowOf({ key: 'ArrowLeft' }), arrowOf({ key: 'a' })]).toEqual([
      [0, 1],
      [-1, 0],
      undefined,
    ]);
  });

  it('move by what the unit suggests, ten times as far with Shift', () => {
    expect(nudgeLength('mm', { shiftKey: false })).toBe(1);
    expect(nudgeLength('in', { shiftKey: false }) * 16).toBeCloseTo(25.4, 9);
    expect(nudgeLength('in', { shiftKey: true })).toBeCloseTo(15.875, 9);
  });
});
