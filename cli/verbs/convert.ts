import type { Verb } from '../verb'
import { BadInput } from '../badInput'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { writeFileSync } from 'node:fs'
import { newArrangement } from '#core/arrangement/recipe'
import { formatOf, writeFile } from '#core/formats/writeFile'
import { WRITABLE } from '#core/formats/fileKinds'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import { ARRANGEMENT_OPTIONS, readTuneFile, recipeFrom } from '../input'
import { told } from '../told'

export const convert: Verb = {
  name: 'convert',
  what: 'Writes OUT in the format of its ending, and tells what that could not carry; with --instrument, the arrangement.',
  takes: 'IN OUT',
  options: ARRANGEMENT_OPTIONS,
  run: (values, paths) => {
    const [from, to] = paths
    const file = readTuneFile(from)
    const { tune, findings } = file
    if (!to) throw new BadInput(`where to? Give the path of a .${WRITABLE.join(', .')} file to write`)
    const format = formatOf(to)
    if (!format) throw new BadInput(`${to}: this kind of file is not written; .${WRITABLE.join(', .')} are`)
    const asked =
      values.instrument !== undefined || file.arrangements.length > 0 ? recipeFrom(file, values, null) : null
    const spoken = format === 'txt' ? newArrangement(writtenFor(tune), sizeOf(writtenFor(tune)).name) : null
    const written = writeFile(format, tune, asked ?? spoken, ASSUMED_HANDS)
    try {
      writeFileSync(to, written.content)
    } catch {
      throw new BadInput(`${to}: the file can't be written`)
    }
    return { written: to, findings: told([...findings, ...written.findings]) }
  },
}
