/**
 * The server as one file of plain JavaScript, `dist/server/main.js`: what `npm start` runs. Packages stay where they
 * are; migrations, the database's thread and the demo tunes are read from where they lie in the project.
 */
import { relative } from 'node:path'
import { defineConfig, type Plugin } from 'vite'

/** A module of the bundle finds its files as if it still lay in its own place, two folders below the project. */
const inItsPlace = (): Plugin => ({
  name: 'nokta-in-its-place',
  transform(code, id) {
    if (id.includes('node_modules') || !code.includes('import.meta.url')) return null
    const path = relative(import.meta.dirname, id)
    return code.replaceAll('import.meta.url', `new URL('../../${path}', import.meta.url).href`)
  },
})

export default defineConfig({
  plugins: [inItsPlace()],
  publicDir: false,
  build: {
    ssr: 'server/main.ts',
    outDir: 'dist/server',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: { output: { entryFileNames: 'main.js', codeSplitting: false } },
  },
})
