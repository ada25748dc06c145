/** For tests: a tune from a line of music, bowed. */
import { readAbc } from '#core/formats/abc/readAbc'
import { slurredToPrevious } from '#core/line/joins'
import { parseTempo } from '#core/music/metre'
import { tuneOf } from './goldens/marks'
import { bowProblem, solveBow } from './bowing'
import type { Groove } from './pattern'
import { NO_HABITS } from './habits'
import { MAY_NOTHING, type BowSchool } from './schools'
import type { Bowing, BowingOptions } from './stroke'

export interface LineOfMusic extends Partial<Omit<BowingOptions, 'tempo'>> {
  readonly metre?: string
  readonly tempo?: string
  readonly school?: BowSchool
  readonly groove?: Groove
}

export const tuneFrom = (music: string, metre = '4/4') => tuneOf({ metre, tempo: '1/4=100', key: 'D', music })

export function bowed(music: string, o: LineOfMusic = {}): Bowing {
  const tune = readAbc(`X:1\nT:t\nM:${o.metre ?? '4/4'}\nL:1/8\nK:D\n${music}\n`).tunes[0]!.tune
  return bowedTune(tune, o)
}

export function bowedTune(tune: Parameters<typeof bowProblem>[0], o: LineOfMusic = {}): Bowing {
  const { metre: _, tempo = '1/4=100', school = 'down', groove = null, ...rest } = o
  return solveBow(
    bowProblem(tune, {
      instrument: 'violin',
      hair: 650,
      tempo: parseTempo(tempo)!,
      joined: slurredToPrevious(tune),
      planOf: () => ({ school, groove }),
      may: MAY_NOTHING,
      habits: NO_HABITS,
      pins: {},
      joins: {},
      phrases: new Map(),
      stringOf: () => 1,
      partOf: () => undefined,
      ...rest,
    }),
  )
}

/**
 * One sign a written stroke: "D" down, "u" up; ' before a lift, = before a hook, a dot for each note slurred
 * on.
 */
export const said = (b: Bowing) =>
  b.written
    .map(
      s =>
        (s.lift ? "'" : s.hook ? '=' : '') +
        (s.direction === 'down' ? 'D' : 'u') +
        '.'.repeat(s.tones.length - 1),
    )
    .join('')
