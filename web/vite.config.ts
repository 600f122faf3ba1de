import { fileURLToPath } from 'node:url'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [react(), tailwindcss()],
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
