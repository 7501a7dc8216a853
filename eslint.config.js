import { importX } from 'eslint-plugin-import-x';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  {
    ignores: [
      'build/',
      '.svelte-kit/',
      'node_modules/',
      'data/',
      'reports/',
      '.stryker-tmp/',
      'core/picture/kernels/assembly/',
      'core/picture/kernels/module.ts',
      'programs*/'
    ]
  },
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    // What needs to know types.
    files: ['{core,scenes,server,web,bench,tools}/**/*.ts'],
    ignores: ['**/*.svelte.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }]
    }
  },
  {
    files: ['{core,scenes,server,web,bench,tools}/**/*.ts'],
    plugins: { 'import-x': importX },
    settings: {
      'import-x/extensions': ['.ts'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
      'import-x/resolver-next': [createTypeScriptImportResolver()]
    },
    rules: { 'import-x/no-cycle': ['error', { ignoreExternal: true }] }
  },
  {
    rules: {
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error', 'warn'] }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      // Links inside the app are plain paths: it is always served from the root.
      'svelte/no-navigation-without-resolve': 'off'
    }
  }
);
