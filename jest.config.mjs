/** One run for every package: core and server in Node.js, web in jsdom. */
const swc = [
  '@swc/jest',
  { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'es6' }, sourceMaps: 'inline' },
];
const node = (name) => ({
  displayName: name,
  rootDir: name,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': swc },
  moduleNameMapper: {
    '^@plain-relief/core/(.*)$': '<rootDir>/../core/src/$1/index.ts',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
});

export default {
  projects: [node('core')],
};
