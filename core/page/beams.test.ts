import { expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { beamParts, type BeamPart } from './beams'
import { notate } from './notation'

const SHORT: Record<BeamPart, string> = {
  begin: 'b',
  continue: 'c',
  end: 'e',
  'forward hook': 'f',
  'backward hook': 'k',
}
/** Of each note the parts of its lines; a dot where it is under no beam. */
const parts = (music: string, metre = '4/4') => {
  const { tune } = readAbc(`X:1\nM:${metre}\nL:1/16\nK:C\n${music}\n`).tunes[0]!
  const found = beamParts(notate(tune))
  return tune.measures
    .flatMap(m => m.events.map(e => (found.get(e.id) ?? []).map(p => SHORT[p]).join('') || '.'))
    .join(' ')
}

it.each([
  ['four eighths', 'C2D2E2F2 G8|', 'b c c e .'],
  ['sixteenths, two lines', 'CDEF G12|', 'bb cc cc ee .'],
  ['a dotted eighth: its sixteenth hooks back', 'C3D E12|', 'b ek .'],
  ['a snap: its sixteenth hooks forwards', 'CD3 E12|', 'bf e .'],
  ['an eighth and two sixteenths', 'C2DE F12|', 'b cb ee .'],
  ['a sixteenth between two eighths', 'CD2E F12|', 'bf c ek .'],
])('%s', (_, music, wanted) => expect(parts(music)).toBe(wanted))
