import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { defineConfig, type Plugin } from 'vite'
import vue from '@vitejs/plugin-vue'
import vuetify from 'vite-plugin-vuetify'

const OUT = 'dist/web'

/** Parts of the interface library that every page has. */
const EVERYWHERE =
  'VBtn|VBtnGroup|VIcon|VApp|VMain|VLayout|VDefaultsProvider|VProgressCircular|VProgressLinear|transitions'

/**
 * Few chunks: on a machine where browser and server share two cores a file costs more than its bytes. `app`
 * is what every page has: schemas (with what must run before them, web/src/worker/plainSchemas.ts), the frame, the
 * core's vocabulary. `ui` is the rest of the interface library, `bench` what every station has, the engraver
 * with it. The rest splits by itself.
 */
const output = {
  codeSplitting: {
    groups: [
      {
        name: 'app',
        priority: 2,
        test: new RegExp(
          [
            'node_modules/(zod|vue|@vue|pinia|vue-router|@vueuse|comlink|@mdi|@vuetify)/',
            `node_modules/vuetify/lib/(framework|composables/(?!calendar|date|virtual|nested)|util|directives/ripple|locale|iconsets|components/(${EVERYWHERE})/)`,
            'web/src/(router|api/|theme/|keyboard/|address/|worker/(early|client|contract|plainSchemas)|stores/(shelf|studio|attempt|reach|intake))',
            '/contract/',
            '/core/(music|instruments|words|findings|line|documents|melody)/',
            '/core/counts',
            '/core/(arrangement/(recipe|change|migrations|edits|context)|formats/fileKinds)',
            'vite/preload-helper|plugin-vue',
          ].join('|'),
        ),
      },
      // Dialogs, menus, lists and fields: asked for at the first use of one of them.
      { name: 'ui', priority: 1, test: /node_modules\/vuetify\/lib\/components/ },
      {
        name: 'bench',
        priority: 1,
        test: /node_modules\/vexflow|\/drawing\/(?!pages|sheet|svgFile|pdf)|web\/src\/(bench|stores|engraving)\/(?!.*(ArrangementChoice|KeysHelp|NoticeBar|NextLine|LevelNote|UndoNote|SoundMenu|stores\/(shelf|studio|attempt|reach|intake|bow|levels|levelAsked|booklets)))|core\/page\//,
      },
    ],
  },
}

/** The modules a bench begins with, the shelf, and each station. */
const START = 'src/start.ts'
const BENCH = ['src/bench/BenchView.vue']
const SHELF = ['src/shelf/ShelfView.vue']
const STATIONS: Readonly<Record<string, string>> = {
  tune: 'src/tune/TuneStation.vue',
  form: 'src/form/FormStation.vue',
  hand: 'src/hand/HandStation.vue',
  bow: 'src/bow/BowStation.vue',
  levels: 'src/levels/LevelsStation.vue',
  sheet: 'src/sheet/SheetStation.vue',
}

/**
 * Tells the server which files each place in the app needs: the chunks its modules lie in, all that these
 * import, and their styles.
 */
const needs = (): Plugin => ({
  name: 'nokta-needs',
  apply: 'build',
  generateBundle: {
    order: 'post',
    handler(_options, bundle) {
      const chunks = Object.values(bundle).filter(o => o.type === 'chunk')
      const byFile = new Map(chunks.map(c => [c.fileName, c]))
      const chunkOf = (module: string) => {
        const found = chunks.find(c => c.moduleIds.some(id => id.split('?')[0]!.endsWith(`/web/${module}`)))
        if (!found) throw new Error(`${module} is not in the build`)
        return found
      }
      const of = (modules: readonly string[]) => {
        const [scripts, styles] = [new Set<string>(), new Set<string>()]
        const visit = (file: string) => {
          const chunk = byFile.get(file)
          if (!chunk || scripts.has(file)) return
          scripts.add(file)
          chunk.viteMetadata?.importedCss.forEach(f => styles.add(f))
          chunk.imports.forEach(visit)
        }
        modules.forEach(m => visit(chunkOf(m).fileName))
        return { scripts: [...scripts], styles: [...styles] }
      }
      const fonts = Object.keys(bundle).filter(f => /(400Regular|400Regular_Italic|700Bold)-.*\.ttf$/.test(f))
      const stations = Object.fromEntries(Object.entries(STATIONS).map(([name, m]) => [name, of([m])]))
      const told = { start: chunkOf(START).fileName, shelf: of(SHELF), bench: of(BENCH), stations, fonts }
      this.emitFile({ type: 'asset', fileName: 'needs.json', source: JSON.stringify(told, null, 1) })
    },
  },
})

/** Every text of the build, packed beside it: nothing is packed while somebody waits. */
const packed = (): Plugin => ({
  name: 'nokta-packed',
  apply: 'build',
  closeBundle: {
    order: 'post',
    handler() {
      const folder = join(OUT, 'assets')
      for (const name of readdirSync(folder).filter(f => /\.(js|css|ttf)$/.test(f))) {
        const bytes = readFileSync(join(folder, name))
        const hint = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length }
        writeFileSync(join(folder, `${name}.br`), brotliCompressSync(bytes, { params: hint }))
        writeFileSync(join(folder, `${name}.gz`), gzipSync(bytes, { level: 9 }))
      }
    },
  },
})

export default defineConfig({
  root: 'web',
  plugins: [vue(), vuetify({ autoImport: true }), needs(), packed()],
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4747' } },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 720,
    rolldownOptions: { input: { index: 'web/index.html', start: 'web/src/start.ts' }, output },
  },
})
