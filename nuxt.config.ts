import { fileURLToPath } from 'node:url'
import { bundleWorkers } from './tools/build/bundle-workers'
import { contractNames } from './tools/build/contract-names'

const FONT = 'atkinson-hyperlegible-next'

/** Comments of other people's packages that stand where the bundler makes nothing of them are no concern of who starts Ridgeway. */
function quiet(level: string, log: { code?: string, id?: string }, tell: (level: never, log: never) => void) {
  if (log.code !== 'INVALID_ANNOTATION' || !log.id?.includes('/node_modules/')) tell(level as never, log as never)
}

export default defineNuxtConfig({
  modules: ['@pinia/nuxt', 'vuetify-nuxt-module', 'nuxt-auth-utils', 'nuxt-security', '@nuxt/eslint'],
  $development: {
    // Without a rendering server Nuxt looks for that server's first file among the browser's, where it is not, unless built this way.
    experimental: { viteEnvironmentApi: true },
    // What is found on the way makes the page load again, in the middle of what one does there.
    vite: { optimizeDeps: { include: ['@atlaskit/pragmatic-drag-and-drop-auto-scroll/element',
      '@atlaskit/pragmatic-drag-and-drop-live-region', '@atlaskit/pragmatic-drag-and-drop/combine',
      '@atlaskit/pragmatic-drag-and-drop/element/adapter', '@dagrejs/dagre', '@mdi/js', '@vueuse/core', 'echarts/charts',
      'echarts/components', 'echarts/core', 'echarts/renderers', 'fflate', 'ical.js', 'jsonc-parser', 'luxon', 'minisearch', 'papaparse',
      'vue-echarts', 'zod'] } },
  },
  // A server of our own around it: it stops as it is described in docs/operations.md.
  $production: { nitro: { entry: fileURLToPath(new URL('./server/entry/node.ts', import.meta.url)), compressPublicAssets: true } },
  ssr: false,
  components: [{ path: '~/components', pathPrefix: false }],
  imports: {
    dirs: ['composables/**'],
    presets: [{ from: '@vueuse/core',
      imports: ['useTimestamp', 'useEventListener', 'useLocalStorage', 'useSessionStorage', 'useIntervalFn', 'useMediaQuery',
        'useOnline', 'usePreferredDark', 'watchDebounced',
        'useClipboard', 'useResizeObserver', 'useMutationObserver', 'useElementSize', 'useWindowSize'] }],
  },
  devtools: { enabled: false },
  app: { head: {
    title: 'Ridgeway',
    htmlAttrs: { lang: 'en' },
    meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }, { name: 'description',
      content: 'Plan courses, choose sections and register.' }],
    link: [{ rel: 'icon', type: 'image/svg+xml', href: '/favicon.svg' },
      { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: '', href: `/fonts/${FONT}-latin-wght-normal.woff2` }],
  } },
  css: ['~/theme/base.css', '~/theme/commitment.css'],
  runtimeConfig: { session: { maxAge: 60 * 60 * 8, password: '', cookie: { sameSite: 'lax', httpOnly: true, secure: false } } },
  // Scripts and styles are compressed once, when they are built.
  routeRules: { '/favicon.svg': { headers: { 'cache-control': 'public, max-age=86400' } } },
  sourcemap: false,
  compatibilityDate: '2026-01-01',
  nitro: {
    // A thread of its own is a file of its own beside the server's.
    hooks: { compiled: nitro => bundleWorkers(nitro.options.output.serverDir) },
    publicAssets: [{ dir: `../node_modules/@fontsource-variable/${FONT}/files`, baseURL: '/fonts', maxAge: 365 * 86400 }],
    typescript: { tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } } },
  // Many small files are many waits: what is less than this goes into a file with what it is used with.
  vite: {
    // Vuetify's style sheets end their layers without a semicolon, which is right, and which the other minifier complains of.
    build: { cssMinify: 'lightningcss', rollupOptions: { onLog: quiet } },
    // The charts are a file of their own, fetched when one is shown; nothing else is as large.
    $client: { plugins: [contractNames()],
      build: { chunkSizeWarningLimit: 700, rollupOptions: { output: { experimentalMinChunkSize: 10_000 } } } },
  },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
  telemetry: false,
  hooks: {
    // What other pages need is fetched when their links come into sight and nothing else is to be done, not before the first view.
    'build:manifest': (manifest) => {
      for (const file of Object.values(manifest)) file.dynamicImports = []
    },
  },
  // The session is ours to ask for, once.
  auth: { loadStrategy: 'none' },
  eslint: { config: { stylistic: true } },
  security: {
    // What goes wrong in a browser is said there, and the tests in the browser fail on it.
    removeLoggers: false,
    rateLimiter: false,
    xssValidator: false,
    // Bodies are counted as they come in, against what the act takes: a header can say anything.
    requestSizeLimiter: false,
    headers: {
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        'default-src': ['\'self\''],
        'script-src': ['\'self\'', '\'nonce-{{nonce}}\''],
        'style-src': ['\'self\'', '\'unsafe-inline\''],
        'img-src': ['\'self\'', 'data:'],
        'font-src': ['\'self\''],
        'connect-src': ['\'self\''],
        'object-src': ['\'none\''],
        'base-uri': ['\'none\''],
        'form-action': ['\'self\''],
        'frame-ancestors': ['\'none\''],
        'upgrade-insecure-requests': false,
      },
    },
  },
  vuetify: { vuetifyOptions: './app/theme/vuetify.ts', moduleOptions: { styles: true } },
})
