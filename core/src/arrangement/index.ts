export { cleaned, connectedComponents, touchingGroups, widestGap } from './apart.js';
export {
  areasByLabel,
  arrange,
  type Arrangement,
  type Constraints,
  type Inset,
  type LabelledEdges,
  relabelled,
  visitEdges,
  type Windings,
} from './arrangement.js';
export { difference, intersection, union, windingOf } from './combine.js';
export { type Contours, ContourSet } from './contour-set.js';
export { isolatedGlyphs, separated } from './isolated-glyphs.js';
export { NodingMemory } from './noding-memory.js';
export { NodingError } from './noding.js';
export { type CornerForm, covered, joinedByPairs, offset, strokeArea, withoutSliverRings, withoutRepeats } from './offset.js';
export { ringsOf } from './rings.js';
export { TURNED_BACK, turnedBy, withoutSpikes } from './spikes.js';
export { TouchedCells } from './touched-cells.js';
export { triangulate } from './triangulate.js';
