import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'
import vuetify, { transformAssetUrls } from 'vite-plugin-vuetify'

/** A thread cannot import from the server's bundle: its program is one text of its own. */
async function bundleCalendarThread(): Promise<string> {
  const { outputFiles: [bundle] } = await build({
    entryPoints: [fileURLToPath(new URL('./server/ports/calendar-reader/thread.ts', import.meta.url))],
    bundle: true, write: false, minify: true, platform: 'node', format: 'cjs', target: 'node20',
  })
  // As it stands, the server's bundler would replace what it knows within the text.
  return `export default Buffer.from('${Buffer.from(bundle?.contents ?? []).toString('base64')}', 'base64').toString('utf8')`
}

export default defineNuxtConfig({
  modules: ['@pinia/nuxt', 'nuxt-security', '@nuxt/eslint'],
  // A process of its own bounds connections; the development server keeps the framework's.
  $production: { nitro: { entry: fileURLToPath(new URL('./server/entry.ts', import.meta.url)) } },
  components: [],
  imports: { scan: false },
  devtools: { enabled: false },
  app: {
    head: {
      htmlAttrs: { lang: 'en' },
      title: 'Temporia',
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  css: ['~/theme/tokens.css', '~/theme/base.css'],
  buildDir: process.env.TEMPORIA_WORK_FOLDER ?? '.nuxt',
  build: { transpile: ['vuetify'] },
  routeRules: {
    '/desk/**': { ssr: false, headers: { 'cache-control': 'no-store' } },
    '/bookings/**': { headers: { 'cache-control': 'no-store' } },
    '/_nuxt/**': { headers: { 'cache-control': 'public, max-age=31536000, immutable' } },
  },
  // Nuxt would inline all styles, 60 kB in every document; server/plugins/style.ts does it for the light pages.
  features: { inlineStyles: false },
  experimental: {
    payloadExtraction: false,
    // Fetching what every link in sight leads to would hold up the page that is being made.
    defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } },
  },
  compatibilityDate: '2026-11-01',
  nitro: {
    compressPublicAssets: { gzip: true, brotli: true },
    esbuild: { options: { target: 'node20' } },
    externals: { external: ['@node-rs/argon2'] },
    virtual: { '#calendar-thread': bundleCalendarThread },
  },
  vite: {
    vue: { template: { transformAssetUrls } },
    build: { cssMinify: 'lightningcss' },
    worker: { format: 'es' },
  },
  typescript: { strict: true },
  telemetry: false,
  hooks: {
    'vite:extendConfig': (config) => {
      config.plugins?.push(vuetify({ autoImport: true }))
    },
    // Vuetify belongs to the desk and to the booking form: light pages do not fetch it in advance.
    'build:manifest': (manifest) => {
      for (const entry of Object.values(manifest)) {
        entry.prefetch = false
        if (entry.isDynamicEntry) entry.preload = false
      }
    },
  },
  eslint: { config: { stylistic: { quotes: 'single', semi: false, arrowParens: false } } },
  security: {
    nonce: true,
    rateLimiter: false,
    xssValidator: false,
    requestSizeLimiter: false,
    allowedMethodsRestricter: false,
    corsHandler: false,
    hidePoweredBy: true,
    headers: {
      // It would block the web worker of the bench.
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: false,
      xFrameOptions: 'DENY',
      contentSecurityPolicy: {
        'default-src': ['\'self\''],
        'base-uri': ['\'none\''],
        'connect-src': ['\'self\''],
        'font-src': ['\'self\''],
        'form-action': ['\'self\''],
        'frame-ancestors': ['\'none\''],
        'img-src': ['\'self\'', 'data:'],
        'object-src': ['\'none\''],
        'script-src': ['\'self\'', '\'strict-dynamic\'', '\'nonce-{{nonce}}\''],
        'script-src-attr': ['\'none\''],
        // Vuetify writes its theme into a style element when it starts.
        'style-src': ['\'self\'', '\'unsafe-inline\''],
        'worker-src': ['\'self\''],
        'upgrade-insecure-requests': false,
      },
    },
  },
})
