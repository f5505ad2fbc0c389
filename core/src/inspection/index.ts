export { type CheckCode, CHECKS, HINTS, type Finding } from './finding.js';
export { inspect } from './inspect.js';
export { type Limits, limitsOf, USUAL_LIMITS } from './limits.js';
export {
  type Clause,
  type ClauseResult,
  judged,
  fontFaults,
  madeToMeet,
  meets,
  type Met,
  type Standard,
  STANDARDS,
  standardOf,
  type Translate,
  type Verdict,
} from './standards/index.js';
export { type Told, told } from './inspect.js';
export { applyRemedy, type FieldSet, type FindingRemedy, remediesOf } from './mending.js';
export { contrastRatio } from './reading.js';
export { Dictionary, type DictionaryFiles } from './dictionary.js';
export { printed, type Words } from './wording.js';
export { type Basin, basinsOf } from './water.js';
