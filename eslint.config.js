import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import ts from 'typescript-eslint';
import vueParser from 'vue-eslint-parser';

/** The one-way arrows of docs/architecture.md: web → contract → core ← server; nothing imports web or server. */
const forbid = (files, ignores, patterns) => ({
  files,
  ignores,
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: patterns.map(([group, message]) => ({ group, message })) },
    ],
  },
});
const outward = [
  '@emporikon/server*',
  '@emporikon/web*',
  '@emporikon/demo*',
  '@emporikon/standins*',
  '@emporikon/cli*',
  '@emporikon/clipper*',
];
const others = (own) =>
  ['core', 'contract', 'server', 'web', 'standins', 'demo', 'cli', 'clipper'].filter((name) => name !== own);
const sideways = (own) => others(own).flatMap((name) => [`**/../${name}/**`, `../${name}/**`]);

export default ts.config(
  { ignores: ['**/dist/**', 'node_modules/**', '.emporikon/**', 'test-results/**', 'playwright-report/**'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser, sourceType: 'module' } },
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
      'no-undef': 'off',
      'no-console': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      eqeqeq: 'error',
    },
  },
  {
    files: ['web/**/*.vue'],
    ignores: ['web/kit/**'],
    rules: {
      'vue/no-restricted-html-elements': [
        'error',
        ...['input', 'select', 'textarea', 'table', 'dialog', 'button'].map((element) => ({
          element,
          message: 'Every control is Vuetify’s, by way of web/kit.',
        })),
      ],
    },
  },
  { files: ['setup/**', 'cli/**', 'bench/**', '**/*.mjs', 'e2e/**'], rules: { 'no-console': 'off' } },
  { files: ['**/*.test.ts', 'e2e/**'], rules: { '@typescript-eslint/no-non-null-assertion': 'off' } },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...['process', 'Buffer', 'window', 'document', 'fetch', 'setTimeout', 'setInterval', 'console'].map(
          (name) => ({
            name,
            message: 'core is pure: no I/O, no timers, no platform.',
          }),
        ),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core is pure: pass randomness in.' },
        { object: 'Date', property: 'now', message: 'core is pure: pass the time in.' },
        { object: 'DateTime', property: 'now', message: 'core is pure: pass the time in.' },
        { object: 'DateTime', property: 'local', message: 'core is pure: pass the time in.' },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector: 'NewExpression[callee.name="Date"][arguments.length=0]',
          message: 'core is pure: pass the time in.',
        },
      ],
    },
  },
  forbid(
    ['core/**/*.ts'],
    ['**/*.test.ts', 'core/reading/corpus/**'],
    [
      [
        ['node:*', 'fs', 'path', 'crypto', 'os', 'http', 'net', 'child_process'],
        'core is pure: no node modules.',
      ],
      [
        ['vue', 'vue-*', 'vuetify*', 'pinia', 'fastify*', '@fastify/*', 'sequelize', 'pg'],
        'core knows no framework.',
      ],
      [['@emporikon/*', ...sideways('core')], 'core imports nothing of ours but core.'],
    ],
  ),
  forbid(['contract/**/*.ts'], [], [[[...outward, ...sideways('contract')], 'contract imports only core.']]),
  forbid(
    ['server/**/*.ts'],
    ['**/*.test.ts', 'server/testing/**'],
    [
      [
        [...outward.filter((name) => !name.includes('server')), ...sideways('server')],
        'server imports only contract and core.',
      ],
    ],
  ),
  forbid(
    ['web/**/*.{ts,vue}'],
    [],
    [[[...outward, ...sideways('web')], 'web imports only contract and core.']],
  ),
  forbid(
    ['standins/**/*.ts'],
    [],
    [[['@emporikon/*', ...sideways('standins')], 'a stand-in knows nothing of the app.']],
  ),
  forbid(['cli/**/*.ts'], [], [[[...outward, ...sideways('cli')], 'cli stands on core and the API.']]),
  forbid(
    ['clipper/**/*.ts'],
    [],
    [[[...outward, ...sideways('clipper')], 'the clipper stands on core, the contract and the API.']],
  ),
  prettier,
);
