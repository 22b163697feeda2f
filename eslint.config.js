import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

/** Arrows point one way: web -> core, server -> core and demo, demo -> core. */
const forbid = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }],
});

export default tseslint.config(
  { ignores: ['**/dist/', 'data*/', 'test-results/', '.cache/'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': 'off',
      eqeqeq: ['error', 'always'],
      // A schema and the type read off it share one name, as in core/src/model.
      'no-redeclare': 'off',
    },
  },
  {
    files: ['**/src/**'],
    plugins: { regexp },
    rules: {
      // Text from outside must not take longer than its length.
      'regexp/no-super-linear-backtracking': 'error',
      'regexp/no-super-linear-move': 'error',
    },
  },
  {
    files: ['core/src/**'],
    rules: {
      ...forbid(
        [
          'node:*',
          'react*',
          'express*',
          'knex*',
          '@lucky-needle/*',
          '**/server/**',
          '**/web/**',
          '**/demo/**',
          'chart.js',
        ],
        'core knows no screen, no disk, no network and no other workspace.',
      ),
      'no-restricted-globals': [
        'error',
        ...[
          'window',
          'document',
          'fetch',
          'process',
          'Buffer',
          'setTimeout',
          'setInterval',
          'performance',
          'Date',
          'localStorage',
          'console',
        ].map((name) => ({
          name,
          message: 'core knows no screen, no clock, no disk and no network: take it as an argument.',
        })),
      ],
      'no-restricted-properties': [
        'error',
        {
          object: 'Math',
          property: 'random',
          message: 'Take a seeded Random, so that results can be made again.',
        },
      ],
    },
  },
  {
    files: ['demo/src/**'],
    rules: forbid(
      ['node:*', 'react*', 'express*', 'knex*', '**/server/**', '**/web/**'],
      'demo knows only core.',
    ),
  },
  {
    files: ['server/src/**'],
    rules: forbid(['react*', '**/web/**', '@lucky-needle/web*'], 'server and web meet only at the API.'),
  },
  {
    files: ['web/src/**'],
    plugins: { 'react-hooks': hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      // The stricter rules of the compiler do not fit live data outside the store.
      'react-hooks/set-state-in-effect': 'off',
      'react-hooks/preserve-manual-memoization': 'off',
      'react-hooks/refs': 'off',
      ...forbid(
        ['node:*', '**/server/**', '@lucky-needle/server*', '@lucky-needle/demo*'],
        'web and server meet only at the API.',
      ),
    },
  },
  {
    files: ['**/*.cjs'],
    languageOptions: { globals: { module: 'writable', __dirname: 'readonly' } },
  },
  {
    files: ['tools/**', '**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        URL: 'readonly',
        clearTimeout: 'readonly',
      },
    },
  },
);
