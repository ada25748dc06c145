/** What can be done when notes are out of reach: the nearest octave, key or other note in which all of it lies within reach. */
import type { Finding, Mend } from '#core/findings/finding'
import { costContext } from '#core/fingering/costs'
import type { FingeringOptions } from '#core/fingering/fingering'
import { playable } from '#core/fingering/states'
import { tonesOf } from '#core/fingering/tones'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { keyName, keyOfSignature, signature, type Key } from '#core/music/key'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import type { Arrangement } from './recipe'

const REACH = ['finger.tooLow', 'finger.tooHigh', 'finger.levelReach', 'finger.spanReach']
const outOfReach = (f: Finding) => REACH.includes(f.code)

/** How many notes are out of reach when the tune is moved so. */
function missing(tune: Tune, options: FingeringOptions): number {
  const { writtenAbove } = INSTRUMENTS[options.instrument]
  const tones = tonesOf(tune, { tempo: options.tempo, writtenAbove, ...(options.joined && { joined: options.joined }) }) // prettier-ignore
  const context = costContext(options.instrument, options.length, options.open, options.hand)
  return playable(tones, options, context).findings.filter(outOfReach).length
}

/** Keys with the fewest sharps and flats first, and the nearest of those. */
const keysNear = (key: Key): Key[] =>
  [0, 1, -1, 2, -2, 3, -3, 4, -4]
    .map(fifths => keyOfSignature(fifths, key.mode))
    .filter(k => signature(k) !== signature(key))

/**
 * The findings, those out of reach with their mends: another octave, another key, or this note an octave away.
 *
 * @param tune as it is arranged now, `octave` octaves from where it was written
 */
export function withReachMends(
  findings: readonly Finding[],
  tune: Tune,
  octave: number,
  recipe: Arrangement,
  options: FingeringOptions,
): readonly Finding[] {
  if (!findings.some(outOfReach)) return findings
  const general: Mend[] = []
  for (const by of [1, -1])
    if (Math.abs(octave + by) <= 4 && missing(transposeTune(tune, octaveShift(by)), options) === 0)
      general.push({ kind: 'octave', octave: octave + by, label: `All of it an octave ${by > 0 ? 'higher' : 'lower'}` }) // prettier-ignore
  const key = keysNear(tune.key).find(k => missing(transposeToKey(tune, k), options) === 0)
  if (key) general.push({ kind: 'key', key, label: `All of it in ${keyName(key)}` })
  return findings.map(f => {
    if (!outOfReach(f)) return f
    const up = f.code === 'finger.tooLow'
    const note = f.where.note
    const own: Mend[] =
      note === undefined || recipe.key !== null
        ? []
        : [{ kind: 'moveNote', note, octaves: up ? 1 : -1, label: `This note an octave ${up ? 'higher' : 'lower'}` }] // prettier-ignore
    return { ...f, mends: [...(f.mends ?? []), ...general, ...own] }
  })
}
