export { compared, type Difference } from './comparison.js';
export {
  type DryRun,
  dryRun,
  DryRunError,
  isProven,
  type Mishaps,
  type NamedProgram,
  type Obstacle,
  type Target,
  type TurningTool,
  type Workplace,
} from './dry-run.js';
export { type Removed, Stock } from './stock.js';
