import { HANDLES, handlePlaces, stretchedBy } from './plan-handles';

const box = { minX: -20, minY: 0, maxX: 20, maxY: 10 };
const handle = (x: number, y: number) => HANDLES.find((other) => other.x === x && other.y === y)!;

describe('handles', () => {
  it('at a side change one size, the opposite side staying', () => {
    expect(stretchedBy(handle(1, 0), box, { x: 0, y: 5 }, 60, 99)).toEqual({ factors: { across: 2, up: 1 }, x: 20, y: 5 });
    expect(stretchedBy(handle(0, -1), box, { x: 0, y: 5 }, 0, 5)).toEqual({ factors: { across: 1, up: 0.5 }, x: 0, y: 7.5 });
  });

  it('at a corner change both as one, by the larger change', () => {
    const { factors, x, y } = stretchedBy(handle(1, 1), box, { x: -20, y: 0 }, 60, 11);
    expect([factors, x, y]).toEqual([{ across: 2, up: 2 }, -20, 0]);
  });

  it('never turn a box inside out', () => {
    expect(stretchedBy(handle(-1, 0), box, { x: 0, y: 5 }, 500, 0).factors.across).toBeGreaterThan(0);
  });

  it('stand around the box, y downwards', () => {
    const [place] = handlePlaces(box, { x: 100, y: 100, scale: 2 }, [handle(1, 1)]);
    expect([place.x, place.y]).toEqual([146, 74]);
  });
});
