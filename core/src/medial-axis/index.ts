export { DistanceField, DrawnField, type Field, GrowthField } from './distance-field.js';
export { type Middle, type NarrowLine } from './narrow.js';
export { Widths } from './widths.js';
