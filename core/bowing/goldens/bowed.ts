/** Bows a golden as the tool would, everything allowed, and reads off its marks. */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { withBow, withSchools } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { sizeOf } from '#core/instruments/instruments'
import { frac } from '#core/music/fraction'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { Bowing } from '../stroke'
import { parsePattern } from '../pattern'
import { MAY_ALL, type BowSchool, type May } from '../schools'
import type { Mark } from './marks'

export interface Asked {
  readonly instrument: InstrumentId
  readonly school: BowSchool
  readonly pattern?: string | undefined
  readonly may?: May
}

export function bowedAs(tune: Tune, { instrument, school, pattern, may = MAY_ALL }: Asked): Bowing {
  const groove = pattern ? { pattern: parsePattern(pattern)!, unit: frac(1, 2), offset: 0 } : null
  const recipe = withSchools(newArrangement(instrument, sizeOf(instrument).name), { bow: school })
  return derive(tune, withBow(recipe, { may, groove }), ASSUMED_HANDS).bowing
}

/** What was done at each note the first time through, in the order it is written. */
export function marksDone(b: Bowing): Mark[] {
  const seen = new Set<string>()
  return b.strokes.flatMap(s =>
    s.tones.flatMap((id, i): Mark[] => {
      if (seen.has(id)) return []
      seen.add(id)
      return [{ direction: s.direction, way: i === 0 ? s.way : 'slur' }]
    }),
  )
}
