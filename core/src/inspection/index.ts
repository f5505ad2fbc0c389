export { type CheckCode, CHECKS, type Finding } from './finding.js';
export { inspect } from './inspect.js';
export { type Limits, limitsOf, USUAL_LIMITS } from './limits.js';
export {
  type Clause,
  type ClauseResult,
  judged,
  meets,
  type Standard,
  STANDARDS,
  standardOf,
  type Verdict,
} from './standards/index.js';
