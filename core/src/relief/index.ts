export * from './evaluate.js';
export type { TextMeasures } from './part-outline.js';
export { type Note, type NoteCode, note } from './notes.js';
export { TextPartsError } from './text-parts.js';
