import { defineConfig } from 'vite'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'

/** Schemas and what must run before them in one chunk: see web/src/plainSchemas.ts. */
const output = {
  codeSplitting: { groups: [{ name: 'schemas', test: /node_modules\/zod\/|web\/src\/plainSchemas/ }] },
}

export default defineConfig({
  root: 'web',
  plugins: [vue(), vuetify({ autoImport: true })],
  worker: { format: 'es', rolldownOptions: { output } },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4747' } },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 700,
    manifest: true,
    rolldownOptions: { output },
  },
})
