import {
  bounds,
  flatten,
  mappedPath,
  pathData,
  pathOfPoints,
  type PathPoints,
  pathPoints,
  type Placement,
  placement,
  placePoint,
  readPathData,
} from '../../geometry/index.js';
import { type ShapePart } from '../document/schema.js';

/** Finely enough that the box of chords is that of the curves. */
const BOX_TOLERANCE = 1e-3;

const boxOfPath = (path: ReturnType<typeof readPathData>) =>
  bounds(flatten(path, BOX_TOLERANCE).map(({ points }) => Float64Array.from(points)));

type PathShape = Extract<ShapePart['shape'], { kind: 'outline' }>;

/** The points of a plain outline, in mm about its middle. */
export function pointsOfShape({ path, width, height }: PathShape): PathPoints {
  const commands = readPathData(path);
  const box = boxOfPath(commands);
  if (!box) return [];
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const [sx, sy] = [w > 0 ? width / w : 1, h > 0 ? height / h : 1];
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  return pathPoints(mappedPath(commands, (x, y) => [(x - cx) * sx, (y - cy) * sy]));
}

/** Where the points of a part lie in the plan. */
export const placementOfPoints = ({ place }: ShapePart): Placement => placement(place);

/**
 * A part with other points: its size and its middle become those of the new outline, so that points that were not moved stay where
 * they are in the plan. Undefined where nothing is left of it.
 */
export function withPoints(part: ShapePart, points: PathPoints): ShapePart | undefined {
  const commands = pathOfPoints(points);
  const box = boxOfPath(commands);
  if (!box) return undefined;
  const [cx, cy] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const path = pathData(mappedPath(commands, (x, y) => [x - cx, y - cy]));
  const [x, y] = placePoint(placement(part.place), cx, cy);
  const extent = (mm: number) => Math.max(0.01, Number(mm.toFixed(4)));
  return {
    ...part,
    shape: { kind: 'outline', width: extent(box.maxX - box.minX), height: extent(box.maxY - box.minY), path },
    place: { ...part.place, x: Number(x.toFixed(4)), y: Number(y.toFixed(4)) },
  };
}
