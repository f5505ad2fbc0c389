export { DistanceField, DrawnField, type Field, GrowthField, type LineChoice } from './distance-field.js';
export { type Middle, type NarrowLine } from './narrow.js';
