/**
 * `npm run mutate FOLDER`: puts small wrongs into the code of a folder (or of one file), one at a time, and
 * tells which of them the folder's tests do not notice. A second folder, or one test file, is where the tests
 * lie that are to notice. By hand: it takes minutes. A report for the browser lies in `reports/`.
 *
 * `--some N` puts them into about N lines only, in blocks drawn by lot from the whole folder: a figure in
 * minutes where all of it takes hours. `--seed N` draws other ones. `--skip-static` leaves out what runs as
 * files are loaded, before any test: where the tests are slow, each of those costs all of them.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { parseArgs } from 'node:util'
import { ensurePackages, run } from './setup.mjs'

/** Lines of a block: enough for a whole statement or short function. */
const BLOCK = 12

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    some: { type: 'string' },
    seed: { type: 'string', default: '1' },
    'skip-static': { type: 'boolean' },
  },
})
const [code, tests] = positionals.map(a => a.replace(/\/+$/, ''))
if (!code) {
  console.error('Which folder? For example: npm run mutate core/bowing')
  process.exit(2)
}
if (values.some !== undefined && !(Number(values.some) > 0 && Number(values.seed) > 0)) {
  console.error('--some and --seed are numbers above 0: npm run mutate core/bowing -- --some 150')
  process.exit(2)
}
ensurePackages()
const one = code.endsWith('.ts')
const folder = one ? dirname(code) : code
const left = ['*.test.ts', 'testing.ts', 'goldens/**', '*.d.ts'].map(f => `!${folder}/**/${f}`)

/** Blocks of lines until so many are drawn; every line of the folder is as likely. */
function drawn(lines, seed) {
  const files = one
    ? [code]
    : readdirSync(folder, { recursive: true })
        .filter(f => f.endsWith('.ts') && !/\.test\.ts$|testing\.ts$|goldens\/|\.d\.ts$/.test(f))
        .map(f => `${folder}/${f}`)
        .sort()
  const blocks = files.flatMap(f => {
    const count = readFileSync(f, 'utf8').split('\n').length
    return Array.from(
      { length: Math.ceil(count / BLOCK) },
      (_, i) => `${f}:${i * BLOCK + 1}-${Math.min(count, (i + 1) * BLOCK)}`,
    )
  })
  let state = seed
  const random = () => (state = (state * 48271) % 2147483647) / 2147483647
  const out = []
  while (blocks.length > 0 && out.length * BLOCK < lines)
    out.push(...blocks.splice(Math.floor(random() * blocks.length), 1))
  return out
}

process.env.NOKTA_MUTATE = tests ?? folder
const chosen = values.some
  ? drawn(Number(values.some), Number(values.seed))
  : one
    ? [code]
    : [`${folder}/**/*.ts`, ...left]
run('npx', [
  'stryker',
  'run',
  'stryker.config.json',
  '--mutate',
  chosen.join(','),
  ...(values['skip-static'] ? ['--ignoreStatic'] : []),
])
