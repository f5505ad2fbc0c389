export { degrees, radians } from './angle.js';
export { boxOfSegments, CellGrid } from './cell-grid.js';
export { Cells } from './cells.js';
export {
  area,
  bounds,
  type Box,
  boxRing,
  contains,
  type Contour,
  contourArea,
  insideLeft,
  joinBoxes,
  middleOfBox,
  type Outline,
  perimeter,
  reversed,
  snapPolyline,
  snapRing,
  snapStroke,
  type Stroke,
} from './contour.js';
export { type CreaseLines } from './crease-lines.js';
export {
  arcPiece,
  creasesOf,
  type Curve,
  type CurvePiece,
  type CurvePlace,
  curvePlace,
  EllipseCurve,
  PieceCurve,
  type Reach,
  straightPiece,
} from './curve.js';
export { DisjointSets } from './disjoint-sets.js';
export { gapBetween } from './gap.js';
export {
  CHORD_TOLERANCE,
  CoordinateError,
  keyX,
  keyY,
  LARGEST_MM,
  LARGEST_STEP,
  orient2d,
  pointKey,
  snap,
  STEPS_PER_MM,
  toStep,
} from './grid.js';
export { IntList } from './int-list.js';
export { IntListMap } from './int-lists.js';
export { nearestOn, type OnPolyline } from './nearest.js';
export {
  addPoint,
  isSmooth,
  makeCorner,
  makeSmooth,
  mappedPath,
  moveHandle,
  movePoint,
  pathData,
  pathOfPoints,
  type PathPoints,
  pathPoints,
  type PointAt,
  removePoint,
} from './path-points.js';
export { type FlatPath, flatten, type PathCommand, readPathData, TooManyPointsError } from './path.js';
export { compose, direction, HERE, placement, type Placement, placePoint, placeRings, placePolyline } from './placement.js';
export { PointSet } from './points.js';
export { type Polygon, polygonsOf } from './polygons.js';
export { closestShare, squareToSegment } from './segment.js';
export { cornersOf, simplified } from './simplified.js';
export { movedBy, ShapeCache } from './shape-cache.js';
export { arch, chordsInCircle, circle, ellipse, rectangle, regularPolygon, ringSector } from './shapes.js';
export { arcTrack, reversedTrack, polylineTrack, straightTrack, type Track } from './track.js';
export { cross, dot, minus, unit, type Vector, weightedSum } from './vector.js';
export { Weld } from './weld.js';
