import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [
    react(),
    tailwindcss(),
    // The pages are kept by the browser, all of them: what was never opened opens without the network, too.
    VitePWA({
      // A newer version is taken when nobody is in the middle of something.
      registerType: 'prompt',
      injectRegister: false,
      includeAssets: ['conch.svg', 'theme.js', 'icon-touch-180.png'],
      manifest: {
        name: 'Lazy Conch',
        short_name: 'Lazy Conch',
        description: 'Keeps a tropical bar’s drinks the same.',
        display: 'standalone',
        background_color: '#14263d',
        theme_color: '#14263d',
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
          { src: '/icon-full-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,woff2}'],
        // What the house answers is no page: it is kept elsewhere, for those who may read it.
        navigateFallbackDenylist: [/^\/api\//],
        maximumFileSizeToCacheInBytes: 3_000_000,
        cleanupOutdatedCaches: true,
        // The first visit, too, is kept for the moment in which the network goes.
        clientsClaim: true,
      },
    }),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    // The parser is told how to work in the chunk it comes in, so before any schema of another chunk is made.
    rolldownOptions: {
      output: { codeSplitting: { groups: [{ name: 'parsing', test: /node_modules\/zod\/|web\/parsing\.ts$/ }] } },
    },
  },
  worker: { format: 'es' },
  server: { proxy: { '/api': `http://localhost:${process.env.PORT ?? 4600}` } },
})
