import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/**
 * Forbids the named import patterns in a folder. Which folder may import which stands in `.dependency-cruiser.cjs`.
 * @param {string[]} files
 * @param {string[]} group
 * @param {string} message
 * @param {string[]} ignores
 * @returns {import('eslint').Linter.Config}
 */
const mayNotImport = (files, group, message, ignores) => ({
  files,
  ignores,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] }
});

/** The only packages the core may use: pure, without Node or a browser. */
const PURE_LIBRARIES = [
  'zod',
  'diff',
  'double-metaphone',
  'chardet',
  'bidi-js',
  'harfbuzzjs',
  'linebreak',
  'papaparse',
  'saxes'
];

export default ts.config(
  {
    ignores: [
      '.dependency-cruiser.cjs',
      'build/',
      '.svelte-kit/',
      'node_modules/',
      'data/',
      'test-results/',
      'static/',
      '.cache/'
    ]
  },
  js.configs.recommended,
  ...ts.configs.recommendedTypeChecked,
  ...svelte.configs.recommended,
  prettier,
  ...svelte.configs.prettier,
  {
    languageOptions: {
      globals: { ...globals.browser, ...globals.node },
      parserOptions: { projectService: true, extraFileExtensions: ['.svelte'] }
    },
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      'svelte/no-navigation-without-resolve': 'off',
      'svelte/prefer-svelte-reactivity': 'off'
    }
  },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } } },
  { files: ['**/*.js', '**/*.mjs'], extends: [ts.configs.disableTypeChecked] },
  {
    files: ['src/lib/core/**'],
    ignores: ['**/*.test.ts', 'src/lib/core/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['$lib/*', '!$lib/core/**', '$app/*', 'svelte*', 'node:*'],
              message: 'The core imports only the core.'
            },
            {
              regex: `^(?!\\.|\\$lib/core|(${PURE_LIBRARIES.join('|')})$)`,
              message: 'The core may import only pure libraries on the list.'
            }
          ]
        }
      ],
      'no-restricted-globals': [
        'error',
        ...[
          'window',
          'document',
          'navigator',
          'process',
          'Buffer',
          'fetch',
          'setTimeout',
          'setInterval',
          'performance',
          'crypto',
          'localStorage'
        ].map((name) => ({ name, message: 'The core knows no browser, Node, clock or network.' }))
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: "MemberExpression[object.name='Date'][property.name='now']",
          message: 'The core is told the time.'
        },
        {
          selector: "MemberExpression[object.name='Math'][property.name='random']",
          message: 'The core is told the random.'
        }
      ]
    }
  },
  {
    // What comes back over the wire is what these tests are about: they say how it must look.
    files: ['tests/**', 'e2e/**', 'bench/**'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
      '@typescript-eslint/require-await': 'off'
    }
  },
  mayNotImport(
    ['src/lib/server/**', 'src/routes/**', 'src/processes/**'],
    ['node:child_process', 'node:worker_threads', 'child_process', 'worker_threads'],
    'Children and threads come from server/children, which hears their ends and their faults.',
    ['src/lib/server/children/**', 'src/processes/{pdf,sync,voices}.ts', '**/*.test.ts']
  ),
  {
    // An `error` that nobody hears ends the server: files are written by handles, whose faults reject.
    files: ['src/lib/server/**', 'src/routes/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.name='createWriteStream']:not(CallExpression[callee.name='pipeline'] *)",
          message: 'Write through a pipeline or a file handle: the error of a bare stream ends the server.'
        },
        {
          selector:
            "CallExpression[callee.name='createReadStream']:not(CallExpression[callee.property.name='toWeb'] *)",
          message: 'Read through Readable.toWeb or a file handle: the error of a bare stream ends the server.'
        }
      ]
    }
  }
);
