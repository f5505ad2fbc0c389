export { DepthBuffer } from './depth-buffer.js';
export {
  bufferFor,
  finishPaint,
  heightPaint,
  normalised,
  type Picture,
  pictureOf,
  type Rgb,
  rgb,
  SAMPLES,
  shaded,
  CORNER,
  THREE_QUARTER,
  towards,
  type View,
} from './picture.js';
export { GLEAM, pictureSize, reliefPicture } from './relief-picture.js';
export { signPicture } from './sign-picture.js';
