export { DistanceField, DrawnField, type Field, GrowthField, type LineChoice } from './distance-field.js';
export { type NarrowLine } from './narrow.js';
