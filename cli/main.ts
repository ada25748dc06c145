/**
 * `nokta VERB FILE… [options]`: the core from a shell. One JSON document on stdout for each file; errors as
 * one line on stderr.
 */
import { readFileSync } from 'node:fs'
import { READABLE } from '#core/formats/fileKinds'
import { BadInput } from './badInput'
import { allHelp, asksHelp, parseCall, verbHelp, type Verb } from './verb'
import { bow } from './verbs/bow'
import { arrange } from './verbs/arrange'
import { levels } from './verbs/levels'
import { convert } from './verbs/convert'
import { finger } from './verbs/finger'
import { form } from './verbs/form'
import { retune, tapes } from './verbs/instrument'
import { show } from './verbs/show'
import { sheet } from './verbs/sheet'
import { tab } from './verbs/tab'
import { why } from './verbs/why'

const VERBS: readonly Verb[] = [
  show,
  form,
  finger,
  why,
  bow,
  levels,
  arrange,
  tab,
  sheet,
  convert,
  tapes,
  retune,
]

export interface CliResult {
  readonly code: 0 | 1 | 2
  readonly out: string
  readonly err: string
}

const line = (message: string) => `nokta: ${message.replace(/\s*\n\s*/g, ' ')}\n`
const bad = (message: string): CliResult => ({ code: 2, out: '', err: line(message) })
const good = (out: string): CliResult => ({ code: 0, out, err: '' })

const version = () =>
  (JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as { version: string })
    .version

/**
 * Runs one call; 2 is the caller's mistake, 1 is ours. With several files the worst of their codes counts,
 * and what could be read is printed.
 */
export function run(argv: readonly string[]): CliResult {
  const [name, ...args] = argv
  if (name === '--version') return good(`${version()}\n`)
  const verb = VERBS.find(v => v.name === name)
  if (!verb && asksHelp(argv)) return good(allHelp(VERBS, READABLE))
  const names = VERBS.map(v => v.name).join(', ')
  if (!verb)
    return bad(`${name ? `“${name}” is no verb` : 'which verb?'}; there are ${names}; --help tells more`)
  if (asksHelp(args)) return good(verbHelp(verb))
  const parsed = guarded(() => parseCall(verb, args))
  if ('code' in parsed) return parsed
  const { values, paths } = parsed.done
  if (verb.takes !== 'FILE…' || paths.length < 2) return printed(() => verb.run(values, paths), 1)
  const each = paths.map(path => printed(() => verb.run(values, [path]), 0))
  const code = each.some(r => r.code === 1) ? 1 : each.some(r => r.code === 2) ? 2 : 0
  return { code, out: each.map(r => r.out).join(''), err: each.map(r => r.err).join('') }
}

function printed(work: () => unknown, indent: 0 | 1): CliResult {
  const result = guarded(work)
  if ('code' in result) return result
  const { done } = result
  if (typeof done === 'string' && indent === 1) return good(done)
  return good(JSON.stringify(done, null, indent) + '\n')
}

function guarded<T>(work: () => T): { done: T } | CliResult {
  try {
    return { done: work() }
  } catch (e) {
    if (e instanceof BadInput) return bad(e.message)
    return { code: 1, out: '', err: line(`our mistake: ${e instanceof Error ? e.message : String(e)}`) }
  }
}

if (process.argv[1]?.endsWith('main.ts')) {
  const { code, out, err } = run(process.argv.slice(2))
  process.stdout.write(out)
  process.stderr.write(err)
  process.exitCode = code
}
