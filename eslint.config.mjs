import tseslint from 'typescript-eslint';

const DOM = ['window', 'document', 'localStorage', 'sessionStorage', 'navigator', 'fetch', 'process', 'Buffer'];

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', '**/.data', 'server/store/migrations', '**/*.cjs'] },
  ...tseslint.configs.recommended,
  {
    rules: {
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
