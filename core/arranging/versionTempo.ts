/** The tempo of a level: a version is handed out at the speed its learner plays, not at that of the tune. */
import type { Level } from '#core/levels/levels'
import { frac, toNumber } from '#core/music/fraction'
import { inThrees, isUneven, type Metre, type Tempo } from '#core/music/metre'
import type { InstrumentId } from '#core/music/tune'

/**
 * Beats a minute at levels 1 to 3, by what is felt as the beat; above them the tune's own tempo, as fast as
 * its notes can be played.
 */
const MOST: Readonly<Record<'quarter' | 'waltz' | 'dotted' | 'eighth', readonly number[]>> = {
  quarter: [80, 88, 104],
  /** Three to the measure keep their swing: not under 80. */
  waltz: [84, 92, 108],
  dotted: [60, 69, 80],
  /** Of an uneven metre. */
  eighth: [152, 176, 208],
}
/** Thick strings take longer to speak. */
const SHARE: Readonly<Record<InstrumentId, number>> = { violin: 1, viola: 1, cello: 0.95, bass: 0.88 }

/**
 * The tempo at a level: the tune's own, or slower. `own` counts halves from level 3 on; below it they are
 * counted in quarters.
 */
export function tempoAt(own: Tempo, metre: Metre, level: Level, instrument: InstrumentId): Tempo {
  const halves = toNumber(own.beat) === 2 && level < 3
  const counted: Tempo = halves ? { beat: frac(1), perMinute: own.perMinute * 2 } : own
  const [kind, unit] = beatOf(metre)
  const most = MOST[kind][level - 1]
  if (most === undefined) return counted
  const perMinute = Math.round((most * SHARE[instrument] * unit) / toNumber(counted.beat))
  return perMinute < counted.perMinute ? { ...counted, perMinute } : counted
}

/** What is felt as the beat, and its length in quarters. */
function beatOf(metre: Metre): [keyof typeof MOST, number] {
  if (isUneven(metre)) return ['eighth', 0.5]
  if (inThrees(metre)) return ['dotted', 1.5]
  return metre.beats === 3 && metre.unit === 4 ? ['waltz', 1] : ['quarter', 1]
}
