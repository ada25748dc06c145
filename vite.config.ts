import { defineConfig } from 'vite'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'

export default defineConfig({
  root: 'web',
  plugins: [vue(), vuetify({ autoImport: true })],
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4747' } },
  build: { outDir: '../dist/web', emptyOutDir: true, chunkSizeWarningLimit: 700 },
})
