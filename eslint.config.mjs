import withNuxt from './.nuxt/eslint.config.mjs'

/** Layers are kept in order by rule: the core is pure, routes call services, components never fetch. */
const forbid = (files, patterns) => ({ files, rules: { 'no-restricted-imports': ['error', { patterns }] } })

export default withNuxt(
  { ignores: ['.ridgeway/**', 'server/db/migrations/**', 'docs/**'] },
  forbid(['packages/core/src/**/*.ts'], [{ group: ['vue', 'vue-*', 'nuxt*', '#*', '~*', 'pinia', 'vuetify*', 'drizzle-orm*', 'mysql2*', 'h3', 'node:*', '**/server/**', '**/app/**'], message: 'The core is pure: data comes in as arguments.' }]),
  { files: ['packages/core/src/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'no-restricted-syntax': ['error', { selector: 'MemberExpression[object.name="Date"][property.name="now"]', message: 'The core has no clock.' }, { selector: 'NewExpression[callee.name="Date"][arguments.length=0]', message: 'The core has no clock.' }, { selector: 'MemberExpression[object.name="Math"][property.name="random"]', message: 'The core has no randomness without a seed.' }] } },
  forbid(['server/api/**/*.ts'], [{ group: ['**/db/**', 'drizzle-orm*', 'mysql2*'], message: 'Routes parse and call one service.' }]),
  forbid(['server/services/**/*.ts', 'server/db/**/*.ts'], [{ group: ['h3', '**/api/**', '#imports'], message: 'Services know nothing of HTTP.' }]),
  { files: ['app/components/**/*.vue', 'app/pages/**/*.vue'], rules: { 'no-restricted-globals': ['error', { name: '$fetch', message: 'Components never fetch; stores do.' }, { name: 'fetch', message: 'Components never fetch; stores do.' }] } },
  {
    rules: {
      'vue/max-attributes-per-line': 'off', 'vue/singleline-html-element-content-newline': 'off', 'vue/first-attribute-linebreak': 'off', 'vue/html-closing-bracket-newline': 'off', 'vue/multi-word-component-names': 'off',
      '@stylistic/max-statements-per-line': 'off', '@stylistic/member-delimiter-style': ['error', { multiline: { delimiter: 'none' }, singleline: { delimiter: 'comma', requireLast: false } }],
    },
  },
)
