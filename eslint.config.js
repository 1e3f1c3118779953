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

// What is counted in minor units. Outside core it is shown, compared and handed on; sums and products of it are core's alone, so that a
// figure is the same wherever it stands.
const amounts =
  '/^(amount|amounts|minor|payable|paid|total|net|gross|tax|basis|allowance|rounding|price|cost|costAmount|worth|balance|fees|toBill|invoiced)$/';
const operators = '/^([-+*%]|\\u002f|\\*\\*)$/';
const noArithmetic = [
  ...['left', 'right'].flatMap((side) =>
    [`MemberExpression[property.name=${amounts}]`, `Identifier[name=${amounts}][name!='total']`].map((operand) => ({
      selector: `BinaryExpression[operator=${operators}] > ${operand}.${side}`,
      message: 'Screens and files compute no money: core does. Take the figure from there.',
    })),
  ),
  {
    selector: `AssignmentExpression[operator=/^[-+*]=$/] > :matches(MemberExpression[property.name=${amounts}], Identifier[name=${amounts}])`,
    message: 'Screens and files compute no money: core does. Take the figure from there.',
  },
  {
    selector: `CallExpression[callee.object.name='Math'][callee.property.name=/^(round|floor|ceil|trunc)$/] :matches(MemberExpression[property.name=${amounts}], Identifier[name=${amounts}])`,
    message: 'Money is rounded by core, by its rules.',
  },
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
    // What only types tell: a promise that nobody waits for, one where none is expected, a case that was forgotten.
    files: ['{core,formats,documents,web,server,relay,agent,extension,cli,demo,bench,e2e,trials}/**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { project: 'tsconfig.json', tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
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
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': ['error', { additionalHooks: '(useRead)' }],
    },
  },
  {
    // How the browser's databases are read and written stands in one folder.
    files: ['web/src/{app,parts,screens}/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          paths: ['dexie', 'dexie-react-hooks'].map((name) => ({
            name,
            message: 'Read and write by way of web/src/data.',
          })),
          patterns: [
            { group: ['**/data/trail-database'], message: 'Read and write by way of web/src/data.' },
            {
              group: ['**/data/trail'],
              importNames: ['trail'],
              message: 'Give web/src/data/trail.ts a function for it.',
            },
            {
              group: ['**/data/registry'],
              importNames: ['registry'],
              message: 'Give web/src/data/registry.ts a function for it.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['{web,documents,formats,cli,server,demo}/src/**/*.{ts,tsx}'],
    rules: { 'no-restricted-syntax': ['error', ...noFloat, ...noArithmetic] },
  },
  {
    // What stands of an entry on a draft follows it, and what is invoiced stays: that is seen to in one place.
    files: ['core/src/commands/**/*.ts'],
    ignores: ['core/src/commands/entry-writes.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...noFloat,
        {
          selector: "CallExpression[callee.property.name='put'][arguments.0.value='entries']",
          message: 'Entries are written by way of entry-writes.ts.',
        },
      ],
    },
  },
  {
    files: ['bench/**', '**/*.test.{ts,tsx}', '**/*.spec.ts'],
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
