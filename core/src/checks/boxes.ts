import { type Box } from '../geometry/index.js';

export const liesIn = (inner: Box, outer: Box | undefined): boolean =>
  outer !== undefined &&
  inner.minX >= outer.minX &&
  inner.maxX <= outer.maxX &&
  inner.minY >= outer.minY &&
  inner.maxY <= outer.maxY;
