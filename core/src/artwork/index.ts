export * from './artwork.js';
export * from './layers.js';
export { ArtworkError, MOST_BYTES } from './limits.js';
export * from './svg.js';
