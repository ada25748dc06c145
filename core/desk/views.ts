/** What the desk answers: plain data only. */
import type { Stands } from '#core/arrangement/taughtPlayed'
import type { Stroke } from '#core/bowing/stroke'
import type { Crossing, Shift, Span } from '#core/fingering/derived'
import type { Finger, MarkKind } from '#core/instruments/hands'
import type { Key } from '#core/music/key'
import type { Finding } from '#core/findings/finding'
import type { ChordProposal } from '#core/form/chords'
import type { Ending, Kin } from '#core/form/form'
import type { Plan } from '#core/form/plan'
import type { Role } from '#core/form/roles'
import type { EventId, NoteId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import type { Interval } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import type { Kept } from '#core/arranging/kept'
import type { PartChoice } from '#core/arranging/parts'
import type { Level } from '#core/levels/levels'
import type { Grade } from '#core/grading/demands'
import type { BowReport } from '#core/teach/bowReport'
import type { BookEntry } from '#core/formats/abc/book'
import type { FileTune, ReadFile } from '#core/formats/readFile'
import type { MelodyPrint } from '#core/melody/print'
import type { TabModel } from '#core/tablature/tabModel'
import type { WarmUp } from '#core/watch/warmUps'
import type { WatchReport } from '#core/watch/watch'
import type { FingerPin } from '#core/fingering/fingerPin'

export interface NoteView {
  readonly id: NoteId
  readonly event: EventId
  readonly measure: number
  readonly pitch: string
  readonly string: number
  readonly finger: Finger
  readonly offset: number
  readonly anchor: number
  readonly mark: MarkKind
  readonly harmonic?: true
  readonly position: string
  readonly tied: boolean
  /** Seconds-free time in quarters from the start of the tune. */
  readonly start: number
  readonly length: number
}

export interface PhraseView {
  readonly id: EventId
  readonly label: string
  readonly name: string
  readonly family: number
  readonly variant: number
  readonly bars: number
  readonly events: readonly EventId[]
  readonly start: number
  readonly end: number
  /** Note heights from 0 (lowest) to 1, and times from 0 to 1, for the dot contour. */
  readonly contour: readonly (readonly [time: number, height: number])[]
  /** The nearest first. */
  readonly kin: readonly Kin[]
  readonly role: Role
  readonly endings: readonly Ending[]
}

export interface FormPartView {
  readonly label: string
  readonly repeated: boolean
  /** Note for note an earlier part. */
  readonly again: boolean
  readonly phrases: readonly PhraseView[]
}

/** What is shown of a stroke. */
export type StrokeView = Pick<
  Stroke,
  | 'notes'
  | 'measure'
  | 'direction'
  | 'from'
  | 'to'
  | 'lift'
  | 'hook'
  | 'added'
  | 'strings'
  | 'seconds'
  | 'restBefore'
  | 'why'
  | 'cost'
>

/** Everything the stations draw of a part. */
export interface DerivedView {
  readonly tune: Tune
  /** What is engraved where it is not `tune`: a cross-tuning written as the fingers fall. */
  readonly shown?: Tune
  readonly tempo: Tempo
  readonly octave: number
  /** From a played pitch back to a written one. */
  readonly toWritten: Interval
  /** For every event a change made: the written events it stands for. */
  readonly origin: Readonly<Record<string, readonly EventId[]>>
  /** For events that changes made: the written one that begins at the same time. */
  readonly stands: Stands
  readonly notes: readonly NoteView[]
  readonly shifts: readonly Shift[]
  readonly crossings: readonly Crossing[]
  readonly holds: readonly Span[]
  readonly blocks: readonly Span[]
  readonly strokes: readonly StrokeView[]
  readonly joined: readonly EventId[]
  readonly parts: readonly FormPartView[]
  readonly findings: readonly Finding[]
  /** Names of the strings, the highest first. */
  readonly strings: readonly string[]
  readonly tab: TabModel
  /** Ids of the pins' notes that no longer exist are not here. */
  readonly events: readonly EventId[]
}

export interface BowView extends Omit<BowReport, 'later'> {
  readonly later: readonly StrokeView[]
}

/** What an arrangement asks for; where it changes notes, what is left of the tune. */
export interface GradeView {
  readonly grade: Grade
  readonly kept: Kept | null
  /** What may be left out. */
  readonly parts: readonly PartChoice[]
}

/** A tune as one learner would meet it. */
export interface ReachView {
  /** Nothing beyond them, and few new things. */
  readonly within: boolean
  readonly level: Level
  /** Skills that are new, by id. */
  readonly news: readonly string[]
}

/** Which key a version is made in: the one in use, or the one where its level lies best. */
/** The key of the arrangement, the one that suits its hand and instrument best, or this one. */
export type VersionKey = 'own' | 'best' | Key

export interface AlternativeView {
  readonly string: number
  readonly finger: Finger
  readonly extra: number
  readonly changes: number
  /**
   * What the whole line gains and loses with it; null where shifts, crossings and open strings stay the same.
   */
  readonly trade: string | null
  readonly differences: readonly { readonly name: string; readonly amount: number }[]
}

/** The inspector's answer for one note. */
export interface NoteReport {
  readonly id: NoteId
  readonly why: string
  readonly cost: Readonly<Record<string, number>>
  /** Notes that repeat it in kin phrases, itself among them. */
  readonly alike: readonly NoteId[]
  readonly alternatives: readonly AlternativeView[]
}

export interface HandQuestion {
  readonly phrase: EventId | null
  readonly drone: number | null
}

export interface SourceResult {
  readonly tune: Tune | null
  readonly findings: readonly Finding[]
  /** Character offsets of events in the text. */
  readonly spans: readonly (readonly [id: string, from: number, to: number])[]
  readonly tunesInText: number
  /** What the part comes to with it, where that was asked. */
  readonly derived: DerivedView | null
}

/** A file with the fingerprint of each of its tunes. */
export interface FileResult extends ReadFile {
  readonly prints: readonly MelodyPrint[]
  /**
   * A book so long that it is only listed: its tunes are read when they are asked for ({@link
   * Desk.tunesOfBook}).
   */
  readonly listed: readonly BookEntry[] | null
}

/** Some tunes of the book that was opened last. */
export interface BookPart {
  readonly tunes: readonly FileTune[]
  readonly prints: readonly MelodyPrint[]
}

/** String-and-finger text, heard. */
export interface SpokenResult {
  readonly tune: Tune | null
  readonly pins: Readonly<Record<string, FingerPin>>
  readonly findings: readonly Finding[]
  readonly spans: SourceResult['spans']
}

export interface WatchResult extends WatchReport {
  readonly warmUps: readonly WarmUp[]
}

export interface Teaching {
  readonly plan: Plan
  /** By the first event of a phrase: its figures, in words. */
  readonly figures: Readonly<Record<string, readonly string[]>>
  /** Chords of the tune as it is written, not as it is arranged. */
  readonly chords: readonly ChordProposal[]
}
