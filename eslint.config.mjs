import jsxA11y from 'eslint-plugin-jsx-a11y';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Who may import whom: a pattern list per folder, each with the sentence that says why. */
const forbid = (files, patterns, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }] },
});

const ours = ['@corvun/*'];
const except = (...names) => [...ours, ...names.map((name) => `!@corvun/${name}`)];
const OUTSIDE_OWN_FOLDER = ['**/apps/**', '**/packages/**'];

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/built/**',
      '**/node_modules/**',
      'data/**',
      'jest.config.js',
      'playwright-report/**',
      'test-results/**',
      'tmp/**',
      'apps/*/vite.config.ts',
    ],
  },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: {
        project: [
          './tsconfig.test.json',
          './apps/web/tsconfig.json',
          './apps/extension/tsconfig.json',
          './apps/meet/tsconfig.json',
        ],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': 'error',
      'max-lines': ['error', { max: 300, skipBlankLines: true }],
      eqeqeq: 'error',
    },
  },
  forbid(
    ['packages/core/src/**'],
    [...ours, ...OUTSIDE_OWN_FOLDER, 'node:*', 'fs', 'path', 'react*', '@nestjs/*', 'typeorm'],
    'core is the computation alone: nothing of ours, no Node, no framework.',
  ),
  {
    // The readers know no one's world: what only one organisation says would be learnt by heart, not read.
    files: ['packages/core/src/{message,capture,suggest,find,time}/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[regex.pattern=WORD]', 'Literal[value=WORD]', 'TemplateElement[value.raw=WORD]'].map((selector) => ({
          selector: selector.replace(
            'WORD',
            '/the trust|alder fen|boardwalk|hydrologist|wetland|sedge|sluice|choir|volunteer day|landowner|maren|field hut|(^|[^a-z]|\\\\b)(fen|weir)([^a-z]|$)/i',
          ),
          message: 'A word of the demo’s world does not belong into a reader.',
        })),
      ],
    },
  },
  forbid(['packages/contract/src/**'], [...except('core'), ...OUTSIDE_OWN_FOLDER], 'contract may import core at most.'),
  forbid(
    ['packages/description/src/**'],
    [...except('contract'), ...OUTSIDE_OWN_FOLDER],
    'description reads the contract alone.',
  ),
  forbid(
    ['packages/formats/src/**'],
    [...except('core'), ...OUTSIDE_OWN_FOLDER, '@nestjs/*', 'typeorm'],
    'formats may import core at most, and knows no database.',
  ),
  forbid(
    ['packages/keeping/src/**'],
    [...ours, ...OUTSIDE_OWN_FOLDER, '@nestjs/*', 'typeorm'],
    'keeping knows the data folder and nothing else of ours.',
  ),
  forbid(
    ['apps/*/src/**'],
    [
      '@corvun/server',
      '@corvun/web',
      '@corvun/cli',
      '@corvun/outside',
      '@corvun/extension',
      '@corvun/meet',
      ...OUTSIDE_OWN_FOLDER,
    ],
    'applications import packages, never each other.',
  ),
  forbid(
    ['apps/web/src/**', 'apps/extension/src/**', 'apps/meet/src/**'],
    [...except('core', 'contract'), 'node:*', ...OUTSIDE_OWN_FOLDER],
    'what runs in the browser imports core and contract only.',
  ),
  {
    files: ['apps/web/src/**/*.tsx', 'apps/extension/src/**/*.tsx', 'apps/meet/src/**/*.tsx'],
    plugins: { 'react-hooks': reactHooks, 'jsx-a11y': jsxA11y },
    rules: {
      ...reactHooks.configs.recommended.rules,
      ...jsxA11y.flatConfigs.recommended.rules,
      'jsx-a11y/no-autofocus': 'off',
      'jsx-a11y/no-noninteractive-element-interactions': 'off',
      'jsx-a11y/no-noninteractive-tabindex': 'off',
      'react-hooks/incompatible-library': 'off',
    },
  },
  // Nest reads constructor types at run time, so a type-only import would take them away.
  { files: ['apps/server/src/**'], rules: { '@typescript-eslint/consistent-type-imports': 'off' } },
  { files: ['**/*.spec.ts', 'e2e/**', 'apps/server/test/**'], rules: { '@typescript-eslint/unbound-method': 'off' } },
  { files: ['**/*.{mjs,cjs}'], ...tseslint.configs.disableTypeChecked },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
