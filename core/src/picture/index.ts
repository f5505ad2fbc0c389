export * from './picture.js';
