export { closedGlb, closedStl, closedThreeMf } from './closed-files.js';
export { dxfFile } from './dxf.js';
export { glbFile } from './glb.js';
export { stlFile } from './stl.js';
export { runPath } from './path-data.js';
export { svgFile } from './svg.js';
export { type NamedMesh, threeMfFile } from './three-mf.js';
export { assertClosed, NothingToWriteError, OpenSolidError, readGlb, readStl, readThreeMf } from './written.js';
