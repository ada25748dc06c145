/** What is asked of a bowing and what comes of it: options, strokes, and the whole. */
import type { Finding } from '#core/findings/finding'
import type { Mm } from '#core/instruments/instruments'
import type { BowTaste } from '#core/instruments/taste'
import type { EventId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { Habit, Habits } from './habits'
import type { BowPlan, Direction, Way } from './line'
import type { StrokePin } from './pins'
import type { BowWay, May } from './schools'
import type { BowSearch, Searches } from './search'
import type { BowTone } from './tones'

export interface BowingOptions {
  readonly instrument: InstrumentId
  readonly tempo: Tempo
  /** Playable hair. */
  readonly hair: Mm
  /** Slurs of the tune, changed by the recipe: ids of events in the bow of the event before. */
  readonly joined: ReadonlySet<EventId>
  /** The directions written in the tune are for other strokes. */
  readonly rebowed?: boolean
  readonly planOf: (event: EventId) => BowPlan
  readonly may: May
  readonly habits: Habits
  readonly pins: Readonly<Record<EventId, StrokePin>>
  readonly joins: Readonly<Record<EventId, boolean>>
  /** First events of phrases, and for each the first event of the phrase it is kin to. */
  readonly phrases: ReadonlyMap<EventId, EventId | null>
  /** String of the top note of an event, 0 the highest. */
  readonly stringOf: (event: EventId) => number
  /** Name of the part a measure lies in. */
  readonly partOf: (measureIndex: number) => string | undefined
  /** What the teacher has more or less taste for than our weights. */
  readonly taste?: BowTaste
}

export interface Stroke {
  /** Event ids under this bow, in order, ties included. */
  readonly notes: readonly EventId[]
  /** Events that begin a tone: ties left out. */
  readonly tones: readonly EventId[]
  readonly seconds: number
  readonly restBefore: number
  readonly loudness: number
  readonly accent: boolean
  readonly strength: number
  readonly measure: number
  readonly measureIndex: number
  readonly pass: number
  readonly direction: Direction
  /** Place on the bow at the start and the end: 0 the frog, 1 the tip. */
  readonly from: number
  readonly to: number
  readonly way: Exclude<Way, 'slur'>
  /** The bow is lifted and set back before this stroke; or it goes on the same way, stopped. */
  readonly lift: boolean
  readonly hook: boolean
  /** What Nokta added: the events slurred on, hooked, lifted or parted without a mark saying so. */
  readonly added: readonly AddedMark[]
  /** Strings it sounds on, in order, each once. */
  readonly strings: readonly number[]
  readonly why: StrokeWhy
  readonly cost: StrokeCost
}

export interface AddedMark {
  readonly note: EventId
  readonly way: BowWay
}

export interface Bowing {
  /** In playing order, repeats unfolded. */
  readonly strokes: readonly Stroke[]
  /** The strokes of the first time through each measure: what is written on the page. */
  readonly written: readonly Stroke[]
  readonly findings: readonly Finding[]
  /** What it was found from, and the search itself: to go on from. */
  readonly problem: BowProblem
  readonly search: BowSearch
  readonly searches: Searches
}

export interface BowProblem {
  readonly tune: Tune
  readonly tones: readonly BowTone[]
  readonly options: BowingOptions
}

/** What a stroke costs, by name; only what is not nothing. */
export type StrokeCost = Readonly<
  Partial<Record<'direction' | 'slur' | 'hook' | 'lift' | 'turn' | 'time' | 'length', number>>
>

export type StrokeWhy =
  | { readonly is: 'start' | 'pickup' | 'leadIn' | 'turn' | 'pinned' | 'marked' | 'written' | 'parted' }
  | { readonly is: 'lift'; readonly room: 'rest' | 'comma' | 'breath' }
  /** Hooked or slurred so that the next first beat, in this measure, comes down. */
  | {
      readonly is: 'hook' | 'slur'
      readonly because: 'dotted' | 'longShort' | 'triplet' | 'evens'
      readonly measure: number | null
    }
  | { readonly is: 'syllable' | 'pattern' | 'phrase' }
  | ({ readonly is: 'habit' } & Habit)

/** Seconds one bow of full length bears when it sings: thick strings and short bows bear less. */
const BEARING: Readonly<Record<InstrumentId, number>> = { violin: 3.6, viola: 3.3, cello: 2.75, bass: 2.25 }
const FULL_HAIR: Readonly<Record<InstrumentId, Mm>> = { violin: 650, viola: 640, cello: 600, bass: 560 }

/** A smaller bow bears less, in proportion to its hair. */
export const bearingOf = ({ instrument, hair }: Pick<BowingOptions, 'instrument' | 'hair'>) =>
  (BEARING[instrument] * hair) / FULL_HAIR[instrument]
