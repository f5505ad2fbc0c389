export { type Layer } from './placing/layers.js';
export { mirroredRing } from './placing/mirrored.js';
export { blankNotes, type TextMeasures } from './placing/part-outline.js';
export { type LetterPlace } from './placing/letter-places.js';
export { TextPartsError } from './placing/text-parts.js';
export { Evaluator } from './plan/evaluate.js';
export {
  type Evaluation,
  heightOf,
  insertAt,
  type Level,
  type PartPlan,
  partsSeen,
  type Place,
  placeOf,
  regionOf,
  type Rung,
} from './plan/evaluation.js';
export { withoutHidden } from './plan/hidden-slopes.js';
export { HOLE, isSolid } from './plan/plan-labels.js';
export { type Band, insertMaterial, levelOutline, slopeBands, type SurfaceFinish, surfaceFinishOf } from './plan/regions.js';
export { BACK_LAYER, isInPlane, LEVEL_STEP, type Surface } from './plan/relief-function.js';
export { embedSlopes, Fields } from './slopes/embedded-slopes.js';
export { type PlacedSlopeMesh } from './slopes/slope-mesh.js';
