export * from './dxf.js';
export * from './stl.js';
export * from './svg.js';
