import { jest } from '@jest/globals';

/** ms that a step may take: a test that fails for the slowness of a machine says nothing of the application. How fast it is, is measured in bench/. */
export const PATIENCE = 240_000;

// Of a whole test, which has several.
jest.setTimeout(4 * PATIENCE);
