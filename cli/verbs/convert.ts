import { writeFileSync } from 'node:fs'
import { newArrangement } from '#core/arrangement/recipe'
import { formatOf, writeFile } from '#core/formats/writeFile'
import { WRITABLE } from '#core/formats/fileKinds'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import { ARRANGEMENT_OPTIONS, BadInput, parseOptions, readTuneFile, recipeFrom } from '../input'
import { told } from '../told'

/**
 * `convert IN OUT`: writes OUT in the format of its ending and tells what that format could not carry. With `--instrument` the arrangement is
 * written, with its fingers and bows where the format holds them.
 */
export function convert(args: string[]) {
  const { positionals, values } = parseOptions(args, ARRANGEMENT_OPTIONS)
  const [from, to] = positionals
  const { tune, findings } = readTuneFile(from)
  if (!to) throw new BadInput(`where to? Give the path of a .${WRITABLE.join(', .')} file to write`)
  const format = formatOf(to)
  if (!format) throw new BadInput(`${to}: this kind of file is not written; .${WRITABLE.join(', .')} are`)
  const asked = values.instrument !== undefined ? recipeFrom(tune, values, null) : null
  const spoken = format === 'txt' ? newArrangement(writtenFor(tune), sizeOf(writtenFor(tune)).name) : null
  const written = writeFile(format, tune, asked ?? spoken)
  try {
    writeFileSync(to, written.content)
  } catch {
    throw new BadInput(`${to}: the file can't be written`)
  }
  return { written: to, findings: told([...findings, ...written.findings]) }
}
