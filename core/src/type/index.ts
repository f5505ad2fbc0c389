export * from './catalogue.js';
export * from './font-book.js';
export { FontError, type LetterFont, type ShapedGlyph } from './letter-font.js';
export { codePointsOf } from './outline-font.js';
export { codePointsOfSingleLine } from './single-line-font.js';
export * from './runs.js';
export * from './setting.js';
