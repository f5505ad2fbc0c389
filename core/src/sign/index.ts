export * from './edit.js';
export * from './levels.js';
export * from './new-sign.js';
export * from './schema.js';
export * from './ticket.js';
export * from './validate.js';
export * from './version.js';
