export * from './dxf.js';
export * from './stl.js';
export * from './svg.js';
export * from './glb.js';
export * from './three-mf.js';
export * from './written.js';
