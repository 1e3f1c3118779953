import js from '@eslint/js';
import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';
import prettier from 'eslint-config-prettier';

const noFloat = [
  {
    selector: "CallExpression[callee.name='parseFloat']",
    message: 'Money and lengths are exact: read them with core.',
  },
  { selector: "CallExpression[callee.property.name='toFixed']", message: 'Format exact integers with core.' },
];

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '**/test-results/**', 'e2e/fixtures/**'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      'no-restricted-syntax': ['error', ...noFloat],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'localStorage',
        'indexedDB',
        'crypto',
        'process',
        'Buffer',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'core has no clock: the time is handed in.' },
        { object: 'Math', property: 'random', message: 'core has no chance: random bytes are handed in.' },
      ],
    },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['bench/**', '**/*.test.ts', '**/*.spec.ts'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: ['scripts/**', '**/*.mjs', '**/*.cjs', '.dependency-cruiser.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        fetch: 'readonly',
        module: 'writable',
        Buffer: 'readonly',
      },
    },
  },
  {
    files: ['web/public/**'],
    languageOptions: { globals: { localStorage: 'readonly', matchMedia: 'readonly', document: 'readonly' } },
  },
  prettier,
);
