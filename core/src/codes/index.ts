export { checkDigit } from './check-digit.js';
export { type CodeSize, extentOfCode, outlineOfCode } from './outline.js';
export { type CodeFault, type CodeSymbol, type Correction, symbolOf } from './symbol.js';
export { SYMBOLOGIES, type Symbology, type SymbologyId, symbologyOf } from './symbologies.js';
