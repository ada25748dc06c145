/**
 * What the left hand has at each level, per instrument, as data. Violin and viola meet the fourth finger
 * late; cello and bass have it from the start. A place outside the list is refused with the reason given
 * here.
 */
import type { Finger, MarkKind, Shape } from '#core/instruments/hands'
import { LEVELS, type Level } from '#core/instruments/level'
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'

export { LEVELS, type Level }

export interface Place {
  readonly finger: Finger
  readonly mark: MarkKind
  readonly shape: Shape
  readonly anchor: Semitones
  readonly harmonic?: true
}

interface Skill {
  readonly from: Level
  readonly why: string
  /** True when the place needs this skill. */
  readonly needs: (p: Place) => boolean
}

const skill = (from: Level, why: string, needs: Skill['needs']): Skill => ({ from, why, needs })
const stopped = (p: Place) => p.finger !== 0
const at = (finger: Finger, mark: MarkKind) => (p: Place) => p.finger === finger && p.mark === mark

const HARMONICS = skill(6, 'harmonics come at level 6', p => p.harmonic === true)

const UPPER: readonly Skill[] = [
  skill(2, 'low 2 comes at level 2', at(2, 'low')),
  skill(3, 'the fourth finger comes at level 3', p => p.finger === 4),
  skill(3, 'high 3 comes at level 3', at(3, 'high')),
  skill(4, 'low 1 comes at level 4', at(1, 'low')),
  skill(4, 'low 4 comes at level 4', at(4, 'low')),
  skill(
    5,
    'reaching past the frame comes at level 5',
    p => p.mark === 'extended' || at(1, 'high')(p) || at(2, 'high')(p) || at(3, 'low')(p),
  ),
  skill(5, 'third position comes at level 5', p => stopped(p) && p.anchor >= 5),
  skill(
    6,
    'half and second position come at level 6',
    p => stopped(p) && (p.anchor === 1 || p.anchor === 3 || p.anchor === 4),
  ),
  skill(7, 'positions above the third come at level 7', p => stopped(p) && p.anchor > 6),
  skill(8, 'positions above the fifth come at level 8', p => stopped(p) && p.anchor > 9),
  HARMONICS,
]

const CELLO: readonly Skill[] = [
  skill(2, 'the closed second finger comes at level 2', p => p.finger === 2 && p.shape === 'plain'),
  skill(3, 'the extended hand comes at level 3', p => p.shape === 'extended' || p.shape === 'back'),
  skill(4, 'half position comes at level 4', p => stopped(p) && p.anchor === 1),
  skill(4, 'fourth position comes at level 4', p => stopped(p) && p.anchor === 7),
  skill(5, 'second and third position come at level 5', p => stopped(p) && p.anchor >= 3 && p.anchor <= 6),
  skill(6, 'positions above the fourth come at level 6', p => stopped(p) && p.anchor > 7),
  skill(7, 'the upper neck comes at level 7', p => stopped(p) && p.anchor > 9),
  skill(8, 'thumb position comes at level 8', p => p.shape === 'thumb'),
  HARMONICS,
]

const BASS: readonly Skill[] = [
  skill(2, 'half position comes at level 2', p => stopped(p) && p.anchor === 1),
  skill(3, 'second and third position come at level 3', p => stopped(p) && p.anchor >= 3 && p.anchor <= 5),
  skill(5, 'positions above the third come at level 5', p => stopped(p) && p.anchor > 5),
  skill(7, 'positions above the fourth come at level 7', p => stopped(p) && p.anchor > 8),
  skill(8, 'thumb position comes at level 8', p => p.shape === 'thumb'),
  HARMONICS,
]

/** The latest first, so that the first one a place needs is the one to tell. */
const latestFirst = (list: readonly Skill[]): readonly Skill[] => [...list].sort((a, b) => b.from - a.from)

const SKILLS: Readonly<Record<InstrumentId, readonly Skill[]>> = {
  violin: latestFirst(UPPER),
  viola: latestFirst(UPPER),
  cello: latestFirst(CELLO),
  bass: latestFirst(BASS),
}

/** The latest skill a place needs: at which level it comes, and its words. */
export const latestSkill = (
  id: InstrumentId,
  p: Place,
): { readonly from: Level; readonly why: string } | null => SKILLS[id].find(s => s.needs(p)) ?? null

/** Null when the level has this place, else the reason it has not: that of the latest skill it needs. */
export function missingSkill(id: InstrumentId, level: Level, p: Place): string | null {
  const latest = latestSkill(id, p)
  return latest && latest.from > level ? latest.why : null
}

/** What the left hand begins with. */
const FIRST: Readonly<Record<InstrumentId, string>> = {
  violin: 'open strings, fingers 1 to 3 in first position',
  viola: 'open strings, fingers 1 to 3 in first position',
  cello: 'open strings, fingers 1, 3 and 4 in first position',
  bass: 'open strings, fingers 1, 2 and 4 in first position',
}

/** What the left hand has at a level that it had not before, in a few words: "low 2"; "" for nothing more. */
export function newInHand(id: InstrumentId, level: Level): string {
  if (level === 1) return FIRST[id]
  const own = SKILLS[id].filter(s => s.from === level && s !== HARMONICS)
  const words = own.map(s => s.why.replace(/ comes? at level \d$/, ''))
  return [...words, ...(level === HARMONICS.from ? ['harmonics'] : [])].join('; ')
}
