export * from './evaluate.js';
export { type Note, type NoteCode, note } from './notes.js';
