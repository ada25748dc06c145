/** What the bow may be asked at each level. */
import type { BowWay, May } from '#core/bowing/schools'
import type { Level } from './levels'

/** Parting a slur asks nothing new; two notes in a bow come before the stopped bow. */
const FROM: Readonly<Record<BowWay, Level>> = { part: 1, slur: 2, lift: 2, hook: 3 }

/** What a player of a level may be offered; everything when nobody said a level. */
export function bowSkills(level: Level | null): May {
  const has = (way: BowWay) => level === null || level >= FROM[way]
  return { slur: has('slur'), hook: has('hook'), lift: has('lift'), part: has('part') }
}
