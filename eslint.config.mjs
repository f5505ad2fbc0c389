// The arrows of docs/architecture.md as rules: web → core, server → core, and a chain of folders inside core.
import tseslint from 'typescript-eslint';

/** Folders of core, each of which may use those before it and no others. */
const CHAIN = ['units', 'sheet', 'outline', 'artwork', 'type', 'sign', 'relief', 'solid', 'drawing', 'format', 'picture'];

const OUTSIDE_CORE = {
  group: ['node:*', 'fs', 'path', 'crypto', '@angular/*', 'rxjs', 'rxjs/*', '@plain-relief/*', '**/server/**', '**/web/**'],
  message: 'core reaches nothing outside itself: fonts, files and clocks come as arguments.',
};

const coreRules = CHAIN.map((folder, i) => ({
  files: [`core/src/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          OUTSIDE_CORE,
          ...(i + 1 < CHAIN.length
            ? [
                {
                  group: CHAIN.slice(i + 1).map((later) => `**/${later}/**`),
                  message: `${folder} stands before this folder in the chain.`,
                },
              ]
            : []),
          { regex: '^\\.\\./[^/]+/(?!index\\.js$)', message: 'A folder is entered by its door, index.js.' },
        ],
      },
    ],
  },
}));

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
  ...coreRules,
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
