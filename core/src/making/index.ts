export { CutChoiceSchema, readCutChoice } from './choice-schema.js';
export { type Cost, type CostLine, costOf, type Made } from './cost.js';
export {
  type PlannedFile,
  type ToldLeft,
  turningTools,
  type WritingChoice,
  type WrittenPlan,
  writtenPlan,
} from './written-plan.js';
