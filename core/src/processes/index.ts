export { type BeamChoice, beamPlan, type BeamPlan, USUAL_BEAM } from './laser.js';
export { type MaskChoice, maskDrawing, USUAL_MASK } from './mask.js';
export { type DraftLack, draftLack, patternOf, USUAL_DRAFT } from './pattern.js';
