/** For tests: what was read, heard and told. */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import type { HandOptions } from '#core/instruments/hands'
import { homeTuning } from '#core/instruments/tunings'
import { formatPitch } from '#core/music/pitch'
import type { InstrumentId, Tune } from '#core/music/tune'
import { placeText, sentence } from '#core/words/findings'
import { readSpoken, type ReadSpoken } from './readSpoken'
import { writeSpoken } from './writeSpoken'

export const read = (
  text: string,
  instrument: InstrumentId = 'violin',
  hand: HandOptions = {},
): ReadSpoken => {
  const r = readSpoken(text, { instrument, hand })
  if ('finding' in r) throw new Error(sentence(r.finding))
  return r
}
export const pitches = (t: Tune) =>
  t.measures
    .flatMap(m => m.events)
    .map(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'r'))
    .join(' ')
export const told = (r: ReadSpoken) => r.findings.map(f => `${placeText(f)}: ${sentence(f)}`)

/** What the text says it leaves out. */
export const lostOf = (abc: string, more: Partial<Tune> = {}) => {
  const tune = { ...readAbc(`X:1\nT:t\nM:4/4\nL:1/8\n${abc}\n`).tunes[0]!.tune, ...more }
  const d = derive(tune, newArrangement('violin', '4/4'), ASSUMED_HANDS)
  const fingers = new Map(d.fingering.notes.map(n => [n.id, n]))
  const { findings } = writeSpoken(tune, fingers, { instrument: 'violin', tuning: homeTuning('violin') })
  return findings.map(f => (f.code === 'file.notCarried' ? f.values.what : f.code))
}
