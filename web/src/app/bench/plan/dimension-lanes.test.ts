import fc from 'fast-check';
import { type Box } from '@plain-relief/core/geometry';
import { ALL_MEASURED, dimensionLanes, FIGURE, nearestTwo, spreadWithin } from './dimension-lanes';
import { fit } from './plan-geometry';

const rectangleOf = ({ x, y }: { readonly x: number; readonly y: number }): Box => ({
  minX: x - FIGURE.width / 2,
  maxX: x + FIGURE.width / 2,
  minY: y - FIGURE.height / 2,
  maxY: y + FIGURE.height / 2,
});
const overlap = (a: Box, b: Box): boolean =>
  a.minX < b.maxX - 1e-6 && b.minX < a.maxX - 1e-6 && a.minY < b.maxY - 1e-6 && b.minY < a.maxY - 1e-6;

describe('dimension lanes', () => {
  it('write nothing over the blank or over one another, whatever is chosen wherever it lies', () => {
    const size = fc.integer({ min: 1, max: 1200 });
    const share = fc.double({ min: -0.2, max: 1.2, noNaN: true });
    fc.assert(
      fc.property(size, size, share, share, share, share, fc.boolean(), (w, h, a, b, c, d, isSmall) => {
        const pane = isSmall ? { width: 360, height: 470 } : { width: 698, height: 470 };
        const blank = { minX: -w / 2, maxX: w / 2, minY: -h / 2, maxY: h / 2 };
        const at = (s: number, low: number, length: number) => low + s * length;
        const box = {
          minX: at(Math.min(a, b), blank.minX, w),
          maxX: at(Math.max(a, b), blank.minX, w),
          minY: at(Math.min(c, d), blank.minY, h),
          maxY: at(Math.max(c, d), blank.minY, h),
        };
        const view = fit(blank, pane.width, pane.height);
        const shown = isSmall ? nearestTwo(box, blank) : ALL_MEASURED;
        const { figures, middle } = dimensionLanes(box, blank, view, pane, shown);
        if (!isSmall) expect(middle.x + 95).toBeLessThanOrEqual(pane.width - 160);
        expect(figures).toHaveLength(shown.length);
        const drawn = {
          minX: view.x + blank.minX * view.scale,
          maxX: view.x + blank.maxX * view.scale,
          minY: view.y - blank.maxY * view.scale,
          maxY: view.y - blank.minY * view.scale,
        };
        const rectangles = figures.map(rectangleOf);
        rectangles.forEach((rectangle, i) => {
          expect(overlap(rectangle, drawn)).toBe(false);
          for (const other of rectangles.slice(i + 1)) expect(overlap(rectangle, other)).toBe(false);
          expect(rectangle.minX).toBeGreaterThanOrEqual(0);
          expect(rectangle.maxX).toBeLessThanOrEqual(pane.width);
          expect(rectangle.maxY).toBeLessThanOrEqual(pane.height);
        });
      }),
      { numRuns: 300 },
    );
  });

  it('say what they measure, in the middle of it where there is room', () => {
    const blank = { minX: -300, maxX: 300, minY: -160, maxY: 160 };
    const box = { minX: -100, maxX: 140, minY: -60, maxY: 20 };
    const view = fit(blank, 698, 470);
    const { figures, extensions } = dimensionLanes(box, blank, view, { width: 698, height: 470 }, ALL_MEASURED);
    expect(Object.fromEntries(figures.map(({ what, mm }) => [what, mm]))).toEqual({
      left: 200, width: 240, right: 160, top: 140, height: 80, bottom: 100,
    }); // prettier-ignore
    const width = figures.find(({ what }) => what === 'width')!;
    expect(width.x).toBeCloseTo(view.x + 20 * view.scale, 6);
    expect(width.leader).toBeUndefined();
    expect(extensions).toHaveLength(4);
    expect(nearestTwo(box, blank)).toEqual(['width', 'height', 'right', 'bottom']);
  });

  it('lead to what they measure where they had to stand aside', () => {
    const blank = { minX: -300, maxX: 300, minY: -160, maxY: 160 };
    const box = { minX: -2, maxX: 2, minY: -2, maxY: 2 };
    const { figures } = dimensionLanes(box, blank, fit(blank, 698, 470), { width: 698, height: 470 }, ['left', 'width', 'right']);
    expect(figures.map(({ leader }) => leader !== undefined)).toEqual([false, false, false]);
    const edge = { minX: -299, maxX: -295, minY: -2, maxY: 2 };
    const near = dimensionLanes(edge, blank, fit(blank, 698, 470), { width: 698, height: 470 }, ['left', 'width', 'right']);
    // The figures of 1 mm and of 4 mm have no room where those are.
    expect(near.figures.map(({ leader }) => leader !== undefined).slice(1)).toEqual([true, false]);
  });

  it('spread as far as they must and no further', () => {
    expect(spreadWithin([50, 55, 200], 40, 0, 400)).toEqual([50, 90, 200]);
    expect(spreadWithin([390, 395], 40, 0, 400)).toEqual([340, 380]);
    expect(spreadWithin([-5], 40, 0, 400)).toEqual([20]);
  });
});
