/**
 * `nokta VERB FILE… [options]`: the core from a shell. One JSON document on stdout for each file; errors as
 * one line on stderr.
 */
import { READABLE } from '#core/formats/fileKinds'
import { BadInput } from './badInput'
import { completion, completionHelp, SHELLS } from './completion'
import { pathGiven, withFolders, type TuneFile } from './files'
import { Raw } from './output'
import { allHelp, asksHelp, parseCall, verbHelp, type Values, type Verb } from './verb'
import { VERBS } from './verbs'

export interface CliResult {
  readonly code: 0 | 1 | 2
  readonly out: string | Uint8Array
  readonly err: string
}

/** Where tunes come from, and where results go as they come. */
export interface Shell {
  /** Rejects with {@link BadInput}. */
  readonly open: (path: string) => Promise<TuneFile> | TuneFile
  readonly tell: (result: CliResult) => void
  readonly version: string
}

const line = (message: string) => `nokta: ${message.replace(/\s*\n\s*/g, ' ')}\n`
const bad = (message: string): CliResult => ({ code: 2, out: '', err: line(message) })
const good = (out: string | Uint8Array): CliResult => ({ code: 0, out, err: '' })

/**
 * Runs one call; 2 is the caller's mistake, 1 is ours. With several files the worst of their codes counts,
 * and what could be read is printed as it is done.
 */
export async function run(argv: readonly string[], shell: Shell): Promise<CliResult['code']> {
  const codes: CliResult['code'][] = []
  for await (const result of results(argv, shell)) {
    shell.tell(result)
    codes.push(result.code)
  }
  return codes.includes(1) ? 1 : codes.includes(2) ? 2 : 0
}

async function* results(argv: readonly string[], shell: Shell): AsyncGenerator<CliResult> {
  const call = callOf(argv, shell)
  if ('code' in call) return yield call
  const { verb, values, paths } = call
  if (verb.takes !== 'FILE…' || paths.length < 2) return yield await printed(verb, values, paths, 1, shell)
  let read = 0
  for (const path of paths) {
    const result = await printed(verb, values, [path], 0, shell)
    if (result.code === 0) read++
    yield result
  }
  if (call.folders) yield { ...good(''), err: line(`${read} of ${paths.length} files done`) }
}

interface Call {
  readonly verb: Verb
  readonly values: Values
  readonly paths: readonly string[]
  /** Whether a folder was given for its files. */
  readonly folders: boolean
}

/** What is to be done, or the answer where nothing is. */
function callOf(argv: readonly string[], { version }: Shell): Call | CliResult {
  const [name, ...args] = argv
  if (name === '--version') return good(`${version}\n`)
  if (name === 'completion') return completed(args)
  const verb = VERBS.find(v => v.name === name)
  if (!verb && asksHelp(argv)) return good(allHelp(VERBS, READABLE))
  const names = VERBS.map(v => v.name).join(', ')
  if (!verb)
    return bad(`${name ? `“${name}” is no verb` : 'which verb?'}; there are ${names}; --help tells more`)
  if (asksHelp(args)) return good(verbHelp(verb))
  try {
    const { values, paths: given } = parseCall(verb, args)
    const paths = verb.takes === 'FILE…' ? withFolders(given) : given
    return { verb, values, paths, folders: paths.length !== given.length }
  } catch (e) {
    return failed(e)
  }
}

function completed(args: readonly string[]): CliResult {
  if (asksHelp(args)) return good(completionHelp())
  const shell = SHELLS.find(s => s === args[0])
  return shell ? good(completion(shell, VERBS)) : bad(`completion: for which shell? ${SHELLS.join(' or ')}`)
}

async function printed(
  verb: Verb,
  values: Values,
  paths: readonly string[],
  indent: 0 | 1,
  shell: Shell,
): Promise<CliResult> {
  try {
    const tune = verb.takes !== '' && paths[0] ? await shell.open(paths[0]) : null
    const done = await verb.run(values, paths, path => tune ?? notGiven(path))
    if (done instanceof Raw && indent === 1)
      return { ...good(done.content), err: done.remarks.map(line).join('') }
    return good(JSON.stringify(done instanceof Raw ? done.content : done, null, indent) + '\n')
  } catch (e) {
    return failed(e)
  }
}

/** Nothing was opened, since no path was given. */
function notGiven(path: string | undefined): never {
  throw new Error(`${pathGiven(path)} was not opened`)
}

function failed(e: unknown): CliResult {
  if (e instanceof BadInput) return bad(e.message)
  return { code: 1, out: '', err: line(`our mistake: ${e instanceof Error ? e.message : String(e)}`) }
}
