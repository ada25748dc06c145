/**
 * The key in which an easier version of a tune lies best: the line searched in every key of the mode, the
 * best few made whole and compared.
 */
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { DeriveMemory } from '#core/arrangement/derive'
import { withKey, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { skillLevel } from '#core/grading/demands'
import { keyCost, OWN_KEY } from '#core/grading/keyCost'
import { keysOfMode } from '#core/grading/keyRows'
import { skillOfSignature } from '#core/grading/skills/reading'
import { homeTuning } from '#core/instruments/tunings'
import { keyName, sameKey, signature, type Key } from '#core/music/key'
import type { Level } from '#core/levels/levels'
import type { Tune } from '#core/music/tune'
import { EasierVersions, writtenSource } from './easier'
import type { Eased, EaseOptions } from './easing'
import type { Source } from './source'
import { keptOf, unchanged, type Kept } from './kept'

export interface InKey {
  readonly key: Key
  readonly eased: Eased
  readonly kept: Kept
  readonly unchanged: number
}

/** Signs beyond which no key is the easier one. */
const MOST_SIGNS = 3
/**
 * Keys in which so large a share more of the notes lie out of reach are not looked at; nor are more than so
 * many.
 */
const CLOSE = 0.12
const MOST_DRAFTS = 5
/** What a note out of reach costs before anything is searched. */
const OUT = 1.2
/** Drafts that are near the best are made whole and compared. */
const NEAR = 0.1
const MOST_TRIED = 3

/** One of several who play a tune together: the versions for their instrument, and their level. */
export interface KeySeat {
  readonly versions: VersionsInKeys
  readonly level: Level
}

/**
 * The key all of several share: the one in which the lines of all of them cost least together, the tune's own
 * among those that are tried.
 */
export function keyTogether(tune: Tune, seats: readonly KeySeat[]): Key {
  const sum = (of: (s: KeySeat) => number) => seats.reduce((n, s) => n + of(s), 0)
  const byCost = (keys: readonly Key[], of: (s: KeySeat, key: Key) => number) =>
    keys.map(key => ({ key, cost: sum(s => of(s, key)) })).sort((a, b) => a.cost - b.cost)
  const readable = keysOfMode(tune.key).filter(
    k => !sameKey(k, tune.key) && Math.abs(signature(k)) <= MOST_SIGNS,
  )
  const first = byCost(readable, (s, key) => s.versions.atFirst(key, s.level)).slice(0, MOST_SHARED)
  const tried = [tune.key, ...first.map(f => f.key)]
  return byCost(tried, (s, key) => s.versions.cost(key, s.level))[0]!.key
}

/** Keys that are searched for all who play together, beside the tune's own. */
const MOST_SHARED = 3

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
  private readonly source: Source

  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly o: Omit<EaseOptions, 'level'>,
  ) {
    this.free = withPlayed(base, { octave: 'auto' })
    this.source = writtenSource(tune, base)
  }

  inKey(key: Key, level: Level): InKey {
    const eased = this.versions(key).at(level)
    const found = this.known.get(eased) ?? measured(this.tune, key, eased)
    this.known.set(eased, found)
    return found
  }

  /**
   * The key whose draft costs least, the tune's own among them; of those near it, the one that asks for
   * nothing more when it is made.
   */
  best(level: Level): InKey {
    const { tune } = this
    const keys = keysOfMode(tune.key).filter(
      k => sameKey(k, tune.key) || (Math.abs(signature(k)) <= MOST_SIGNS && this.reads(k, level)),
    )
    const out = new Map(keys.map(k => [k, this.versions(k).outOfReach(level)]))
    const least = Math.min(...out.values())
    const first = keys
      .filter(k => out.get(k)! <= least + CLOSE * this.notes)
      .sort((a, b) => this.atFirst(a, level) - this.atFirst(b, level))
      .slice(0, MOST_DRAFTS)
    const costs = first.map(key => ({ key, cost: this.cost(key, level) })).sort((a, b) => a.cost - b.cost)
    const near = costs
      .filter(c => c.cost <= costs[0]!.cost + NEAR * Math.max(8, this.notes))
      .slice(0, MOST_TRIED)
    const left = (m: InKey) => m.eased.blocked.length + m.eased.off.length
    let best: InKey | null = null
    for (const { key } of near) {
      const made = this.inKey(key, level)
      if (!best || left(made) < left(best)) best = made
      if (left(best) === 0) break
    }
    return best!
  }

  /** What a key costs before anything is searched: notes out of reach, and what it is worth to the instrument. */
  atFirst = (key: Key, level: Level): number =>
    OUT * this.versions(key).outOfReach(level) + this.keyCost(key, level)

  private get notes(): number {
    return this.tune.measures.reduce((n, m) => n + m.events.filter(e => e.kind === 'note').length, 0)
  }

  /** What the line costs in a key, and what the key is worth to the instrument. */
  cost = (key: Key, level: Level): number => this.versions(key).draft(level).cost + this.keyCost(key, level)

  private keyCost(key: Key, level: Level): number {
    const { tuning, instrument } = this.base.played
    const home = sameKey(key, this.tune.key) ? OWN_KEY : 0
    const unread = this.reads(key, level) ? 0 : UNREAD
    return this.notes * (keyCost(key, tuning ?? homeTuning(instrument)) - home + unread)
  }

  private versions(key: Key): EasierVersions {
    const name = keyName(key)
    // In another key the octave is found anew.
    const base = sameKey(key, this.tune.key) ? this.base : this.free
    const found =
      this.byKey.get(name) ??
      new EasierVersions(this.tune, withKey(base, key, this.tune.key), this.o, this.memory, this.source)
    this.byKey.set(name, found)
    return found
  }

  private reads(key: Key, level: Level): boolean {
    const skill = skillOfSignature(key)
    return (skillLevel(skill, this.base.played.instrument, this.o.table) ?? 8) <= level
  }
}

/** For each note of a tune in a key the level does not read. */
const UNREAD = 1

function measured(tune: Tune, key: Key, eased: Eased): InKey {
  const version = applyChanges(tune, playedChanges(eased.recipe.played)).tune
  return { key, eased, kept: keptOf(tune, version, eased.derived.tempo), unchanged: unchanged(tune, version) }
}
