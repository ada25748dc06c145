/** The key in which an easier version keeps most of its tune: the version made in every key of the mode, the best one taken. */
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { withKey, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { skillById } from '#core/grading/catalogue'
import { keysOfMode } from '#core/grading/keyRows'
import { skillOfSignature } from '#core/grading/skills/reading'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { sameKey, signature, tonicClass, type Key } from '#core/music/key'
import type { Tune } from '#core/music/tune'
import { easier, type Eased, type EaseOptions } from './easier'
import { keptInAll, keptOf, unchanged, type Kept } from './kept'

export interface InKey {
  readonly key: Key
  readonly eased: Eased
  readonly kept: Kept
  readonly unchanged: number
}

/** Signs beyond which no key is the easier one. */
const MOST_SIGNS = 3
/** What it is worth to stay in the key everybody knows the tune in, as a share of all that is kept. */
const OWN = 0.1
/** What it is worth that the notes between the beats are the tune's own. */
const UNCHANGED = 0.5
/** What it is worth that the key's first and fifth degree are open strings: the instrument rings, and the ear has something to tune to. */
const RING = 0.04
/** Of keys that keep as much the plainer one. */
const SIGN = 0.005

export function versionIn(tune: Tune, base: Arrangement, key: Key, o: EaseOptions): InKey {
  const eased = easier(tune, withKey(base, key, tune.key), o)
  const version = applyChanges(tune, playedChanges(eased.recipe.played)).tune
  return { key, eased, kept: keptOf(tune, version, eased.derived.tempo), unchanged: unchanged(tune, version) }
}

const ringing = (key: Key, strings: Tuning) =>
  [0, 7].filter(above => strings.some(s => (s - tonicClass(key) - above) % 12 === 0)).length

/** The tune's own key counts with the others. What still asks for too much weighs more than anything kept. */
export function easierInBestKey(tune: Tune, base: Arrangement, o: EaseOptions): InKey {
  const read = (k: Key) => {
    const skill = skillOfSignature(k)
    return (o.table?.[skill] ?? skillById.get(skill)!.levels[base.played.instrument] ?? 8) <= o.level
  }
  const free = withPlayed(base, { octave: 'auto' })
  const worth = ({ key, eased, kept, unchanged }: InKey) =>
    keptInAll(kept) + UNCHANGED * unchanged + (sameKey(key, tune.key) ? OWN : 0) + RING * ringing(key, strings) - SIGN * Math.abs(signature(key)) - 4 * (eased.blocked.length + eased.off.length) - (1 - eased.tempo) // prettier-ignore
  const strings = base.played.tuning ?? homeTuning(base.played.instrument)
  const own = versionIn(tune, base, tune.key, o)
  if (own.eased.changes.length === 0 && own.eased.blocked.length + own.eased.off.length === 0) return own
  return keysOfMode(tune.key)
    .filter(k => !sameKey(k, tune.key) && Math.abs(signature(k)) <= MOST_SIGNS && read(k))
    .map(k => versionIn(tune, free, k, o))
    .reduce((best, next) => (worth(next) > worth(best) ? next : best), own)
}
