/**
 * `npm run mutate FOLDER`: puts small wrongs into the code of a folder (or of one file), one at a time, and tells which of them the folder's tests do not
 * notice. A second folder, or one test file, is where the tests lie that are to notice. By hand: it takes minutes. A report for the browser lies in `reports/`.
 */
import { dirname } from 'node:path'
import { ensurePackages, run } from './setup.mjs'

const [code, tests] = process.argv.slice(2).map(a => a.replace(/\/+$/, ''))
if (!code) {
  console.error('Which folder? For example: npm run mutate core/bowing')
  process.exit(2)
}
ensurePackages()
const one = code.endsWith('.ts')
const folder = one ? dirname(code) : code
const left = ['*.test.ts', 'testing.ts', 'goldens/**'].map(f => `!${folder}/**/${f}`)
process.env.NOKTA_MUTATE = tests ?? folder
run('npx', ['stryker', 'run', 'stryker.config.json', '--mutate', one ? code : [`${folder}/**/*.ts`, ...left].join(',')]) // prettier-ignore
