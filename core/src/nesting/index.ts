export { type Laid, laidOutline, type Nest, type NestChoice, nested } from './nest.js';
export { packed } from './pack.js';
