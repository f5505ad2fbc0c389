export { notesOf } from './notes-of.js';
