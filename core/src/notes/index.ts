export { type Note, note, type Remedy } from './notes.js';
