import withNuxt from './.nuxt/eslint.config.mjs'

/** Circles, layers and unused exports are checked by dependency-cruiser and knip; here stands what a single file may do. */
const forbid = (files, patterns) => ({ files, rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns }] } })
const CORE = 'packages/core/src/**/*.ts'
const OUTSIDE = [
  'vue',
  'vue-*',
  'nuxt*',
  '#*',
  '~*',
  'pinia',
  'vuetify*',
  'drizzle-orm*',
  'mysql2*',
  'h3',
  'node:*',
  '**/server/**',
  '**/app/**',
  '@ridgeway/words',
  '@ridgeway/formats',
]
const CLOCKLESS = [
  { selector: 'MemberExpression[object.name="Date"][property.name="now"]', message: 'The core has no clock.' },
  { selector: 'NewExpression[callee.name="Date"][arguments.length=0]', message: 'The core has no clock.' },
  { selector: 'MemberExpression[object.name="Math"][property.name="random"]', message: 'The core has no randomness without a seed.' },
]

export default withNuxt(
  { ignores: ['.ridgeway/**', 'server/db/migrations/**', 'docs/**'] },
  forbid([CORE], [{ group: OUTSIDE, message: 'The core is pure: data comes in as arguments, and words are said elsewhere.' }]),
  { files: [CORE], ignores: ['**/*.test.ts'], rules: { 'no-restricted-syntax': ['error', ...CLOCKLESS] } },
  // Each file has one list: of two that match, the later would win.
  forbid(['server/api/**/*.ts'], [{ group: ['drizzle-orm*', 'mysql2*', '**/db/database', '**/db/schema*'],
    message: 'Routes name the contract and one handler.' }]),
  forbid(['server/acts/**/*.ts', 'server/views/**/*.ts', 'server/college/**/*.ts'], [
    { group: ['h3', '**/api/**', '**/utils/**', '#imports'], message: 'Acts and views know nothing of HTTP.' },
    { group: ['drizzle-orm*', 'mysql2*', '**/db/schema*'], allowTypeImports: true, message: 'No query outside the store.' },
  ]),
  forbid(['server/utils/**/*.ts', 'server/plugins/**/*.ts'], [{ group: ['drizzle-orm*', 'mysql2*', '**/db/schema*'],
    message: 'No query outside the store.' }]),
  forbid(['server/db/**/*.ts'], [{ group: ['h3', '../**/acts/**', '../**/views/**', '../**/college/**', '#imports'],
    message: 'The store knows nothing of what it is used for.' }]),
  {
    files: ['app/components/**/*.vue', 'app/pages/**/*.vue'],
    rules: {
      'no-restricted-globals': ['error', ...['$fetch', 'fetch'].map(name => ({ name, message: 'Components never fetch; stores do.' }))],
    },
  },
  { files: ['app/**/*.vue', 'app/**/*.ts'],
    rules: { 'no-restricted-syntax': ['error', ...['VariableDeclarator > Identifier.id', 'ArrayPattern > Identifier',
      'VariableDeclarator > ObjectPattern > Property > Identifier.value'].map(selector => ({
      selector: `${selector}[name=/^(ref|shallowRef|computed|watch|toRaw|nextTick|inject|provide)$/]`,
      message: 'Vue\'s name for something else: a file that has it is not given Vue\'s own where it is served from its sources.' }))] } },
  // A page composes; what it needs more lines for is a component or a composable.
  { files: ['app/pages/**/*.vue'], rules: { 'max-lines': ['error', 120] } },
  {
    files: ['app/**/*.vue'],
    ignores: ['app/components/shared/**'],
    rules: {
      'vue/no-restricted-html-elements': ['error', ...['button', 'input', 'select', 'textarea', 'table', 'details', 'dialog', 'progress']
        .map(element => ({ element, message: `Take a component of the kit, or Vuetify's, for <${element}>.` }))],
    },
  },
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/html-indent': 'off',
      'vue/html-self-closing': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      '@stylistic/max-statements-per-line': 'off',
      '@stylistic/member-delimiter-style': ['error', {
        multiline: { delimiter: 'none' },
        singleline: { delimiter: 'comma', requireLast: false },
      }],
      '@stylistic/max-len': ['error', { code: 140, tabWidth: 2 }],
    },
  },
  { files: ['**/*.vue'], rules: { '@stylistic/max-len': 'off', 'vue/max-len': ['error', { code: 140, template: 140, tabWidth: 2 }] } },
)
