export * from './mesh.js';
export * from './solid.js';
