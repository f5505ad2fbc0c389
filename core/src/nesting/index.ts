export { colliding } from './collisions.js';
export { nested } from './nest.js';
export { type Clamp, type Laid, laidOutline, type Nest, type NestChoice, type Size, sizeOfSheet } from './nest-choice.js';
export { packed } from './pack.js';
