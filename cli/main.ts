/** `nokta VERB FILE [options]`: the core from a shell. One JSON document on stdout; errors as one line on stderr. */
import { BadInput } from './input'
import { bow } from './verbs/bow'
import { convert } from './verbs/convert'
import { finger } from './verbs/finger'
import { form } from './verbs/form'
import { retune, tapes } from './verbs/instrument'
import { show } from './verbs/show'
import { tab } from './verbs/tab'

const VERBS: Readonly<Record<string, (args: string[]) => unknown>> = {
  show,
  form,
  finger,
  bow,
  tab,
  convert,
  tapes,
  retune,
}

export interface CliResult {
  readonly code: 0 | 1 | 2
  readonly out: string
  readonly err: string
}

/** Runs one call; 2 is the caller's mistake, 1 is ours. */
export function run(argv: readonly string[]): CliResult {
  const [name, ...args] = argv
  const verb = name === undefined ? undefined : VERBS[name]
  const bad = (message: string): CliResult => ({
    code: 2,
    out: '',
    err: `nokta: ${message.replace(/\s*\n\s*/g, ' ')}\n`,
  })
  if (!verb)
    return bad(`${name ? `“${name}” is no verb` : 'which verb?'}; there are ${Object.keys(VERBS).join(', ')}`)
  try {
    const result = verb(args)
    return {
      code: 0,
      out: typeof result === 'string' ? result : JSON.stringify(result, null, 1) + '\n',
      err: '',
    }
  } catch (e) {
    if (e instanceof BadInput) return bad(e.message)
    return { code: 1, out: '', err: `nokta: our mistake: ${e instanceof Error ? e.message : String(e)}\n` }
  }
}

if (process.argv[1]?.endsWith('main.ts')) {
  const { code, out, err } = run(process.argv.slice(2))
  process.stdout.write(out)
  process.stderr.write(err)
  process.exitCode = code
}
