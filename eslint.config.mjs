// What each part may reach outside itself; which room uses which is .dependency-cruiser.mjs.
import tseslint from 'typescript-eslint';

const OUTSIDE_CORE = {
  group: ['node:*', 'fs', 'path', 'crypto', '@angular/*', 'rxjs', 'rxjs/*', '@plain-relief/*', '**/server/**', '**/web/**'],
  message: 'core reaches nothing outside itself: fonts, files and clocks come as arguments.',
};

const never = (files, group, message) => ({
  files,
  ignores: ['**/*.test.ts', '**/testing/**'],
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] },
});

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.angular/**', '.run/**', 'docs/**'] },
  ...tseslint.configs.recommended,
  ...tseslint.configs.stylistic,
  {
    rules: {
      eqeqeq: 'error',
      '@typescript-eslint/no-empty-function': 'off',
      '@typescript-eslint/prefer-for-of': 'off',
      'no-console': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: [OUTSIDE_CORE] }] },
  },
  never(
    ['server/src/**/*.ts'],
    ['@plain-relief/web', '**/web/src/**', '@angular/*'],
    'The server knows core and nothing of the page.',
  ),
  never(
    ['web/src/**/*.ts'],
    ['@plain-relief/server', '**/server/src/**', 'node:*', 'fastify', 'sequelize'],
    'The page knows core and nothing of the server but its answers.',
  ),
);
