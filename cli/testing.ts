import { readFile } from '#core/formats/readFile'
import { bytesOf, firstTune } from './files'
import { run as runShell } from './main'

export interface Told {
  readonly code: 0 | 1 | 2
  readonly out: string
  readonly err: string
}

/** One call of the shell in this process, with all it said. */
export async function run(argv: readonly string[]): Promise<Told> {
  const told = { out: '', err: '' }
  const code = await runShell(argv, {
    version: '0.0.0',
    open: path => {
      const { name, bytes } = bytesOf(path)
      return firstTune(path, readFile(name, bytes))
    },
    tell: ({ out, err }) => {
      told.out += typeof out === 'string' ? out : Buffer.from(out).toString('latin1')
      told.err += err
    },
  })
  return { ...told, code }
}
