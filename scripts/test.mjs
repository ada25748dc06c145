/**
 * `npm test`: installs what is missing, then format, lint, types, and every test: core, web, server, command
 * line, and the browser. Ends with a line "N passed, N failed".
 */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureDebian, ensurePackages, root, run } from './setup.mjs'

ensurePackages()
ensureDebian()

let [passed, failed] = [0, 0]
/** A check that passes or fails as a whole. */
function check(name, args) {
  console.log(`\n== ${name}`)
  const ok = spawnSync('npx', args, { cwd: root, stdio: 'inherit' }).status === 0
  if (ok) passed++
  else failed++
}
check('formatting', ['prettier', '--check', '--log-level', 'warn', '.'])
check('lint: the direction of imports and more', ['eslint', '--max-warnings', '0', '.'])
check('types', ['vue-tsc', '--noEmit'])
// Each house with what it may know of its surroundings, and no more.
for (const house of ['core', 'contract', 'drawing', 'server'])
  check(`types of ${house} by itself`, ['tsc', '-p', house])

run('npx', ['vite', 'build', '--logLevel', 'warn'])
const folder = mkdtempSync(join(tmpdir(), 'nokta-tests-'))
const report = join(folder, 'report.json')
console.log('\n== tests')
const tests = spawnSync(
  'npx',
  ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
  { cwd: root, stdio: 'inherit' },
)
if (existsSync(report)) {
  const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(report, 'utf8'))
  // A file that could not even start has no failed test of its own.
  const broken = testResults.filter(
    f => f.status === 'failed' && f.assertionResults.every(a => a.status !== 'failed'),
  ).length
  passed += numPassedTests
  failed += numFailedTests + broken
}
if (tests.status !== 0 && failed === 0) failed++
if (passed < 100) failed++
rmSync(folder, { recursive: true, force: true })

console.log(`\n${passed} passed, ${failed} failed`)
process.exitCode = failed === 0 ? 0 : 1
