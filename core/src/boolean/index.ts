export { CombineError } from './combine-error.js';
export { combinedSolids, type CombinedMesh, type Operation } from './combined.js';
export { type Edge, loopsOf, triangulatedLoops } from './loops.js';
