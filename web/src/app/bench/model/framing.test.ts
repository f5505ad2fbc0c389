import { distanceFor } from './framing';

describe('distanceFor', () => {
  it('shows a sphere whole in any pane: its half angle is at most that of the pane’s shorter side', () => {
    const fov = (35 * Math.PI) / 180;
    for (const aspect of [0.3, 0.6, 0.9, 1, 1.2, 1.6, 3]) {
      const distance = distanceFor(aspect) / Math.sin(fov / 2);
      const sphere = Math.asin(1 / distance);
      const across = Math.atan(Math.tan(fov / 2) * aspect);
      expect([aspect, sphere <= Math.min(fov / 2, across) + 1e-9]).toEqual([aspect, true]);
    }
  });

  it('is the same wherever the height bounds the view', () => {
    expect([distanceFor(1.2), distanceFor(3)]).toEqual([1, 1]);
    expect(distanceFor(0.5)).toBeGreaterThan(2);
  });
});
