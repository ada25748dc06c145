/**
 * The server as plain JavaScript, `dist/server/main.js` with a file for each of its threads: what `npm start` runs.
 * Packages stay where they are; migrations, the database's thread and the demo tunes are read from where they lie
 * in the project.
 */
import { basename, dirname, join, relative } from 'node:path'
import { defineConfig, type Plugin, type Rollup } from 'vite'

/** A module of the bundle finds its files as if it still lay in its own place, two folders below the project. */
const inItsPlace = (): Plugin => ({
  name: 'nokta-in-its-place',
  transform(code, id) {
    if (id.includes('node_modules') || !code.includes('import.meta.url')) return null
    const path = relative(import.meta.dirname, id)
    return withThreads(code, id, file => this.emitFile(file)).replaceAll(
      'import.meta.url',
      `new URL('../../${path}', import.meta.url).href`,
    )
  },
})

/** A thread written in TypeScript is built too, as a file beside the main one. */
function withThreads(code: string, id: string, emit: (file: Rollup.EmittedChunk) => unknown): string {
  return code.replaceAll(/new URL\(['"](\.[^'"]+)\.ts['"], import\.meta\.url\)/g, (_, path: string) => {
    const fileName = `${basename(path)}.js`
    emit({ type: 'chunk', id: join(dirname(id), `${path}.ts`), fileName })
    return `new URL('./${fileName}', import.meta['url'])`
  })
}

export default defineConfig({
  plugins: [inItsPlace()],
  publicDir: false,
  build: {
    ssr: 'server/main.ts',
    outDir: 'dist/server',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: {
      output: { entryFileNames: 'main.js', chunkFileNames: '[name].js', codeSplitting: false },
    },
  },
})
