/** What can be done when notes are out of reach: the nearest octave, key or other note in which all of it lies within reach. */
import type { Finding, Mend } from '#core/findings/finding'
import { costContext } from '#core/fingering/costs'
import type { FingeringOptions } from '#core/fingering/fingering'
import { playable } from '#core/fingering/states'
import { tonesOf } from '#core/fingering/tones'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { keyName, keyOfSignature, signature, type Key } from '#core/music/key'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import { formatPitch } from '#core/music/pitch'
import type { Tune, TuneEvent } from '#core/music/tune'
import type { Arrangement } from './recipe'

const REACH = ['finger.tooLow', 'finger.tooHigh', 'finger.levelReach', 'finger.spanReach']
const outOfReach = (f: Finding) => REACH.includes(f.code)

/** A tune with each of its notes once: all that reach depends on. */
function eachNoteOnce(tune: Tune): Tune {
  const events = new Map<string, TuneEvent>()
  for (const e of tune.measures.flatMap(m => m.events))
    if (e.kind === 'note') events.set(e.heads.map(h => formatPitch(h.pitch)).join(), e)
  return { ...tune, measures: [{ id: 'all', events: [...events.values()] }], slurs: [] }
}

function allInReach(tune: Tune, options: FingeringOptions): boolean {
  const { writtenAbove } = INSTRUMENTS[options.instrument]
  const context = costContext(options)
  return !playable(tonesOf(tune, { tempo: options.tempo, writtenAbove }), options, context).findings.some(
    outOfReach,
  )
}

/** Keys with the fewest sharps and flats first. */
const keysNear = (key: Key): Key[] =>
  [0, 1, -1, 2, -2, 3, -3, 4, -4]
    .map(fifths => keyOfSignature(fifths, key.mode))
    .filter(k => signature(k) !== signature(key))

/** The octaves an arrangement may lie in: the one it says, or any when it is to be found. */
const octavesOf = (recipe: Arrangement, own: boolean): readonly number[] =>
  recipe.octave !== 'auto' ? [recipe.octave] : own ? [0] : [0, -1, 1, -2, -3]

export interface Reached {
  /** The tune as it was written, and whether for this instrument. */
  readonly written: Tune
  readonly own: boolean
  /** Octaves it is moved now. */
  readonly octave: number
}

/** The findings, those out of reach with their mends: another octave, another key, or this note an octave away. */
export function withReachMends(
  findings: readonly Finding[],
  { written, own, octave }: Reached,
  recipe: Arrangement,
  options: FingeringOptions,
): readonly Finding[] {
  if (!findings.some(outOfReach)) return findings
  const notes = eachNoteOnce(written)
  const now = recipe.key ?? written.key
  const lies = (key: Key, octaves: number) =>
    allInReach(transposeTune(transposeToKey(notes, key), octaveShift(octaves)), options)
  const general: Mend[] = []
  for (const by of [1, -1])
    if (Math.abs(octave + by) <= 4 && lies(now, octave + by))
      general.push({ kind: 'octave', octave: octave + by, label: `All of it an octave ${by > 0 ? 'higher' : 'lower'}` }) // prettier-ignore
  const key = keysNear(now).find(k => octavesOf(recipe, own).some(o => lies(k, o)))
  if (key) general.push({ kind: 'key', key, label: `All of it in ${keyName(key)}` })
  return findings.map(f => {
    if (!outOfReach(f)) return f
    const up = f.code === 'finger.tooLow'
    const note = f.where.note
    const own: Mend[] =
      note === undefined
        ? []
        : [{ kind: 'moveNote', note, octaves: up ? 1 : -1, label: `This note an octave ${up ? 'higher' : 'lower'}` }] // prettier-ignore
    return { ...f, mends: [...(f.mends ?? []), ...general, ...own] }
  })
}
