import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'
import { parser } from './eslint.types.js'

/** The page's folders from the ground up; each may import what stands before it. */
const layers = ['api', 'ui', 'line', 'time', 'views', 'stages', 'frame']
const keepsOut = (folder, out) => ({
  files: [`src/${folder}/**`],
  rules: { 'no-restricted-imports': ['error', { patterns: out.map((x) => `@/${x}`) }] },
})
const stages = ['account', 'backlog', 'plan', 'programs', 'server', 'setup']

export default ts.config(
  { ignores: ['dist', 'src/**/*.gen.ts', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { globals: { ...globals.browser } },
    rules: { 'vue/multi-word-component-names': 'off' },
  },
  { files: ['src/**/*.ts'], languageOptions: { parser } },
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser } } },
  {
    // Rules that know the types: a promise that nobody waits for loses its error.
    files: ['src/**/*.ts', 'src/**/*.vue'],
    languageOptions: {
      parserOptions: {
        projectService: true,
        extraFileExtensions: ['.vue'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/restrict-plus-operands': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
  ...layers
    .slice(0, layers.indexOf('stages'))
    .map((folder, i) => keepsOut(folder, [...layers.slice(i + 1).map((x) => `${x}/*`), 'router'])),
  ...stages.map((stage) =>
    keepsOut(`stages/${stage}`, [
      'frame/*',
      'router',
      ...stages.filter((x) => x !== stage).map((x) => `stages/${x}/**`),
    ]),
  ),
  prettier,
)
