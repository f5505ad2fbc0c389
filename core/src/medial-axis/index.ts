export { DistanceField, DrawnField, type Field, GrowthField } from './distance-field.js';
