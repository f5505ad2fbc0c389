export { type Artwork, type ArtworkChoice, type ArtworkFormat, importArtwork, outlinePath, plainChoice } from './artwork.js';
export { type Finding } from './findings.js';
export { middleOf } from './layers.js';
export { ArtworkError, MOST_BYTES } from './limits.js';
export { pictureKind, pictureSize } from './picture-size.js';
export { type GreyPicture, MOST_PIXELS, type TraceChoice, tracePicture } from './trace.js';
