/**
 * One tune brought down to one level, in one key and octave. The line is searched as a whole ({@link
 * searchVersion}), carried out as changes of the recipe, fingered, bowed and graded; what the hand or the bow
 * is then asked too much becomes a cost of the search, and it is searched again, until nothing asks for more.
 */
import type { Arranged } from '#core/arrangement/arrange'
import type { Change } from '#core/arrangement/change'
import type { DeriveContext } from '#core/arrangement/context'
import { arrangedOf, derive, type Derived, type DeriveMemory } from '#core/arrangement/derive'
import { withPlayed, withShown } from '#core/arrangement/edits'
import { tempoOf } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import { gradeOf, skillLevel, type Demand, type Grade, type LevelTable } from '#core/grading/demands'
import { isAbove } from '#core/grading/fit'
import { BOW_WAYS } from '#core/bowing/schools'
import { bowSkills } from '#core/levels/bowSkills'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import type { Level } from '#core/levels/levels'
import { eventOf, type EventId } from '#core/music/ids'
import { alterations, keyCode, type Key } from '#core/music/key'
import { secondsPerQuarter, type Tempo } from '#core/music/metre'
import { inverse, midi, type Midi, type Pitch } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { EasedChange } from './change'
import type { FillingOptions } from './fillings'
import { Lessons } from './lessons'
import { upbeatsTold, withLastHeld } from './upbeats'
import { rhythmsOf } from './rhythms'
import { movedSource, type Source, type SourceNote, type Span } from './source'
import { searchVersion, type Version } from './versionSearch'
import { slurId, slursFor } from './versionSlurs'
import { tempoAt } from './versionTempo'
import { writtenVersion, type WrittenVersion } from './writeVersion'

export interface Eased {
  readonly recipe: Arrangement
  readonly derived: Derived
  readonly grade: Grade
  readonly changes: readonly EasedChange[]
  /** What still asks for more than the level. */
  readonly blocked: readonly Demand[]
  /** Notes no place of the instrument has. */
  readonly off: readonly EventId[]
  /** Share of the written tempo it is to be played at. */
  readonly tempo: number
}

export interface EaseOptions {
  readonly level: Level
  readonly context: DeriveContext
  readonly table?: LevelTable
  /** Notes a second the learner it is for manages, instead of what the level bears. */
  readonly fastest?: number | null
  /** Changes the teacher will not have. */
  readonly refused?: ReadonlySet<string>
  /** So many versions of the same tune were had before: the next best different one. */
  readonly another?: number
  /** Fillings a teacher chose, by id of a group. */
  readonly wanted?: Readonly<Record<EventId, string>>
}

/** Another way for one measure of a version, with the measures alike. */
export interface MeasureChoice {
  readonly recipe: Arrangement
  /** The pitches it has there, as they are played. */
  readonly pitches: readonly Pitch[]
  readonly blocked: number
}

/** Rounds of search and trial. */
const ROUNDS = 12
/** What a filling that was had before costs, each time. */
const HAD = 1.2
/** Seconds a short note lasts at each level where it weighs just what the table says. */
const USUAL_SHORT = [0.375, 0.34, 0.29, 0.26]

/**
 * The line in one key and octave before anything is tried by hand: what it costs there, and what it was found
 * in.
 */
export interface Draft {
  readonly arranged: Arranged
  readonly source: Source
  readonly version: Version | null
  readonly cost: number
}

/** Notes a level has in a key; and of those outside it the ones named, in any octave. */
export type Allowed = (level: Level, key: Key, outside: readonly Pitch[]) => readonly Pitch[]

/** How often a version may come back for each that is passed over, before it is taken as it is. */
const TRIES = 4

export class Easing {
  private readonly base: Arrangement
  private readonly tempo: Tempo
  private readonly lessons: Lessons
  private readonly had = new Map<string, Map<string, number>>()
  private readonly arranged: Arranged
  private readonly source: Source
  private readonly options: FillingOptions
  /** The written event each played one stands for, in the version looked at last. */
  private written: WrittenVersion = { changes: [], told: [], slots: new Map(), sources: new Map() }

  constructor(
    private readonly tune: Tune,
    private readonly given: Arrangement,
    private readonly o: EaseOptions,
    private readonly memory: DeriveMemory,
    private readonly octave: number | null,
    private readonly writtenSource: Source,
    private readonly allowed: Allowed,
  ) {
    const base = given
    this.base = withPlayed(base, { level: o.level, ...(octave !== null && { octave }) })
    const own = tempoOf(tune, base)
    this.tempo = o.fastest == null ? tempoAt(own, tune.metre, o.level, base.played.instrument) : own
    this.arranged = arrangedOf(tune, this.base, o.context, memory)
    const { tune: played } = this.arranged
    this.source = movedSource(writtenSource, inverse(this.arranged.toWritten))
    this.lessons = new Lessons(tune, this.source, o.refused ?? new Set())
    const strings = base.played.tuning ?? homeTuning(base.played.instrument)
    const keys = placeMeasures(played).map(m => m.key)
    const outside = this.notInKey()
    const inKeys = new Map(
      keys.map(k => {
        const inKey = (p: Pitch) => alterations(k)[p.step] === p.alter
        const has = allowed(o.level, k, [...outside.values()])
        return [keyCode(k), heights(has.filter(p => inKey(p) || outside.has(midi(p))))] as const
      }),
    )
    this.options = {
      level: o.level,
      instrument: base.played.instrument,
      table: o.table,
      allowed: measure => inKeys.get(keyCode(keys[measure]!))!,
      open: strings.map(s => s + INSTRUMENTS[base.played.instrument].writtenAbove),
      quickness: Math.min(
        2,
        Math.max(0.5, ((USUAL_SHORT[o.level - 1] ?? 0.26) / (secondsPerQuarter(this.tempo) / 2)) ** 2),
      ),
      refusals: this.lessons.refusals,
      pushes: (skillLevel('syncopation', base.played.instrument, o.table) ?? 8) <= o.level,
    }
  }

  /** Notes of the tune outside the key by height, where the level reads accidentals. */
  private notInKey(): ReadonlyMap<Midi, Pitch> {
    const { key } = this.arranged.tune
    if ((skillLevel('accidental', this.base.played.instrument, this.o.table) ?? 8) > this.o.level)
      return new Map()
    return new Map(
      this.source.notes
        .filter(n => alterations(key)[n.pitch.step] !== n.pitch.alter)
        .map(n => [n.midi, n.pitch]),
    )
  }

  /** Notes of the line the level has no place for; all its notes. */
  get outOfReach(): number {
    return this.source.spans.reduce((n, s) => n + this.outOf(s, 0), 0)
  }
  /** Notes of a group that lie out of reach, so many octaves away. */
  private outOf({ notes, group }: Span, fold: number): number {
    const allowed = this.options.allowed(group.measure.index)
    return notes.filter(n => !allowed.has(n.midi + 12 * fold)).length
  }
  get notes(): number {
    return this.source.notes.length
  }

  /** What the line costs in this key and octave, before it is tried. */
  draft(): Draft {
    const version = this.search()
    return {
      arranged: this.arranged,
      source: this.source,
      version,
      cost: version?.total ?? (this.source.notes.length > 0 ? Infinity : 0),
    }
  }

  run(): Eased {
    this.passOver(this.o.another ?? 0)
    let best: Eased | null = null
    for (let round = 0; round < ROUNDS; round++) {
      const now = this.graded(this.search())
      if (!best || weight(now) <= weight(best)) best = now
      if (now.blocked.length === 0 && now.off.length === 0) return this.slurred(now)
      if (!this.lessons.learn(now, this.written)) break
    }
    return this.slurred(best!)
  }

  private search(): Version | null {
    const wanted = new Map(Object.entries(this.o.wanted ?? {}))
    return searchVersion(this.source, {
      ...this.options,
      folds: this.foldsOf,
      had: this.had,
      wanted,
      known: this.lessons.fillings,
    })
  }

  /**
   * Passes over so many versions: each is remembered until the next search finds one that fills a group
   * otherwise than all of them.
   */
  private passOver(count: number) {
    const seen = new Set<string>()
    for (let tries = 0; count > 0 && tries < TRIES * (count + 1); tries++) {
      const version = this.search()
      const name = version?.fillings.map(f => f.name).join('|') ?? ''
      if (seen.size === count && !seen.has(name)) return
      seen.add(name)
      this.remember(version)
    }
  }

  /** What a version chose costs more from now on, where it chose other than the tune. */
  private remember(version: Version | null) {
    version?.fillings.forEach((f, i) => {
      const { id } = this.source.spans[i]!.group
      if (f.rhythm.own && f.slots.every(s => s.own)) return
      const own = this.had.get(id) ?? new Map<string, number>()
      this.had.set(id, own.set(f.name, (own.get(f.name) ?? 0) + HAD))
    })
  }

  /** A phrase may go an octave away where many of its notes are out of reach, and fewer are there. */
  private readonly foldsOf = (phrase: number): readonly number[] => {
    const own = this.source.spans.filter(s => s.phrase === phrase)
    const out = (fold: number) => own.reduce((n, s) => n + this.outOf(s, fold), 0)
    const here = out(0)
    const notes = own.reduce((n, s) => n + s.notes.length, 0)
    if (here < Math.max(2, MANY * notes)) return [0]
    return [0, ...[-1, 1].filter(f => out(f) * 2 < here)]
  }

  private graded(version: Version | null): Eased {
    const { toWritten } = this.arranged
    const has = {
      rhythm: (span: Span) => rhythmsOf(span.group, this.options).some(r => r.own),
      notes: (span: Span) => this.outOf(span, 0) === 0,
      tried: (span: Span) => this.lessons.refusedIn(span),
      string: (n: SourceNote) => this.options.open.findIndex(open => open <= n.midi),
    }
    const fillings = version ? withLastHeld(version.fillings, this.source, this.lessons.upbeats) : []
    const plainness = this.lessons
    const refused = this.o.refused ?? new Set<string>()
    this.written = writtenVersion(
      this.source,
      fillings,
      toWritten,
      plainness,
      has,
      refused,
      this.lessons.upbeats,
    )
    return this.carriedOut([])
  }

  /** `left`: slurs that offer themselves and that the teacher will not have; they stay in the list. */
  private carriedOut(slurs: readonly EventId[], left: readonly EventId[] = []): Eased {
    const { played } = this.base
    const { level, context, table } = this.o
    const refused = this.o.refused ?? new Set<string>()
    const leave = this.lessons.upbeats.measures.map(({ id, measure }): Change => ({
      id,
      kind: 'pickup',
      accepted: true,
      edit: { do: 'leave', measures: [measure] },
    }))
    const parted = [...this.lessons.parted].filter(id => !refused.has(slurId('unslur', id)))
    const joins = {
      ...Object.fromEntries(parted.map(id => [id, false])),
      ...Object.fromEntries(slurs.map(id => [id, true])),
    }
    const tempo = this.tempoNow()
    const { may } = played.bow
    const has = bowSkills(level)
    // What may be added stays, as far as the level has it; the bow may be set anew at any level.
    const within = { slur: may.slur && has.slur, hook: may.hook && has.hook, part: may.part, lift: true }
    const otherwise = BOW_WAYS.some(w => within[w] !== may[w])
    const bow = otherwise ? { ...played.bow, may: within } : played.bow
    const octave = this.octave
    const clef = this.unreadClef() && INSTRUMENTS[played.instrument].clef
    const shown = clef ? withShown(this.base, { clef }) : this.base
    const recipe = withPlayed(shown, {
      level,
      eased: {
        tempo,
        octave,
        parted,
        ...(slurs.length + left.length > 0 && { slurred: [...slurs, ...left] }),
        ...(otherwise && { bowed: true as const, may }),
        ...(clef && { clef: true as const }),
        ...this.chosen(),
      },
      changes: [...played.changes, ...leave, ...this.written.changes],
      pins: { ...played.pins, joins: { ...played.pins.joins, ...joins } },
      ...(tempo && { tempo }),
      bow,
    })
    const derived = derive(this.tune, recipe, context, this.memory)
    const grade = gradeOf(derived, recipe, table)
    const blocked = grade.demands.filter(d => isAbove(d, level, this.o.fastest ?? null))
    const told = [
      ...upbeatsTold(this.lessons.upbeats),
      ...this.written.told,
      ...parted.map(id => this.toldSlur('unslur', id)),
      ...slurs.map(id => this.toldSlur('slur', id)),
    ]
    const own = secondsPerQuarter(tempoOf(this.tune, this.base))
    return {
      recipe,
      derived,
      grade,
      changes: told.sort((a, b) => a.measure - b.measure),
      blocked,
      off: offOf(derived),
      tempo: Math.round((100 * own) / secondsPerQuarter(derived.tempo)) / 100,
    }
  }

  /** The tune stands in a clef the level does not read, and the teacher asked for none. */
  private unreadClef(): boolean {
    const { instrument } = this.base.played
    const reads = (skillLevel('tenorClef', instrument, this.o.table) ?? 8) <= this.o.level
    return this.arranged.tune.clef === 'tenor' && this.base.shown.clef === null && !reads
  }

  /** What the teacher asked for, to be asked for again. */
  private chosen() {
    const { another = 0, wanted = {} } = this.o
    return { ...(another > 0 && { another }), ...(Object.keys(wanted).length > 0 && { wanted }) }
  }

  /**
   * Other ways for the measure an event stands in and those alike, the best first; what the hand refused
   * stays refused.
   */
  otherwise(event: EventId, count: number): MeasureChoice[] {
    this.run()
    const version = this.search()
    const { spans } = this.source
    const own = spans.find(s => s.group.events.some(e => e.id === event))
    if (!version || !own) return []
    const inMeasure = (s: Span) => s.group.measure === own.group.measure
    const [from, to] = [spans.findIndex(inMeasure), spans.findLastIndex(inMeasure) + 1]
    return version.otherwise(from, to, count).map(({ fillings }) => {
      const names = Object.fromEntries(fillings.map((f, i) => [spans[from + i]!.group.id, f.name]))
      const alike = spans.flatMap(s => {
        const at = spans
          .slice(from, to)
          .findIndex(o => o.like === s.like && o.group.at.n * s.group.at.d === s.group.at.n * o.group.at.d)
        return at < 0 ? [] : [[s.group.id, fillings[at]!.name] as const]
      })
      const wanted = { ...this.o.wanted, ...Object.fromEntries(alike), ...names }
      const made = new Easing(
        this.tune,
        this.given,
        { ...this.o, wanted },
        this.memory,
        this.octave,
        this.writtenSource,
        this.allowed,
      ).run()
      const pitches = fillings.flatMap(f => f.slots.flatMap(s => (s.pitch ? [s.pitch] : [])))
      return { recipe: made.recipe, pitches, blocked: made.blocked.length + made.off.length }
    })
  }

  private toldSlur(kind: 'slur' | 'unslur', note: EventId): EasedChange {
    const source = this.written.sources.get(note) ?? note
    const span = this.source.spans.find(s => s.group.events.some(e => e.id === source))
    return { id: slurId(kind, note), kind, measure: span?.group.measure.number ?? 0, notes: [source] }
  }

  /** Null where it is the tune's own. */
  private tempoNow(): Tempo | null {
    const own = tempoOf(this.tune, this.base)
    const perMinute = Math.max(20, Math.round(this.tempo.perMinute * this.lessons.slower))
    const same =
      perMinute === own.perMinute && this.tempo.beat.n === own.beat.n && this.tempo.beat.d === own.beat.d
    return same ? null : { beat: this.tempo.beat, perMinute }
  }

  /**
   * Slurs of two on one string, from the level that has them on; those that ask for more when they are tried
   * go again.
   */
  private slurred(eased: Eased): Eased {
    const { instrument } = this.base.played
    if ((skillLevel('slur2', instrument, this.o.table) ?? 8) > this.o.level) return eased
    const refused = this.o.refused ?? new Set<string>()
    const all = slursFor(eased.derived).filter(id => !this.lessons.parted.has(id))
    const left = all.filter(id => refused.has(slurId('slur', id)))
    const found = all.filter(id => !left.includes(id))
    if (all.length === 0) return eased
    const tried = this.carriedOut(found, left)
    if (weight(tried) <= weight(eased)) return tried
    const over = new Set(tried.blocked.flatMap(d => d.notes.map(n => n.note)))
    const strokes = tried.derived.bowing.written.filter(s => s.notes.some(n => over.has(n)))
    const again = this.carriedOut(
      found.filter(id => !strokes.some(s => s.tones.includes(id))),
      left,
    )
    return weight(again) <= weight(eased) ? again : this.carriedOut([])
  }
}

/** So large a share of a phrase out of reach that it may go as a whole. */
const MANY = 0.25
const heights = (list: readonly Pitch[]): ReadonlyMap<Midi, Pitch> => new Map(list.map(p => [midi(p), p]))
const offOf = (d: Derived) =>
  d.findings.flatMap(f => (f.severity === 'error' && f.where.note ? [eventOf(f.where.note)] : []))
const weight = (e: Eased) =>
  e.blocked.reduce((n, d) => n + (d.level - 0.5) * d.notes.length, 8 * e.off.length)
