/** In which octave a tune lies on an instrument it was not written for. */
import { newFingeringCache, type FingeringCache } from '#core/fingering/cache'
import { shiftsOf } from '#core/fingering/derived'
import { fingeringProblem, solveFingering } from '#core/fingering/fingering'
import { outOfReach } from '#core/fingering/states'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { isWrittenFor } from '#core/instruments/writtenFor'
import { tonesOf } from '#core/line/tones'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { DeriveContext } from './context'
import { fingeringOptions } from './handOptions'
import type { PartLine } from './line'
import type { Arrangement } from './recipe'

/** An octave higher costs a little by itself, so that of two that lie alike the lower is taken. */
const HIGHER_OCTAVE = 0.5
/** A shift the tempo leaves no time for costs more than any other: an octave without it is taken. */
const LATE_SHIFT = 3

/** The octave is to be found: nobody chose it, and the tune was written for another instrument. */
export const isOctaveOpen = ({ written }: Pick<PartLine, 'written'>, { played }: Arrangement) =>
  played.octave === 'auto' && !isWrittenFor(written, played.instrument)

/**
 * The octave a recipe plays a line in: as chosen; else where it was written, on the instrument it was written
 * for; else the octave with the fewest notes off the instrument, then the fewest beyond the level and the
 * reach, then the cheapest fingering whose shifts hold at this tempo.
 * @param costs only saves time: what other arrangements of the tune worked out
 */
export function octaveOf(
  line: PartLine,
  recipe: Arrangement,
  context: DeriveContext,
  costs: FingeringCache = newFingeringCache(),
): number {
  const { key, octave, instrument } = recipe.played
  if (octave !== 'auto') return octave
  if (!isOctaveOpen(line, recipe)) return 0
  const tune = key ? transposeToKey(line.tune, key) : line.tune
  const options = fingeringOptions(tune, recipe, line.joined, context)
  const { writtenAbove } = INSTRUMENTS[instrument]
  const octaves = [-3, -2, -1, 0, 1].map(octave => {
    const there = transposeTune(tune, octaveShift(octave))
    const tones = tonesOf(there, { tempo: options.tempo, writtenAbove })
    return { octave, there, ...outOfReach(tones, options) }
  })
  const least = octaves.reduce((a, b) => (b.off < a.off || (b.off === a.off && b.beyond < a.beyond) ? b : a))
  const fits = octaves.filter(o => o.off === least.off && o.beyond === least.beyond)
  const costOf = ({ octave, there }: (typeof fits)[number]) => {
    const solved = solveFingering(fingeringProblem(there, options, costs))
    const late = shiftsOf(solved, context.model).filter(s => s.ceiling.perMinute < options.tempo.perMinute)
    return solved.total + octave * HIGHER_OCTAVE + late.length * LATE_SHIFT
  }
  let best = { octave: fits[0]!.octave, cost: Infinity }
  for (const o of fits.length > 1 ? fits : []) {
    const cost = costOf(o)
    if (cost < best.cost) best = { octave: o.octave, cost }
  }
  return best.octave
}
