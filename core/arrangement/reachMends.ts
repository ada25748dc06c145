/**
 * What can be done when notes are out of reach: the nearest octave, key or other note in which all of it lies
 * within reach.
 */
import type { Finding, FindingCode, Mend } from '#core/findings/finding'
import { allInReach } from '#core/fingering/states'
import { tonesOf } from '#core/line/tones'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { keyOfSignature, signature, type Key } from '#core/music/key'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import { formatPitch } from '#core/music/pitch'
import type { Tune, TuneEvent } from '#core/music/tune'
import { isWrittenFor } from '#core/instruments/writtenFor'
import type { Arranged } from './arrange'
import type { Arrangement } from './recipe'
import type { FingeringOptions } from '#core/fingering/problem'

const REACH: readonly FindingCode[] = [
  'finger.tooLow',
  'finger.tooHigh',
  'finger.levelReach',
  'finger.spanReach',
]
const outOfReach = (f: Finding) => REACH.includes(f.code)

/** A tune with each of its notes once: all that reach depends on. */
function eachNoteOnce(tune: Tune): Tune {
  const events = new Map<string, TuneEvent>()
  for (const e of tune.measures.flatMap(m => m.events))
    if (e.kind === 'note') events.set(e.heads.map(h => formatPitch(h.pitch)).join(), e)
  return { ...tune, measures: [{ id: 'all', events: [...events.values()] }], slurs: [] }
}

/** Keys with the fewest sharps and flats first. */
const keysNear = (key: Key): Key[] =>
  [0, 1, -1, 2, -2, 3, -3, 4, -4]
    .map(fifths => keyOfSignature(fifths, key.mode))
    .filter(k => signature(k) !== signature(key))

/** The octaves an arrangement may lie in: the one it says, or any when it is to be found. */
const octavesOf = (recipe: Arrangement, own: boolean): readonly number[] =>
  recipe.played.octave !== 'auto' ? [recipe.played.octave] : own ? [0] : [0, -1, 1, -2, -3]

/**
 * The findings, those out of reach with their mends: another octave, another key, or this note an octave
 * away.
 */
export function withReachMends(
  findings: readonly Finding[],
  { written, octave }: Pick<Arranged, 'written' | 'octave'>,
  recipe: Arrangement,
  options: FingeringOptions,
): readonly Finding[] {
  if (!findings.some(outOfReach)) return findings
  const notes = eachNoteOnce(written)
  const now = recipe.played.key ?? written.key
  const own = isWrittenFor(written, recipe.played.instrument)
  const { writtenAbove } = INSTRUMENTS[options.instrument]
  const lies = (key: Key, octaves: number) => {
    const there = transposeTune(transposeToKey(notes, key), octaveShift(octaves))
    return allInReach(tonesOf(there, { tempo: options.tempo, writtenAbove }), options)
  }
  const general: Mend[] = []
  for (const by of [1, -1] as const)
    if (Math.abs(octave + by) <= 4 && lies(now, octave + by))
      general.push({ kind: 'octave', octave: octave + by, by })
  const key = keysNear(now).find(k => octavesOf(recipe, own).some(o => lies(k, o)))
  if (key) general.push({ kind: 'key', key })
  return findings.map(f => {
    if (!outOfReach(f)) return f
    const up = f.code === 'finger.tooLow'
    const note = f.where.note
    const byNote: Mend[] = note === undefined ? [] : [{ kind: 'moveNote', note, octaves: up ? 1 : -1 }]
    return { ...f, mends: [...(f.mends ?? []), ...general, ...byNote] }
  })
}
