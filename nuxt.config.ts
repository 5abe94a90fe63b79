export default defineNuxtConfig({
  modules: ['@pinia/nuxt', 'vuetify-nuxt-module', 'nuxt-auth-utils', 'nuxt-security', '@nuxt/eslint'],
  ssr: false,
  components: [{ path: '~/components', pathPrefix: false }],
  imports: { presets: [{ from: '@vueuse/core', imports: ['useTimestamp', 'useEventListener', 'useLocalStorage', 'useIntervalFn', 'useMediaQuery', 'usePreferredDark', 'useResizeObserver'] }] },
  devtools: { enabled: false },
  app: { head: {
    title: 'Ridgeway', htmlAttrs: { lang: 'en' },
    meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }, { name: 'description', content: 'Plan courses, choose sections and register.' }],
    link: [{ rel: 'icon', type: 'image/svg+xml', href: '/favicon.svg' }],
  } },
  css: ['@fontsource-variable/atkinson-hyperlegible-next/index.css', '~/theme/base.css', '~/theme/commitment.css'],
  runtimeConfig: { session: { maxAge: 60 * 60 * 8, password: '', cookie: { sameSite: 'lax', httpOnly: true, secure: false } } },
  compatibilityDate: '2026-01-01',
  nitro: { typescript: { tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } } },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
  telemetry: false,
  eslint: { config: { stylistic: true } },
  security: {
    rateLimiter: false, xssValidator: false, requestSizeLimiter: { maxRequestSizeInBytes: 200_000, maxUploadFileRequestInBytes: 200_000, throwError: true },
    headers: {
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: false,
      contentSecurityPolicy: {
        'default-src': ['\'self\''], 'script-src': ['\'self\'', '\'nonce-{{nonce}}\''], 'style-src': ['\'self\'', '\'unsafe-inline\''],
        'img-src': ['\'self\'', 'data:'], 'font-src': ['\'self\''], 'connect-src': ['\'self\''], 'object-src': ['\'none\''], 'base-uri': ['\'none\''],
        'form-action': ['\'self\''], 'frame-ancestors': ['\'none\''], 'upgrade-insecure-requests': false,
      },
    },
  },
  vuetify: { vuetifyOptions: './app/theme/vuetify.ts', moduleOptions: { styles: true } },
})
