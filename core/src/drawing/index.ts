export * from './dimension.js';
export * from './drawing.js';
export * from './palette.js';
export * from './plan.js';
export * from './section.js';
export * from './section-marks.js';
