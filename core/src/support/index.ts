export { supportFaults, SupportError } from './faults.js';
export { surfaceOf, surfaceOfSupport } from './surface-of.js';
export { type CreaseLines, type Room, type Round, type SupportSurface } from './surface.js';
