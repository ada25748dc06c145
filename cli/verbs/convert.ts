import { text, type Verb } from '../verb'
import { BadInput } from '../badInput'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { formatOf, writeFile } from '#core/formats/writeFile'
import { WRITABLE } from '#core/formats/fileKinds'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'
import { AS_OPTION, formatToWrite, Raw, writeTo } from '../output'
import { STANDARD } from '../files'
import { told } from '../told'

export const convert: Verb = {
  name: 'convert',
  what: 'Writes OUT in the format of its ending, and tells what that could not carry; with --instrument, the arrangement.',
  takes: 'IN OUT',
  options: { ...ARRANGEMENT_OPTIONS, as: AS_OPTION },
  run: (values, paths, open) => {
    const [from, to] = paths
    const file = open(from)
    const { tune, findings } = file
    if (!to) throw new BadInput(`where to? Give the path of a .${WRITABLE.join(', .')} file to write`)
    const format = formatToWrite('OUT', to, text(values.as), WRITABLE, formatOf)
    const asked =
      values.instrument !== undefined || file.arrangements.length > 0 ? recipeFrom(file, values, null) : null
    const spoken = format === 'txt' ? newArrangement(writtenFor(tune), sizeOf(writtenFor(tune)).name) : null
    const written = writeFile(format, tune, asked ?? spoken, ASSUMED_HANDS)
    const lost = told([...findings, ...written.findings])
    if (to === STANDARD)
      return new Raw(
        written.content,
        lost.map(f => f.sentence),
      )
    writeTo(to, written.content)
    return { written: to, findings: lost }
  },
}
