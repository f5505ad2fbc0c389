export {
  type Block,
  BLOCKS,
  EVERYTHING,
  PAPER_NAMES,
  PAPERS,
  type SheetLayout,
  TEMPLATE_PAPERS,
  type TemplatePaper,
} from './sheet-layout.js';
