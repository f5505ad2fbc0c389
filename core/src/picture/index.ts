export * from './picture.js';
export { pictureSize, reliefPicture } from './relief-picture.js';
export { ownPaint, signPicture } from './sign-picture.js';
