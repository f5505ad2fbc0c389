export {
  type Clamp,
  type CutChoice,
  type Holding,
  MOST_DEPTH_ENGRAVED,
  type Pattern,
  type Pins,
  type TabPlace,
  type Turning,
  USUAL,
  type ZeroChoice,
} from './choice.js';
export { type Cut, type CutPlan, type Left, type LeftCause, type Progress, type Purpose } from './cut-plan.js';
export { CLEARANCE, cutPlan, zeroOf } from './plan.js';
export { PlanError } from './plan-error.js';
export { FreeSpace } from './free-space.js';
export { grown, PATH_TOLERANCE, ringsIn, shrunk } from './regions.js';
export { Terrain } from './terrain.js';
export { DropCutter } from './drop.js';
export { type PinHole, type StockBox, type Workpiece, laidOut, liesHalfTurned } from './workpiece.js';
export { AIR, type Run, type Stretch } from './toolpath.js';
