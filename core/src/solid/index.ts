export { coloured, type ColouredMesh, type Figures, figuresOf, type FinishArea, finishOfSurface } from './appearance.js';
export { CHORDS_IN_SPACE } from './flat-levels.js';
export { inSpace, inSpaceOrFlat, type SpaceMesh } from './in-space.js';
export { colouredInSpace, signModel, spaceSolid } from './model.js';
export { namedPieces } from './named-pieces.js';
export { solidOf, volumeOf } from './solid.js';
export { type Axis, cutByPlane, type CutPart, planeSection, type Socket } from './plane-cut.js';
