import { defineNuxtConfig } from 'nuxt/config'
import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import pkg from './package.json' with { type: 'json' }

// one list of aliases: package.json "imports"
const alias = Object.fromEntries(
  Object.entries(pkg.imports).map(([from, to]) => [from.replace('/*', ''), fileURLToPath(new URL(to.replace('/*', ''), import.meta.url))]),
)

/** What most pages need. */
const ours =
  /\/app\/(components|composables|stores|words|kinds\/(registry|\w+\/index)|features\/(shell|ready|ticket\/(ledger-columns|use-call-off|CallOff)))|\/(contracts|core)\//
const theirs = /\/node_modules\/(@headlessui|@lucide|@tanstack|@vueuse)\//
const isShared = (id: string) => (id.includes('/node_modules/') ? theirs : ours).test(id)

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  // a bench tool, and no customer text in HTML
  ssr: false,
  // this version of the framework can't serve a page without server rendering in development otherwise
  $development: { experimental: { viteEnvironmentApi: true } },
  // another page is fetched when a hand moves towards it, not nine of them with the first
  experimental: { defaults: { nuxtLink: { prefetchOn: { interaction: true, visibility: false } } } },
  telemetry: false,
  // nobody reads them: what is logged are codes
  sourcemap: { server: false, client: false },
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', 'nuxt-security'],
  css: ['~/assets/main.css'],
  alias,
  nitro: {
    alias,
    preset: 'node-server',
    compressPublicAssets: { gzip: true, brotli: true },
    ignore: ['**/api/door/**', '**/api/answers/**'],
    typescript: { tsConfig: { compilerOptions: { allowImportingTsExtensions: true } } },
  },
  typescript: { strict: true, tsConfig: { compilerOptions: { allowImportingTsExtensions: true, noUncheckedIndexedAccess: true } } },
  vite: {
    plugins: [tailwindcss() as never],
    // all are module workers: what one rarely needs is fetched when it does
    worker: { format: 'es' },
    // a page is fetched in few requests: what most pages need comes in one file, not in thirty small ones
    build: {
      chunkSizeWarningLimit: 1500,
      rollupOptions: { output: { manualChunks: (id: string) => (isShared(id) ? 'shared' : undefined) } },
    },
  },
  app: { head: { title: 'Corvend', htmlAttrs: { lang: 'en-GB' }, link: [{ rel: 'icon', href: '/mark.svg', type: 'image/svg+xml' }] } },
  imports: { autoImport: true, scan: false },
  components: { dirs: [] },
  // the module's own type of this key is known only after `nuxi prepare`
  ...{
    security: {
      nonce: true,
      rateLimiter: false,
      xssValidator: false,
      requestSizeLimiter: false,
      corsHandler: false,
      headers: {
        crossOriginEmbedderPolicy: false,
        contentSecurityPolicy: {
          'default-src': ["'self'"],
          'script-src': ["'self'", "'nonce-{{nonce}}'", "'strict-dynamic'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:', 'blob:'],
          'connect-src': ["'self'"],
          'worker-src': ["'self'", 'blob:'],
          'font-src': ["'self'"],
          'frame-ancestors': ["'none'"],
          'upgrade-insecure-requests': false,
        },
      },
    },
  },
})
