import tseslint from 'typescript-eslint'
import vue from 'eslint-plugin-vue'

/** Houses a folder may not import: the one direction of imports (docs/architecture.md). */
const forbid = (...groups) => ({
  'no-restricted-imports': ['error', { patterns: groups.map(([group, message]) => ({ group, message })) }],
})
const house = name => [`#${name}/*`, `**/${name}/**`, `../${name}/*`, `../../${name}/*`]
const node = ['node:*', 'fs', 'path', 'os', 'crypto', 'child_process', 'http']
const screen = [
  'vue',
  'vue-router',
  'pinia',
  'vuetify',
  'vuetify/*',
  '@vueuse/*',
  'vexflow',
  'jspdf',
  'svg2pdf.js',
]
const storage = ['express', 'drizzle-orm', 'drizzle-orm/*', '@electric-sql/*']

export default tseslint.config(
  { ignores: ['node_modules', 'dist', 'data', 'reports', 'server/migrations'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: tseslint.parser } } },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'vue/multi-word-component-names': 'off',
      'max-lines': ['warn', { max: 350, skipBlankLines: true, skipComments: true }],
      'max-len': [
        'error',
        {
          code: 120,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignoreUrls: true,
        },
      ],
      'max-lines-per-function': ['warn', { max: 100, skipBlankLines: true, skipComments: true }],
      // The formatter is switched off for tables of numbers alone.
      'no-warning-comments': ['error', { terms: ['prettier-ignore'], location: 'anywhere' }],
    },
  },
  // Lists of examples, one after another.
  {
    files: ['**/*.test.ts'],
    rules: {
      'max-lines': ['warn', { max: 480, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': 'off',
    },
  },
  // A store, like what it is composed of, is one function by its nature: its file's limit is its own.
  { files: ['web/src/stores/*.ts', 'web/src/**/use*.ts'], rules: { 'max-lines-per-function': 'off' } },
  { files: ['**/goldens/*.ts'], rules: { 'no-warning-comments': 'off', 'max-len': 'off' } },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: {
      ...forbid(
        [
          house('server').concat(house('web'), house('cli'), house('drawing'), house('contract'), [
            '#demo/*',
          ]),
          'core imports nothing of the other houses',
        ],
        [node, 'core runs in the browser too: no Node API'],
        [screen.concat(storage), 'core has no interface and no storage'],
      ),
      'no-restricted-globals': [
        'error',
        'document',
        'window',
        'process',
        'Buffer',
        'setTimeout',
        'performance',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'randomness is passed in' },
        { object: 'Date', property: 'now', message: 'the clock is passed in' },
      ],
    },
  },
  {
    files: ['contract/**/*.ts'],
    rules: forbid([house('server').concat(house('web'), house('cli')), 'the contract knows only core']),
  },
  {
    files: ['drawing/**/*.ts'],
    rules: forbid(
      [house('server').concat(house('web'), house('cli'), house('contract')), 'drawing knows only core'],
      [node, 'drawing runs in the browser too: no Node API'],
      [
        screen.filter(s => !['vexflow', 'jspdf', 'svg2pdf.js'].includes(s)).concat(storage),
        'drawing has no interface and no storage',
      ],
    ),
  },
  {
    files: ['web/**/*.{ts,vue}'],
    ignores: ['web/**/*.test.ts'],
    rules: forbid(
      [house('server').concat(house('cli')), 'web and server share only core and the contract'],
      [node, 'no Node API in the browser'],
    ),
  },
  {
    files: ['server/**/*.ts', 'cli/**/*.ts'],
    rules: forbid([house('web'), 'nothing imports web'], [screen, 'no interface code here']),
  },
)
