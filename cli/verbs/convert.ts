import { writeFileSync } from 'node:fs'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { writeBackup } from '#core/formats/backup/backup'
import type { Finding } from '#core/findings/finding'
import type { Tune } from '#core/music/tune'
import { BadInput, parseOptions, readTuneFile } from '../input'
import { told } from '../told'

/** `convert IN OUT`: writes OUT in the format of its ending and tells what that format could not carry. */
export function convert(args: string[]) {
  const { positionals } = parseOptions(args, {})
  const [from, to] = positionals
  const { tune, findings } = readTuneFile(from)
  if (!to) throw new BadInput('where to? Give the path of a .abc or .nokta.json file to write')
  const written = write(tune, to)
  try {
    writeFileSync(to, written.text)
  } catch {
    throw new BadInput(`${to}: the file can't be written`)
  }
  return { written: to, findings: told([...findings, ...written.findings]) }
}

function write(tune: Tune, to: string): { text: string; findings: readonly Finding[] } {
  if (to.endsWith('.nokta.json'))
    return { text: writeBackup([{ id: 'tune', source: null, tune, arrangements: [] }]), findings: [] }
  if (to.endsWith('.abc')) return writeAbc(tune)
  throw new BadInput(`${to}: this kind of file is not written yet; .abc and .nokta.json are`)
}
