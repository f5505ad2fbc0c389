export { compared, type Difference } from './comparison.js';
export {
  type DryRun,
  type DryRunChoice,
  dryRun,
  DryRunError,
  isProven,
  type Mishaps,
  type NamedProgram,
  type Obstacle,
  type OverAt,
  type Target,
  troubleOf,
  type TurningTool,
  type Workplace,
} from './dry-run.js';
export { dryRunOfSheet, type SheetRun } from './sheet-run.js';
export { Film, type FilmedStock, type Reel, type Scene } from './film.js';
export { type KeptStock, type Removed, Stock } from './stock.js';
export { type Colour, stockPicture, type StockPicture, stockPictureSize } from './stock-picture.js';
