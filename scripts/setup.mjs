/**
 * What must be there before anything runs: packages, the built app, the browser for tests. Needs Node and npm
 * alone.
 */
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

/**
 * Runs a command that goes on until it is told to end: signals reach it, and its code becomes ours. Started by
 * npm (which passes signals on, with no shell between: "exec") it ends with npm, however that ended.
 */
export function stay(command, args, env = {}) {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal))
  const parent = process.ppid
  if (process.env.npm_lifecycle_event)
    setInterval(() => process.ppid === parent || child.kill('SIGTERM'), 500).unref()
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

/** What app and server are built from: folders, and files beside them. */
const SOURCES = [
  'web',
  'core',
  'contract',
  'drawing',
  'demo',
  'server',
  'vite.config.ts',
  'vite.server.config.ts',
  'tsconfig.json',
  'package-lock.json',
]
const BUILT = ['dist/web/index.html', 'dist/server/main.js']
const CLI_SOURCES = ['core', 'drawing', 'cli', 'vite.cli.config.ts', 'package.json', 'package-lock.json']
const CLI_BUILT = ['dist/cli/nokta.js']

/** When a file was changed last, or anything in a folder, a name taken away among it. */
const changed = path => {
  const own = statSync(path)
  if (!own.isDirectory()) return own.mtimeMs
  return readdirSync(path).reduce((t, name) => Math.max(t, changed(join(path, name))), own.mtimeMs)
}

/** Whether app and server in a project's folder were built after the last change of anything they are built from. */
export const isBuilt = folder => isNewer(folder, BUILT, SOURCES)

function isNewer(folder, builtNames, sourceNames) {
  const built = builtNames.map(name => join(folder, name))
  if (!built.every(existsSync)) return false
  const sources = sourceNames.map(name => join(folder, name)).filter(existsSync)
  return Math.min(...built.map(f => statSync(f).mtimeMs)) > Math.max(...sources.map(changed))
}

/** Builds the app and the server when a source is newer than the last build. */
export function ensureBuild() {
  if (isBuilt(root)) return
  console.log('Building the app…')
  run('npx', ['vite', 'build', '--logLevel', 'warn'])
  buildServer()
}

/** Builds the shell's program when a source is newer than its last build; it prints nothing on stdout. */
export function ensureCli() {
  if (!isNewer(root, CLI_BUILT, CLI_SOURCES)) buildCli()
}

/** Takes a second or two. */
export function buildCli() {
  const args = ['vite', 'build', '-c', 'vite.cli.config.ts', '--logLevel', 'error']
  const result = spawnSync('npx', args, { cwd: root, stdio: ['ignore', 2, 2] })
  if (result.status !== 0) throw new Error('The program could not be built.')
}

/** Takes a second or two. */
export const buildServer = () =>
  run('npx', ['vite', 'build', '-c', 'vite.server.config.ts', '--logLevel', 'warn'])

/**
 * Debian's Chromium, for browser tests and screenshots only, its readers of ABC, MIDI and MusicXML and its PostgreSQL
 * for the tests.
 */
export function ensureDebian() {
  const missing = [
    [CHROMIUM, 'chromium'],
    ['/usr/bin/midi2abc', 'abcmidi'],
    ['/usr/bin/musicxml2ly', 'lilypond'],
    ['/usr/lib/postgresql', 'postgresql'],
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
