export { creased, type Creased } from './creased.js';
export { edgeFaults, isWatertight } from './closed.js';
export { facetNormals, smoothNormals, unitNormals } from './facets.js';
export { BACK, belongsTo, type Mesh, meshBounds, type ReliefMesh, surfaceArea, UNDERSIDE, volume } from './mesh.js';
export { piecesOf } from './pieces.js';
export { LEAST_AREA, withoutSlivers } from './slivers.js';
export { withoutTouching } from './touching.js';
