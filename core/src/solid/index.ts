export * from './mesh.js';
export * from './closed.js';
export * from './solid.js';
export * from './looks.js';
export * from './pieces.js';
export * from './named-pieces.js';
