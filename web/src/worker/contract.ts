/** What page and worker say to each other: plain data only. */
import type { BowTasteDocument, TasteDocument } from '#core/instruments/taste'
import type { DeriveContext } from '#core/arrangement/context'
import type { Stands } from '#core/arrangement/taughtPlayed'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Stroke } from '#core/bowing/stroke'
import type { Crossing, Shift, Span } from '#core/fingering/derived'
import type { Finger, MarkKind } from '#core/instruments/hands'
import type { Finding } from '#core/findings/finding'
import type { ChordProposal } from '#core/form/chords'
import type { Ending, Kin } from '#core/form/form'
import type { Overlay } from '#core/teach/overlay'
import type { Plan } from '#core/form/plan'
import type { Role } from '#core/form/roles'
import type { EventId, NoteId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import type { Interval } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import type { HandComparison } from '#core/teach/compareHands'
import type { SheetContent } from '#core/paper/content'
import type { SpiceKind } from '#core/arranging/spices'
import type { Learner } from '#core/instruments/learner'
import type { MeasureChoice } from '#core/arranging/easing'
import type { Kept } from '#core/arranging/kept'
import type { PartChoice } from '#core/arranging/parts'
import type { Level } from '#core/levels/levels'
import type { Grade, LevelTable } from '#core/grading/demands'
import type { KeyQuestion, KeyRow } from '#core/grading/keyRows'
import type { BowReport } from '#core/teach/bowReport'
import type { HandReport } from '#core/teach/handReport'
import type { TuningEffect } from '#core/arrangement/tuningEffect'
import type { Tuning } from '#core/instruments/tunings'
import type { BookEntry } from '#core/formats/abc/book'
import type { FileOptions, FileTune, ReadFile } from '#core/formats/readFile'
import type { WrittenFile } from '#core/formats/writeFile'
import type { WritableFormat } from '#core/formats/fileKinds'
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

export interface PartView {
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

/** Everything the stations draw, derived from a tune and a recipe. */
export interface BenchResult {
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
  readonly parts: readonly PartView[]
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
export type VersionKey = 'own' | 'best'

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
  /** What the tune comes to, when a recipe was given. */
  readonly derived: BenchResult | null
}

/** A file with the fingerprint of each of its tunes. */
export interface FileResult extends ReadFile {
  readonly prints: readonly MelodyPrint[]
  /**
   * A book so long that it is only listed: its tunes are read when they are asked for ({@link
   * CoreService.tunesOfBook}).
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

/**
 * Plain data as JSON text. The browser copies one text in a fraction of the time it takes to copy thousands
 * of small objects, and they hold nothing that JSON can't. Inverse: {@link unpack}.
 */
export type Packed<T> = string & { readonly holds?: T }
export const pack = <T>(value: T): Packed<T> => JSON.stringify(value)
export const unpack = <T>(text: Packed<T>): T => JSON.parse(text) as T

/** What nearly every question is about: a tune, what is made of it, and what is known of hands. */
export interface Asked {
  readonly tune: Tune
  readonly recipe: Arrangement
  readonly context: DeriveContext
}

/** Implemented by the worker ({@link ./core.worker.ts}), called through {@link ./client.ts}. */
export interface CoreService {
  derive(asked: Asked): Packed<BenchResult>
  inspect(asked: Asked, note: NoteId): NoteReport | null
  /**
   * Reads typed text; ids of `previous` are kept where the music stayed. With a recipe, what it comes to is
   * told too. Inverse: {@link CoreService.write}.
   */
  read(text: string, previous: Tune | null, made: Omit<Asked, 'tune'> | null): Promise<Packed<SourceResult>>
  write(tune: Tune): { text: string; findings: readonly Finding[] }
  /** The arrangement as string-and-finger text. Inverse: {@link CoreService.listen}. */
  speak(asked: Asked): { text: string; findings: readonly Finding[] }
  /** What is said is what is played: it comes back as an edit of what is written. */
  listen(text: string, asked: Asked): SpokenResult
  /** What the Bow station says beside the strokes. */
  bow(asked: Asked): Packed<BowView>
  /**
   * A studio's taste, with what the fingers, or the bow marks, set in this arrangement say of it. `id` names
   * tune and arrangement.
   */
  decide(asked: Asked, id: string, taste: TasteDocument): TasteDocument
  decideBow(asked: Asked, id: string, taste: BowTasteDocument): BowTasteDocument
  /** What follows from its decisions with other traits switched off. */
  relearn(taste: TasteDocument): TasteDocument
  relearnBow(taste: BowTasteDocument): BowTasteDocument
  /** What the arrangement asks for, and its level. */
  grade(asked: Asked, table: LevelTable): Packed<GradeView>
  /**
   * The arrangement brought down to a level; `fastest`: notes a second the learner it is for manages, null
   * for what the level bears.
   */
  easier(
    asked: Asked,
    level: Level,
    key: VersionKey,
    table: LevelTable,
    fastest: number | null,
    another?: number,
  ): Packed<Arrangement>
  /** Three other ways for the measure of a written event, in a version. */
  otherwise(
    asked: Asked,
    event: string,
    table: LevelTable,
    fastest: number | null,
  ): Packed<readonly MeasureChoice[]>
  /** The arrangement with these spices and no others, as far as a level has them. */
  enrich(asked: Asked, spices: readonly SpiceKind[], level: Level, table: LevelTable): Packed<Arrangement>
  /** The tune as it is written, for a learner. */
  reach(tune: Tune, learner: Learner, context: DeriveContext, table: LevelTable): Packed<ReachView>
  /** The tune in one key on one instrument, a row for each tuning it fits. */
  tryKey(
    tune: Tune,
    question: KeyQuestion,
    context: DeriveContext,
    table: LevelTable,
  ): Packed<readonly KeyRow[]>
  /** What the sheet holds beside its music. */
  sheet(asked: Asked): Packed<SheetContent>
  /** The strokes alone, of a recipe that is only being tried. */
  strokes(asked: Asked): Packed<readonly StrokeView[]>
  /**
   * What the Hand station says beside the fingers; for the phrase that begins with an event, or all of it.
   */
  hand(asked: Asked, question: HandQuestion): Packed<HandReport>
  /** The fingers of two arrangements of the tune side by side. */
  compareHands(asked: Asked, other: Arrangement): Packed<HandComparison>
  /** What tunings do to this tune: the home one first, then as asked. */
  tunings(asked: Asked, list: readonly Tuning[]): readonly TuningEffect[]
  /** Any file, or pasted text, with all its tunes. Inverse: {@link CoreService.writeFile}. */
  readFile(name: string, bytes: Uint8Array, options?: FileOptions): Promise<Packed<FileResult>>
  /** Tunes of the book that was listed last, by their places in it. */
  tunesOfBook(which: readonly number[]): Promise<Packed<BookPart>>
  /** With a recipe what is played is written, without one what is written. */
  writeFile(
    format: WritableFormat,
    tune: Tune,
    recipe: Arrangement | null,
    context: DeriveContext,
  ): Promise<WrittenFile>
  watch(asked: Asked): WatchResult
  /** The way to learn the tune, and what its phrases are made of. */
  teach(asked: Asked): Teaching
  /** Two phrases, by their first events, laid over each other. */
  overlay(asked: Asked, first: EventId, second: EventId): Overlay | null
}
