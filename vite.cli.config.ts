/**
 * The shell's program as plain JavaScript, `dist/cli/nokta.js` with the thread that reads beside it and what few
 * calls need in files of its own. Packages are in it, but those that look for files of theirs.
 */
import { basename, dirname, join } from 'node:path'
import { defineConfig, type Plugin } from 'vite'

/** A thread written in TypeScript is built too, as a file beside the program. */
const threads = (): Plugin => ({
  name: 'nokta-threads',
  transform(code, id) {
    if (id.includes('node_modules')) return null
    return code.replaceAll(/new URL\(['"](\.[^'"]+)\.ts['"], import\.meta\.url\)/g, (_, path: string) => {
      const fileName = `${basename(path)}.js`
      this.emitFile({ type: 'chunk', id: join(dirname(id), `${path}.ts`), fileName })
      return `new URL('./${fileName}', import.meta.url)`
    })
  },
})

export default defineConfig({
  plugins: [threads()],
  publicDir: false,
  ssr: { noExternal: true, external: ['jsdom', 'opentype.js', 'jspdf'] },
  build: {
    ssr: 'cli/nokta.ts',
    outDir: 'dist/cli',
    emptyOutDir: true,
    target: 'node20',
    rolldownOptions: { output: { entryFileNames: 'nokta.js', chunkFileNames: '[name].js' } },
  },
})
