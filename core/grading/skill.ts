/**
 * A skill: what it is called, whose it is, what comes before it, and the notes of an arrangement that ask for
 * it.
 */
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import type { Level } from '#core/levels/levels'
import type { Facts, NoteRef } from './facts'

export const DOMAINS = ['left hand', 'two strings', 'bow', 'rhythm', 'ornament', 'reading'] as const
export type Domain = (typeof DOMAINS)[number]

/**
 * The level a skill belongs to, by instrument: the late fourth finger of violin and viola is the cellist's
 * first.
 */
export type LevelOf = Readonly<Partial<Record<InstrumentId, Level>>>

/**
 * What makes an easier version ask it no more: the mark is taken off, one string is left of two, slurs are
 * parted, it goes slower, upbeats go, another rhythm, another hand for the phrase, another pitch for the weaker
 * of two neighbours, another pitch for a note whose own place asks it ("place"), or for one that asks it
 * together with others ("pitch"). Nothing, where the tune as a whole asks.
 */
export type Means =
  | 'off'
  | 'oneString'
  | 'slurs'
  | 'slower'
  | 'upbeats'
  | 'rhythm'
  | 'shape'
  | 'neighbour'
  | 'place'
  | 'pitch'
  | 'nothing'

export interface Skill {
  readonly id: string
  readonly eased: Means
  readonly domain: Domain
  /** As it is said: "low 2", "a slur of two notes". */
  readonly title: string
  /** One sentence for the teacher. */
  readonly says: string
  /** Skills that come before it. */
  readonly after: readonly string[]
  /** Instruments it belongs to are those with a level. */
  readonly levels: LevelOf
  /** It is asked by the tune as a whole (its key, its clef), not by one place more than another. */
  readonly ofTune?: boolean
  /** The notes that ask for it. */
  readonly asks: (f: Facts) => readonly NoteRef[]
}

/** A skill with its own id, and those before it, known to the compiler. */
export type SkillRow<Id extends string, After extends string> = Omit<Skill, 'id' | 'after'> & {
  readonly id: Id
  readonly after: readonly After[]
}

/** The rows of one domain: what each skill is, from its id to who asks for it. */
export const skillsOf =
  (domain: Domain) =>
  <const I extends string, const A extends string>(
    id: I,
    eased: Means,
    title: string,
    says: string,
    after: readonly A[],
    /** By instrument, or one for all. */
    at: LevelOf | Level,
    asks: Skill['asks'],
    ofTune = false,
  ): SkillRow<I, A> => ({
    id,
    eased,
    domain,
    title,
    says,
    after,
    levels: typeof at === 'number' ? forAll(at) : at,
    asks,
    ofTune,
  })

/** Levels for violin and viola, cello, bass. */
export const levels = (upper: Level | null, cello: Level | null, bass: Level | null): LevelOf => ({
  ...(upper && { violin: upper, viola: upper }),
  ...(cello && { cello }),
  ...(bass && { bass }),
})
export const forAll = (level: Level): LevelOf =>
  Object.fromEntries(INSTRUMENT_IDS.map(i => [i, level])) as LevelOf
