export { type BeamChoice, beamPlan, type BeamPlan, USUAL_BEAM } from './laser.js';
export { type MaskChoice, maskDrawing, USUAL_MASK } from './mask.js';
export { type DraftLack, draftLack, patternOf, USUAL_DRAFT, withDraft } from './pattern.js';
export { type InlayChoice, inlayDrawing, InlayError, USUAL_INLAY } from './inlay.js';
export {
  type PrintChoice,
  printFindings,
  type PrintFindings,
  type PrintPlaces,
  printSentences,
  USUAL_PRINT,
} from './print-check.js';
export {
  type PegChoice,
  pegMesh,
  proposedLines,
  split,
  SplitError,
  type SplitLines,
  type SplitPiece,
  USUAL_PEGS,
} from './split.js';
