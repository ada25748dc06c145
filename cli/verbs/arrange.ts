import type { Verb } from '../verb'
import { writeFileSync } from 'node:fs'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { applyChanges } from '#core/arrangement/changes'
import { DeriveMemory } from '#core/arrangement/derive'
import { withKey } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { easier } from '#core/arranging/easier'
import { keptOf } from '#core/arranging/kept'
import { formatOf, writeFile } from '#core/formats/writeFile'
import { WRITABLE } from '#core/formats/fileKinds'
import { candidates, compareRows, keysOfMode } from '#core/grading/keyRows'
import { tryCandidate } from '#core/grading/keySearch'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { keyName, parseKey, type Key } from '#core/music/key'
import { formatTempo } from '#core/music/metre'
import type { InstrumentId, Tune } from '#core/music/tune'
import { changeViews } from '#core/words/arranging'
import { demandWords } from '#core/words/grading'
import { BadInput } from '../badInput'
import { instrumentOption, levelOption, readTuneFile } from '../input'
import { text } from '../verb'

const OPTIONS = {
  instrument: { type: 'string', value: 'violin|viola|cello|bass', what: 'whose hands; the tune’s own when left out' },
  level: { type: 'string', value: '1..8', what: 'the level it is to be brought down to' },
  key: { type: 'string', value: 'D|Bb|Em|best', what: 'the key to play in; best is the easiest of its mode' },
  refuse: { type: 'string', multiple: true, value: 'ID', what: 'a change that is not to be made' },
  out: { type: 'string', short: 'o', value: 'OUT', what: `a file to write: ${WRITABLE.join(', ')}` },
} as const // prettier-ignore

export const arrange: Verb = {
  name: 'arrange',
  what: 'An easier version of a tune: the changes that bring it down to a level, what is kept of it, and what stands in the way.',
  takes: 'FILE…',
  options: OPTIONS,
  run: (values, paths) => {
    const { tune } = readTuneFile(paths[0])
    if (!tune.measures.some(m => m.events.some(e => e.kind === 'note'))) throw new BadInput(`${paths[0]}: there are no notes to play`) // prettier-ignore
    const instrument = instrumentOption(tune, values)
    const level = levelOption(text(values.level))
    if (level === null) throw new BadInput('arrange: say the level it is for, as --level 2')
    const out = text(values.out)
    const format = out === undefined ? null : formatOf(out)
    if (out !== undefined && !format) throw new BadInput(`-o ${out}: a file that ends with ${WRITABLE.join(', ')}`) // prettier-ignore
    const base = newArrangement(instrument, sizeOf(instrument).name)
    const key = keyOption(tune, instrument, text(values.key))
    const made = easier(tune, withKey(base, key, tune.key), {
      level,
      context: ASSUMED_HANDS,
      refused: new Set([values.refuse ?? []].flat() as string[]),
    })
    const name = `${INSTRUMENTS[instrument].name}, level ${level}`
    if (out !== undefined && format) writeFileSync(out, writeFile(format, tune, { ...made.recipe, name }, ASSUMED_HANDS).content) // prettier-ignore
    const views = new Map(changeViews(tune, made.recipe.played.changes).map(v => [v.id, v]))
    return {
      level: made.grade.level,
      key: keyName(key),
      tempo: formatTempo(made.derived.tempo),
      changes: made.changes.map(c => ({ ...c, sentence: views.get(c.id)?.sentence ?? 'the slur is parted: one bow a note' })), // prettier-ignore
      kept: keptOf(tune, applyChanges(tune, made.recipe.played.changes).tune, made.derived.tempo),
      blocked: made.blocked.map(d => ({ level: d.level, sentence: demandWords(d), notes: d.notes })),
    }
  },
}

function keyOption(tune: Tune, instrument: InstrumentId, value: string | undefined): Key {
  if (value === undefined) return tune.key
  if (value !== 'best') {
    const key = parseKey(value)
    if (!key) throw new BadInput(`--key ${value}: not understood; write it as D, Bb, Em, Edor or best`)
    return key
  }
  const search = { instruments: [instrument], keys: keysOfMode(tune.key), tunings: 'home' as const }
  const memory = new DeriveMemory()
  const rows = candidates(tune, search).flatMap(
    c => tryCandidate(tune, c, search, ASSUMED_HANDS, memory) ?? [],
  )
  return [...rows].sort(compareRows)[0]?.key ?? tune.key
}
