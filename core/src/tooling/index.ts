export { chipLoadAt, type ChipLoad, type CuttingData, type Feeds, feedsFor, type Limit, type SpindleLimits } from './feeds.js';
export { coneRadius, cuspHeight, lowestAlong, rise, stepoverFor, type ToolForm, touchingPlane, veeDepth } from './tool-form.js';
