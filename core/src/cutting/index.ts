export { type Clamp, type CutChoice, type Holding, type Pattern, type TabPlace, USUAL, type ZeroChoice } from './choice.js';
export { type Cut, type CutPlan, type Left, type Progress, type Purpose, type StockBox } from './cut-plan.js';
export { cutPlan, PlanError } from './plan.js';
export { FreeSpace } from './free-space.js';
export { grown, PATH_TOLERANCE, ringsIn, shrunk } from './regions.js';
export { Terrain } from './terrain.js';
export { DropCutter } from './drop.js';
export { AIR, type Run, type Stretch } from './toolpath.js';
