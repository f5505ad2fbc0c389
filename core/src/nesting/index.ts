export { colliding } from './collisions.js';
export { type Clamp, type Laid, laidOutline, type Nest, type NestChoice, nested, type Size, sizeOfSheet } from './nest.js';
export { packed } from './pack.js';
