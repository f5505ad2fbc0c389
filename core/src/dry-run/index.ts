export { compared, type Difference } from './comparison.js';
export { type DryRun, dryRun, DryRunError, type NamedProgram, type Target, type Workplace } from './dry-run.js';
export { type Removed, Stock } from './stock.js';
export { cuspHeight, lowestAlong, rise, stepoverFor, type ToolForm, veeDepth } from './tool-form.js';
