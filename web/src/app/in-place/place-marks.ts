import { type PhotographScale, type PlaceGround, type Point } from '@plain-relief/core/in-place';

/** A mark on a photograph that can be dragged. */
export interface Handle extends Point {
  readonly name: string;
}

const CORNERS = ['upper left corner', 'upper right corner', 'lower right corner', 'lower left corner'] as const;
const ENDS = ['left end of the level line', 'right end of the level line', 'lower end of the upright line', 'upper end of the upright line'] as const; // prettier-ignore

const pointsOf = (scale: PhotographScale): readonly Point[] =>
  scale.kind === 'corners' ? scale.points : [scale.across.from, scale.across.to, scale.up.from, scale.up.to];

/** The marks of a ground, in their order; none where there is no photograph. */
export function handlesOf(ground: PlaceGround): Handle[] {
  if (ground.kind !== 'photograph') return [];
  const names = ground.scale.kind === 'corners' ? CORNERS : ENDS;
  return pointsOf(ground.scale).map((point, i) => ({ ...point, name: names[i] }));
}

/** A scale with one of its marks elsewhere. */
export function movedHandle(scale: PhotographScale, index: number, to: Point): PhotographScale {
  const tidy = (pixel: number): number => Math.round(10 * Math.max(-20_000, Math.min(20_000, pixel))) / 10;
  const points = pointsOf(scale).map((point, i) => (i === index ? { x: tidy(to.x), y: tidy(to.y) } : point));
  if (scale.kind === 'corners') return { ...scale, points };
  const [a, b, c, d] = points;
  return { ...scale, across: { ...scale.across, from: a, to: b }, up: { ...scale.up, from: c, to: d } };
}

/** A scale by the other way of marking, where the first one lies. */
export function otherScale(scale: PhotographScale): PhotographScale {
  const points = pointsOf(scale);
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  if (scale.kind === 'corners') {
    const low = (top + bottom * 2) / 3;
    return {
      kind: 'lengths',
      across: { from: { x: left, y: low }, to: { x: right, y: low }, mm: scale.width },
      up: { from: { x: left, y: bottom }, to: { x: left, y: top }, mm: scale.height },
    };
  }
  return {
    kind: 'corners',
    width: scale.across.mm,
    height: scale.up.mm,
    points: [{ x: left, y: top }, { x: right, y: top }, { x: right, y: bottom }, { x: left, y: bottom }], // prettier-ignore
  };
}
