export * from './artwork.js';
export type { Finding, FindingKind, Spot } from './findings.js';
export * from './layers.js';
export * from './picture-size.js';
export * from './trace.js';
export { ArtworkError, MOST_BYTES } from './limits.js';
