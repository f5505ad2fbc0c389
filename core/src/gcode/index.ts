export { FIT_TOLERANCE, fitted, type Fitted } from './fitting.js';
export { type Program, programsOf, type WritablePlan, type WrittenCut } from './writer.js';
