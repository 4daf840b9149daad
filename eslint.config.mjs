import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

const DOM = ['window', 'document', 'localStorage', 'sessionStorage', 'navigator', 'fetch', 'process', 'Buffer'];

export default tseslint.config(
  { ignores: ['**/node_modules', '**/test-results', '**/dist', '**/.data', 'server/store/migrations', '**/*.cjs'] },
  ...tseslint.configs.recommended,
  {
    plugins: { regexp },
    rules: {
      // A stranger's value is read in linear time: no pattern may need more, however short the values are kept.
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'error',
      'prefer-const': 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', ...DOM],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'core has no clock of its own.' },
      ],
    },
  },
  { files: ['scripts/**', 'bench/**', 'standins/**', 'server/main.ts', '**/*.mjs'], rules: { 'no-console': 'off' } },
);
