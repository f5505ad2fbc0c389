export { type BeamChoice, beamPlan, type BeamPlan, USUAL_BEAM } from './laser.js';
export { type MaskChoice, maskDrawing, USUAL_MASK } from './mask.js';
export { type DraftLack, draftLack, patternOf, USUAL_DRAFT, withDraft } from './pattern.js';
export { type InlayChoice, inlayDrawing, InlayError, USUAL_INLAY } from './inlay.js';
