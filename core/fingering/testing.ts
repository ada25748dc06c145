/** Shorthand for tests: a line of ABC in, the fingering as a teacher would say it out. */
import type { PassageRule } from './passageRule'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf, lettersOf } from '#core/instruments/instruments'
import { HAND_MODEL } from '#core/instruments/handModel'
import { homeTuning, parseTuning } from '#core/instruments/tunings'
import type { Level } from '#core/levels/levels'
import { parseTempo } from '#core/music/metre'
import type { InstrumentId, Tune } from '#core/music/tune'
import { fingeringProblem, solveFingering, type Fingering } from './fingering'
import type { LongSchool, OpenSchool } from './problem'
import type { PlaceSchool } from './places'
import type { FingerPins } from './fingerPin'

export interface FingeredOptions {
  readonly instrument: InstrumentId
  readonly unit?: string
  readonly open?: OpenSchool
  readonly tempo?: string
  readonly level?: Level
  readonly tuning?: string
  readonly pins?: FingerPins
  readonly bassHand?: '1-2-4' | '1-2-3-4'
  readonly rules?: readonly PassageRule[]
  readonly span?: number
  readonly extend?: 'shift' | 'extend'
  readonly long?: LongSchool
  readonly harmonics?: boolean
  readonly places?: PlaceSchool
}

export function tuneOf(abc: string, unit = '1/8'): Tune {
  const { tunes } = readAbc(`X:1\nT:test\nM:none\nL:${unit}\n${abc}\n`)
  if (!tunes[0]) throw new Error(`no tune in ${abc}`)
  return tunes[0].tune
}

export function fingeringOf(abc: string, o: FingeredOptions): Fingering {
  const tuning = o.tuning ? parseTuning(o.instrument, o.tuning) : { tuning: homeTuning(o.instrument) }
  if ('error' in tuning) throw new Error(`bad tuning ${o.tuning}`)
  const problem = fingeringProblem(tuneOf(abc, o.unit), {
    instrument: o.instrument,
    length: sizeOf(o.instrument).string,
    tuning: tuning.tuning,
    open: o.open ?? 'cost',
    tempo: parseTempo(o.tempo ?? '1/4=88')!,
    model: HAND_MODEL,
    level: o.level,
    ...(o.long && { long: o.long }),
    ...(o.harmonics && { harmonics: true }),
    ...(o.places && { places: o.places }),
    ...(o.rules && { rules: o.rules }),
    ...(o.span !== undefined && { span: o.span }),
    hand: { bassHand: o.bassHand, reach: o.extend },
  })
  return solveFingering(problem, o.pins)
}

/** "D 0 1 2 3 A 0": a string letter stands until the next; ‹ low, › high, x extended. */
export function fingered(abc: string, o: FingeredOptions): string {
  return spoken(fingeringOf(abc, o), o.instrument)
}

export function spoken(f: Fingering, instrument: InstrumentId): string {
  let string = -1
  return f.notes
    .flatMap(n => {
      const digit =
        n.mark === 'low'
          ? `‹${n.finger}`
          : n.mark === 'high'
            ? `${n.finger}›`
            : n.mark === 'extended'
              ? `x${n.finger}`
              : `${n.finger}`
      const change = n.string !== string
      string = n.string
      return change ? [lettersOf(instrument, f.problem.options.tuning)[n.string]!, digit] : [digit]
    })
    .join(' ')
}

/** "D 0 1 A 0" as a place for every note: D0, D1, A0. */
export function placesOf(said: string): string[] {
  let string = ''
  return said.split(' ').flatMap(word => {
    if (!/^[A-G]$/.test(word)) return [string + word]
    string = word
    return []
  })
}
