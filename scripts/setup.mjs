/** What must be there before anything runs: packages, the built app, the browser for tests. Needs Node and npm alone. */
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, readdirSync, statSync, readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url))
const CHROMIUM = '/usr/bin/chromium'

/** Runs a command in the project; ends the process with its code when it fails. */
export function run(command, args, env = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
  if (result.status !== 0) {
    console.error(`${command} ${args.join(' ')} failed.`)
    process.exit(result.status ?? 1)
  }
}

/** Runs a command that goes on until it is told to end: signals reach it, and its code becomes ours. */
export function stay(command, args, env = {}) {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal))
  child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)))
}

function fingerprint(files) {
  const hash = createHash('sha256')
  for (const f of files) hash.update(readFileSync(join(root, f)))
  return hash.digest('hex')
}

/** Installs the packages when the lock file is not the one they were installed from. */
export function ensurePackages() {
  const stamp = join(root, 'node_modules/.nokta-lock')
  const wanted = fingerprint(['package.json', 'package-lock.json'])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  console.log('Installing packages…')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])
  writeFileSync(stamp, wanted)
}

const newest = folder =>
  readdirSync(join(root, folder), { withFileTypes: true }).reduce((t, e) => {
    const path = join(folder, e.name)
    return Math.max(t, e.isDirectory() ? newest(path) : statSync(join(root, path)).mtimeMs)
  }, 0)

/** Builds the web app when a source is newer than the last build. */
export function ensureBuild() {
  const built = join(root, 'dist/web/index.html')
  const sources = Math.max(
    newest('web'),
    newest('core'),
    newest('contract'),
    statSync(join(root, 'package-lock.json')).mtimeMs,
  )
  if (existsSync(built) && statSync(built).mtimeMs > sources) return
  console.log('Building the app…')
  run('npx', ['vite', 'build', '--logLevel', 'warn'])
}

/** Debian's Chromium, for browser tests and screenshots only, and its readers of ABC and MIDI for the tests. */
export function ensureDebian() {
  const missing = [
    [CHROMIUM, 'chromium'],
    ['/usr/bin/midi2abc', 'abcmidi'],
  ].filter(([path]) => !existsSync(path))
  if (missing.length === 0) return
  console.log(`Installing ${missing.map(m => m[1]).join(' and ')}…`)
  const sudo = process.getuid?.() === 0 ? [] : ['sudo', '-n']
  const apt = (...args) =>
    run([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1), {
      DEBIAN_FRONTEND: 'noninteractive',
    })
  apt('update', '-qq')
  apt('install', '-y', '-qq', '--no-install-recommends', ...missing.map(m => m[1]))
}
