export { CutChoiceSchema, readCutChoice } from './choice-schema.js';
export { type Cost, type CostLine, costOf, costOfPlan, type Made } from './cost.js';
export { type PlannedCut, type PlannedFile, type WritingChoice, type WrittenPlan, writtenPlan } from './written-plan.js';
export { proposedMachine, proposedTools } from './proposed-tools.js';
export { type KeptFile, outcomeOf, type PlanOutcome, usualCell } from './outcome.js';
export { type ToldLeft } from './left-standing.js';
export { mend, type SignRemedy, signRemedies, type Standing } from './sign-remedies.js';
export {
  type AskedMeans,
  evaluationsToCut,
  filesOfPrograms,
  type KeptMeans,
  keptMeans,
  type LaidPlates,
  type MadePrograms,
  MeansError,
  meansOf,
  programsOfSheet,
  proposedToolsOf,
  SHEET_CELL,
  sheetFolder,
  type SheetMeans,
} from './run-programs.js';
export { sampleProgram, type SampleProgram } from './sample-program.js';
export { type SheetOfWorks, type SheetPlan, sheetPlan, type SheetWork, type WorkOutcome } from './sheet-plan.js';
export { type Stage, stageOf, turningTools } from './stage.js';
export { signToCut } from './sign-to-cut.js';
