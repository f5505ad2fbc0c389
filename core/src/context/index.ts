export { ContextError, MOST_BYTES, MOST_TRIANGLES, refuseTooLarge } from './context-error.js';
export { type ContextMesh, readContext } from './context-mesh.js';
export { type Fit, fitted, type FitError, type FitKind, type FittedPlane, type FittedRound } from './fit.js';
export { asItComes, type Laid, laidOn, type Laying, lengthAlong, placed, type Placing } from './lay.js';
export { smoothFace, USUAL_TURN } from './smooth-face.js';
