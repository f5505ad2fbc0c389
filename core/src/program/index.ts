export {
  type Arc,
  type ArcPlane,
  type Motion,
  motionLength,
  type Place,
  placeOn,
  type SpindleTurn,
  type Step,
} from './motion.js';
export { type Duration, durationOf, type MotionLimits, type TimedStep, timedSteps } from './duration.js';
export { ProgramError } from './program-error.js';
export { degreesOf, type Rotary, rotaryWords } from './rotary.js';
export { MOST_LINES, readProgram } from './read-program.js';
