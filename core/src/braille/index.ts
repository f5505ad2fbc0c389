export { BLANK_CELL, CELLS_PATTERN, dotsOf, linesOf, saidWords } from './cells.js';
export {
  ballCap,
  brailleLayout,
  type BrailleLayout,
  type BrailleSizes,
  lineWidth,
  type PlacedDot,
  USUAL_BRAILLE,
} from './layout.js';
export { BRAILLE_TABLES, brailleTable, type BrailleTable } from './tables.js';
