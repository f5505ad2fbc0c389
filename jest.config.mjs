import { PACKAGES } from './ops/jest-transform.mjs';
import presets from 'jest-preset-angular/presets/index.js';

const { createEsmPreset } = presets;

/** One run for every package: core, server and the browser tests in Node.js, the page's own in jsdom. */
const swc = [
  new URL('./ops/jest-transform.mjs', import.meta.url).pathname,
  {
    jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' },
    module: { type: 'es6' },
    sourceMaps: 'inline',
  },
];

const inNode = (displayName, rootDir, testMatch) => ({
  displayName,
  rootDir,
  testEnvironment: 'node',
  testMatch,
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': swc, '/node_modules/.+\\.m?js$': swc },
  transformIgnorePatterns: [`/node_modules/(?!(?:${PACKAGES.join('|')})/)`],
  moduleNameMapper: {
    '^@plain-relief/core/(.*)$': '<rootDir>/../core/src/$1/index.ts',
    '^@plain-relief/api$': '<rootDir>/../api/src/index.ts',
    '^@plain-relief/api/(.*)$': '<rootDir>/../api/src/$1.ts',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
});

export default {
  // A test that fails for the slowness of a machine says nothing of what it tests.
  testTimeout: 900_000,
  projects: [
    inNode('core', 'core', ['<rootDir>/src/**/*.test.ts']),
    inNode('machine', 'machine', ['<rootDir>/src/**/*.test.ts']),
    inNode('server', 'server', ['<rootDir>/src/**/*.test.ts']),
    { ...inNode('e2e', 'e2e', ['<rootDir>/**/*.test.ts']), setupFilesAfterEnv: ['<rootDir>/patience.ts'] },
    {
      ...createEsmPreset({ tsconfig: '<rootDir>/tsconfig.test.json' }),
      displayName: 'web',
      rootDir: 'web',
      setupFilesAfterEnv: ['<rootDir>/src/testing/setup.ts'],
      testMatch: ['<rootDir>/src/**/*.test.ts'],
      moduleNameMapper: { tslib: 'tslib/tslib.es6.js' },
    },
  ],
};
