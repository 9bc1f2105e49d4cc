import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

export default defineConfig(
  globalIgnores(['**/dist/', '**/dist-types/', 'test-results/', 'playwright-report/', '.data/']),
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx,mts}'],
    extends: [tseslint.configs.strictTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['packages/core/src/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      // an allow-list: relative imports only; zod is let in by name in show/ below
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^(?!\\.{1,2}/)', message: 'core imports nothing but its own files.' }] },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'Date'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'no dice in core' }],
    },
  },
  { files: ['packages/core/src/show/**', 'packages/core/src/**/*.test.ts'], rules: { 'no-restricted-imports': 'off' } },
  {
    // facts of a finding are known by its code, which the compiler cannot see
    files: ['**/*words.ts', '**/some.ts'],
    rules: {
      '@typescript-eslint/restrict-template-expressions': [
        'error',
        { allowNumber: true, allowNullish: true, allowArray: true },
      ],
    },
  },
  {
    files: ['packages/{server,bench}/**', 'scripts/**', 'e2e/**', '*.{js,ts}', '**/*.mjs'],
    languageOptions: { globals: globals.node },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    extends: [reactHooks.configs.flat.recommended],
    languageOptions: { globals: globals.browser },
  },
  prettier,
);
