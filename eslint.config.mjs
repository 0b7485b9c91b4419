import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import * as regexp from 'eslint-plugin-regexp';
import importSort from 'eslint-plugin-simple-import-sort';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/*.config.ts', '**/dist/', '**/migrations/', '.nailset/', '.dependency-cruiser.cjs'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [ts.configs.recommendedTypeChecked, ts.configs.stylisticTypeChecked],
    languageOptions: {
      parserOptions: {
        project: ['packages/*/tsconfig.json', 'tsconfig.tests.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/prefer-regexp-exec': 'off',
      '@typescript-eslint/dot-notation': 'off',
      '@typescript-eslint/prefer-nullish-coalescing': ['error', { ignorePrimitives: { string: true, number: true } }],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // Where arrays of numbers are walked through by index. Elsewhere what is always there is fetched by `must`.
    files: [
      'packages/core/src/{rational,symbolic,diagram,system,frequency,response,locus,design,formula,sheet,loop,proof,batch}/**',
      'packages/core/src/kinds/states/check.ts',
      'packages/web/src/{plot,plane,frequency,diagram}/**',
      '**/{test,bench,e2e,build}/**',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
  {
    // Packages first, then the rooms above, then one's own.
    files: ['**/*.{ts,tsx,mjs}'],
    plugins: { imports: importSort },
    rules: { 'imports/imports': ['error', { groups: [['^node:', '^@?\\w', '^\\.\\.', '^\\.']] }] },
  },
  { files: ['packages/web/src/**/*.{ts,tsx}'], ...hooks.configs.flat['recommended-latest'] },
  {
    // Texts come from people: no pattern may take longer than in proportion to them.
    files: ['packages/*/src/**/*.{ts,tsx}'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': 'error',
      'regexp/no-super-linear-move': ['error', { report: 'certain' }],
    },
  },
  { files: ['packages/core/src/**/*.ts'], rules: { 'no-console': 'error' } },
  { files: ['**/*.mjs'], languageOptions: { globals: { ...globals.node, ...globals.browser } } },
);
