export { heightPaint, type Picture, pictureOf, THREE_QUARTER } from './picture.js';
export { pictureSize, reliefPicture } from './relief-picture.js';
export { signPicture } from './sign-picture.js';
