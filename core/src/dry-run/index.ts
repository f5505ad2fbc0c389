export { compared, type Difference } from './comparison.js';
export { type Removed, Stock } from './stock.js';
export { cuspHeight, lowestAlong, rise, stepoverFor, type ToolForm, veeDepth } from './tool-form.js';
