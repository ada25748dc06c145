/** The key in which an easier version keeps most of its tune: the version made in every key of the mode, the best one taken. */
import { isWrittenFor } from '#core/arrangement/arrange'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { DeriveMemory } from '#core/arrangement/derive'
import { withKey, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { skillById } from '#core/grading/catalogue'
import { keysOfMode } from '#core/grading/keyRows'
import { skillOfSignature } from '#core/grading/skills/reading'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { keyName, sameKey, signature, tonicClass, type Key } from '#core/music/key'
import type { Level } from '#core/levels/levels'
import type { Tune } from '#core/music/tune'
import { EasierVersions } from './easier'
import type { Eased, EaseOptions } from './easing'
import { keptInAll, keptOf, unchanged, type Kept } from './kept'

export interface InKey {
  readonly key: Key
  readonly eased: Eased
  readonly kept: Kept
  readonly unchanged: number
}

/** Signs beyond which no key is the easier one. */
const MOST_SIGNS = 3
/** What it is worth to stay in the key and octave everybody knows the tune in, as a share of all that is kept. */
const OWN = 0.1
/** What it is worth that the notes between the beats are the tune's own. */
const UNCHANGED = 0.5
/** What it is worth that the key's first and fifth degree are open strings: the instrument rings, and the ear has something to tune to. */
const RING = 0.04
/** Of keys that keep as much the plainer one. */
const SIGN = 0.005

const ringing = (key: Key, strings: Tuning) =>
  [0, 7].filter(above => strings.some(s => (s - tonicClass(key) - above) % 12 === 0)).length

export const versionIn = (tune: Tune, base: Arrangement, key: Key, { level, ...o }: EaseOptions): InKey =>
  new VersionsInKeys(tune, base, o).inKey(key, level)

export const easierInBestKey = (tune: Tune, base: Arrangement, { level, ...o }: EaseOptions): InKey =>
  new VersionsInKeys(tune, base, o).best(level)

/** The easier versions of one tune, by key and level: what one of them worked out is there for the others. */
export class VersionsInKeys {
  private readonly memory = new DeriveMemory()
  private readonly byKey = new Map<string, EasierVersions>()
  private readonly known = new Map<Eased, InKey>()
  private readonly free: Arrangement

  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly o: Omit<EaseOptions, 'level'>,
  ) {
    this.free = withPlayed(base, { octave: 'auto' })
  }

  inKey(key: Key, level: Level): InKey {
    const eased = this.versions(key).at(level)
    const found = this.known.get(eased) ?? measured(this.tune, key, eased)
    this.known.set(eased, found)
    return found
  }

  /** The tune's own key counts with the others. What still asks for too much weighs more than anything kept. */
  best(level: Level): InKey {
    const { tune } = this
    const own = this.inKey(tune.key, level)
    if (own.eased.changes.length === 0 && own.eased.blocked.length + own.eased.off.length === 0) return own
    return keysOfMode(tune.key)
      .filter(k => !sameKey(k, tune.key) && Math.abs(signature(k)) <= MOST_SIGNS && this.reads(k, level))
      .map(k => this.inKey(k, level))
      .reduce((best, next) => (this.worth(next) > this.worth(best) ? next : best), own)
  }

  private versions(key: Key): EasierVersions {
    const name = keyName(key)
    // In another key the octave is found anew.
    const base = sameKey(key, this.tune.key) ? this.base : this.free
    const found = this.byKey.get(name) ?? new EasierVersions(this.tune, withKey(base, key, this.tune.key), this.o, this.memory) // prettier-ignore
    this.byKey.set(name, found)
    return found
  }

  private reads(key: Key, level: Level): boolean {
    const skill = skillOfSignature(key)
    return (this.o.table?.[skill] ?? skillById.get(skill)!.levels[this.base.played.instrument] ?? 8) <= level
  }

  private worth({ key, eased, kept, unchanged }: InKey): number {
    const { tuning, instrument } = this.base.played
    const rings = RING * ringing(key, tuning ?? homeTuning(instrument))
    const left = keptInAll(kept) + UNCHANGED * unchanged - (1 - eased.tempo)
    // An instrument's own tune an octave away is no more at home than one in another key.
    const away = isWrittenFor(this.tune, instrument) && eased.recipe.played.octave !== this.base.played.octave
    const home = sameKey(key, this.tune.key) && !away ? OWN : away ? -OWN : 0
    const ofKey = home + rings - SIGN * Math.abs(signature(key))
    return left + ofKey - 4 * (eased.blocked.length + eased.off.length)
  }
}

function measured(tune: Tune, key: Key, eased: Eased): InKey {
  const version = applyChanges(tune, playedChanges(eased.recipe.played)).tune
  return { key, eased, kept: keptOf(tune, version, eased.derived.tempo), unchanged: unchanged(tune, version) }
}
