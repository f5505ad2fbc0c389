export { BlockSurface, placeOnFace } from './block.js';
export { supportFaults, SupportError } from './faults.js';
export { type PlaneSides, SupportPlane } from './plane.js';
export { surfaceOf, surfaceOfSupport } from './surface-of.js';
export { type Room, type Round, type SupportSurface } from './surface.js';
