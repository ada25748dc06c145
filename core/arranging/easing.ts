/**
 * One tune brought down to one level: what asks for more is taken note by note and eased where it stands, with the least harmful means first (a slower tempo, plainer
 * notes, fewer of them, another pitch); then everything is derived again, until nothing asks for more or nothing is left to do.
 */
import { groupBy } from '#core/groupBy'
import { isWrittenFor } from '#core/arrangement/arrange'
import type { DeriveContext } from '#core/arrangement/context'
import { derive, type Derived, type DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { tempoOf } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import { gradeOf, type Demand, type Grade, type LevelTable } from '#core/grading/demands'
import { isAbove } from '#core/grading/fit'
import type { Level } from '#core/levels/levels'
import { toNumber } from '#core/music/fraction'
import { eventOf, type EventId } from '#core/music/ids'
import { keyCode, type Key } from '#core/music/key'
import { midi, transposePitch, type Pitch } from '#core/music/pitch'
import { beatStrength, inThrees, secondsPerQuarter, type Tempo } from '#core/music/metre'
import { isNote, placeEvents, placeMeasures, tieOrigins, type Placed } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import { allowedPitches, OF_THE_NOTE } from './allowed'
import { Decisions, type EasedChange } from './decisions'
import { foldsOf } from './fold'
import type { Group } from './groups'
import { COUNTED, hangsOnTwo, NEIGHBOURS, PAIRS, PLAIN, RHYTHMS, SINGLE, SLURS } from './means'
import { nearest } from './nearest'
import { reduced, type Reduction } from './reduce'
import { chordsOver } from './scene'

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
}

/** No slower than this share of the tempo: thinner rather than dragged. */
const SLOWEST = 0.6
const ROUNDS = 16

export class Easing {
  private readonly made: Decisions
  /** Heights a note was already given, its own among them. */
  private readonly tried = new Map<EventId, Set<number>>()
  /** Groups whose rhythm went a step further this time. */
  private readonly stepped = new Set<Group>()
  private readonly allowed = new Map<string, Pitch[]>()

  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly o: EaseOptions,
    private readonly memory: DeriveMemory,
    octave: number | null = null,
  ) {
    this.made = new Decisions(tune, base, o.refused ?? new Set(), octave)
  }

  run(): Eased {
    let best: Eased | null = null
    for (let round = 0; round < ROUNDS; round++) {
      const now = this.graded()
      const done = now.blocked.length === 0 && now.off.length === 0
      if (!best || done || weight(now) <= weight(best)) best = now
      if (done) return this.restored(now)
      this.made.octave ??= this.ownOctave(now.derived)
      const before = this.made.state()
      this.ease(now)
      if (this.made.state() === before) break
    }
    return best!
  }

  /** Notes that have another pitch although the level has their own, for the sake of others, have it again where those have gone. */
  private restored(eased: Eased): Eased {
    let best = eased
    const { tune, toWritten } = eased.derived.arranged
    const has = new Set(placeMeasures(tune).flatMap(m => this.allowedAt(this.o.level, m.key).map(midi)))
    for (const source of this.made.replaced()) {
      const own = this.made.original(source, toWritten)
      if (!own || !has.has(midi(own))) continue
      const back = this.made.restore(source)
      const now = this.graded()
      if (now.blocked.length === 0 && now.off.length === 0) best = now
      else back()
    }
    return best
  }

  /** The same version for the hand of a higher level, in another tempo where one is given. */
  raised(e: Eased, level: Level, tempo: Tempo | null = e.recipe.played.tempo): Eased {
    const eased = e.recipe.played.eased && { ...e.recipe.played.eased, tempo: tempo === this.base.played.tempo ? null : tempo } // prettier-ignore
    const recipe = withPlayed(e.recipe, { level, tempo, ...(eased && { eased }) })
    const derived = derive(this.tune, recipe, this.o.context, this.memory)
    const grade = gradeOf(derived, recipe, this.o.table)
    return {
      ...e,
      recipe,
      derived,
      grade,
      off: offOf(derived),
      blocked: this.above(grade, level),
      tempo: secondsPerQuarter(tempoOf(this.tune, this.base)) / secondsPerQuarter(derived.tempo),
    }
  }

  private above = (g: Grade, level: Level) => g.demands.filter(d => isAbove(d, level, this.o.fastest ?? null))

  /** Everything decided so far, carried out and graded. */
  private graded(): Eased {
    const { recipe, changes } = this.made.carriedOut(this.o.level)
    const derived = derive(this.tune, recipe, this.o.context, this.memory)
    const grade = gradeOf(derived, recipe, this.o.table)
    const blocked = this.above(grade, this.o.level)
    return { recipe, derived, grade, changes, blocked, off: offOf(derived), tempo: this.made.tempo }
  }

  /**
   * One more step for everything that asks for more. Rhythm comes first: a note that goes needs no other pitch, and one that stays is given it between the notes that stay.
   * What hangs on two notes waits until each of them by itself is in the hand.
   */
  private ease({ blocked, off, derived }: Eased) {
    const before = this.made.state()
    this.stepped.clear()
    this.easeAll(blocked.filter(isOfRhythm), derived)
    const rhythm = this.made.state() !== before
    this.easeAll(
      blocked.filter(d => !isOfRhythm(d) && !isOfPitch(d)),
      derived,
    )
    if (rhythm || this.fold(blocked, off, derived)) return
    this.replace(off, derived)
    this.easeAll(
      blocked.filter(d => isOfPitch(d) && !hangsOnTwo(d)),
      derived,
    )
    if (this.made.state() === before) this.easeAll(blocked.filter(hangsOnTwo), derived)
  }

  private easeAll(demands: readonly Demand[], derived: Derived) {
    for (const d of demands) {
      if (d.asked.kind === 'limit') this.easeLimit(d, derived)
      else this.easeSkill(d.asked.skill, d, derived)
    }
  }

  private easeSkill(skill: string, d: Demand, derived: Derived) {
    const each = (how: Reduction) => this.heldBy(d, derived).forEach(n => this.made.add(n, how))
    if (PLAIN.has(skill)) each({ plain: true })
    else if (SINGLE.has(skill)) each({ single: true })
    else if (skill === 'fastBow') this.slowDown(d)
    else if (skill === 'cutTime') this.made.inFour = true
    else if (skill === 'eighths') each({ thin: 2 })
    else if (skill === 'syncopation') this.onTheBeat(this.heldBy(d, derived))
    else if (RHYTHMS.has(skill)) this.simplify(this.heldBy(d, derived))
    else if (skill === 'pickup')
      this.made.groups.filter(g => g.pickup && g.measure.index === 0).forEach(this.made.silence)
    else if (SLURS.has(skill)) this.partSlurs(derived, d)
    else if (skill === 'shapeChange') this.replace(this.oddOnes(notesOf(d), derived), derived)
    else if (OF_THE_NOTE.has(skill) || NEIGHBOURS.has(skill))
      this.replace(notesOf(d), derived, { pair: PAIRS.has(skill), atHome: skill.startsWith('shift') })
  }

  /** In the phrases where a finger changes its place: of its places all but the one that carries most of the phrase. */
  private oddOnes(asking: readonly EventId[], { form, fingering }: Derived): EventId[] {
    const asks = new Set(asking)
    return form.phrases.filter(p => p.events.some(id => asks.has(id))).flatMap(p => {
      const weights = new Map(p.notes.filter(isNote).map(n => [n.event.id, weightOf(n)]))
      const stopped = fingering.notes.filter(n => n.finger !== 0 && weights.has(eventOf(n.id)))
      return [...groupBy(stopped, n => `${n.anchor} ${n.finger}`).values()].flatMap(one => {
        const places = [...groupBy(one, n => n.mark).values()]
        const carried = places.map(list => list.reduce((w, n) => w + (1 + weights.get(eventOf(n.id))!) * (n.mark === 'home' ? AT_HOME : 1), 0))
        return places.filter((_, i) => i !== carried.indexOf(Math.max(...carried))).flat().map(n => eventOf(n.id))
      })
    }) // prettier-ignore
  }

  private easeLimit(d: Demand, derived: Derived) {
    if (d.asked.kind !== 'limit') return
    if (d.asked.limit === 'notesPerBow') return this.partSlurs(derived, d)
    if (d.asked.limit === 'leap') return this.replace(notesOf(d), derived, { pair: true })
    if (d.asked.limit === 'shiftsPerPhrase') return this.replace(notesOf(d), derived, { atHome: true })
    this.slowDown(d)
  }

  /** First slower, as far as it still goes; then thinner where it is quickest. */
  private slowDown(d: Demand) {
    const { made } = this
    if (made.tempo > SLOWEST) made.tempo = Math.max(SLOWEST, Math.round((made.tempo - 0.1) * 100) / 100)
    else for (const n of d.notes) this.thinner(n.note)
  }

  /** The notes that ask, and those they are tied to. */
  private heldBy(d: Demand, { tune }: Derived): EventId[] {
    const own = new Set(d.notes.map(n => n.note))
    return [
      ...own,
      ...[...tieOrigins(placeEvents(tune))].flatMap(([id, from]) => (own.has(from) ? [id] : [])),
    ]
  }

  /** Where nothing is left to thin, the notes before it give way. */
  private thinner(note: EventId) {
    const own = this.made.groupAt(note)
    const before = own && this.made.groups[this.made.groups.indexOf(own) - 1]
    const g = own && !reduced(own, { thin: 2 }) && before ? before : own
    if (g) this.made.add(g.id, { thin: this.made.of(g).thin ? 2 : 1 })
  }

  /** Pushed notes go to their beats; what is still off them then is thinned. */
  private onTheBeat(notes: readonly EventId[]) {
    for (const note of notes) {
      const g = this.made.groupAt(note)
      if (!g || this.stepped.has(g)) continue
      for (const like of this.made.alike(g)) this.stepped.add(like)
      this.made.add(note, this.made.of(g).onBeat ? { thin: 2 } : { onBeat: true })
    }
  }

  /** One step further, as long as it is asked: pairs evened out, two notes to the beat, one. The first year has no halves of a beat, but its thirds. */
  private simplify(notes: readonly EventId[]) {
    for (const note of notes) {
      const g = this.made.groupAt(note)
      if (!g || this.stepped.has(g)) continue
      for (const like of this.made.alike(g)) this.stepped.add(like)
      const is = this.made.of(g)
      if (!is.even && reduced(g, { even: true })) this.made.add(note, { even: true })
      else {
        const whole = this.o.level === 1 && !inThrees(g.measure.metre)
        this.made.add(note, { even: true, thin: is.thin || whole ? 2 : 1 })
      }
    }
  }

  /** Every slur that asks for more loses its notes but the first. */
  private partSlurs({ bowing }: Derived, d: Demand) {
    const asking = new Set(d.notes.map(n => n.note))
    for (const s of bowing.written)
      if (s.notes.some(n => asking.has(n))) for (const id of s.tones.slice(1)) this.made.parted.add(id)
  }

  /** The notes of a key that a level has. */
  private allowedAt(level: Level, key: Key): Pitch[] {
    const name = `${level} ${keyCode(key)}`
    const known = this.allowed.get(name)
    if (known) return known
    const found = allowedPitches(key, this.base, level, this.o.context, this.memory, this.o.table)
    this.allowed.set(name, found)
    return found
  }

  /** Found by itself it is kept from then on; null where it is given or written. */
  private ownOctave({ arranged }: Derived): number | null {
    const { octave, instrument } = this.base.played
    return octave !== 'auto' || isWrittenFor(this.tune, instrument) ? null : arranged.octave
  }

  /** Sends phrases that lie out of the hand an octave away, each once. True where one went. */
  private fold(blocked: readonly Demand[], off: readonly EventId[], { form, arranged }: Derived): boolean {
    const asking = new Set([...off, ...blocked.filter(isOfTheNote).flatMap(notesOf)])
    if (asking.size === 0) return false
    const folds = foldsOf(form.phrases, asking, this.allowedAt(this.o.level, arranged.tune.key))
    return folds.filter(f => this.made.fold(f.notes, f.by)).length > 0
  }

  /** Other pitches for the notes that lie out of the hand: near, keeping the line's way, a chord tone where one is near. */
  private replace(notes: readonly EventId[], derived: Derived, { pair = false, atHome = false } = {}) {
    if (notes.length === 0) return
    const { tune, toWritten } = derived.arranged
    // Where the hand moves too often a note is wanted for which it need not.
    const level = atHome ? (Math.min(2, this.o.level) as Level) : this.o.level
    const line = placeEvents(tune).filter(isNote)
    const chords = chordsOver(tune)
    const ends = new Set(derived.form.phrases.flatMap(p => p.notes.filter(isNote).at(-1)?.event.id ?? []))
    const origins = tieOrigins(line)
    for (const asking of notes) {
      // What is tied on is one note with what it is tied to.
      const first = origins.get(asking) ?? asking
      const at = line.findIndex(p => p.event.id === first)
      if (at < 0) continue
      // Of two notes that ask together the one that carries less gives way.
      const i = pair && at > 0 && weightOf(line[at - 1]!) < weightOf(line[at]!) ? at - 1 : at
      const note = line[i]!.event.id
      const source = this.made.written(note)
      const own = this.made.original(source, toWritten) ?? line[i]!.event.heads.at(-1)!.pitch
      const tried = this.tried.get(source) ?? new Set([midi(own)])
      this.tried.set(source, tried.add(midi(line[i]!.event.heads.at(-1)!.pitch)))
      const [before, after] = [line[i - 1], line[i + 1]].map(p => p?.event.heads.at(-1)!.pitch)
      const found = nearest(
        {
          own,
          before,
          after,
          strong: isStrong(line[i]!),
          end: ends.has(note) || isLong(line[i]!),
          chord: chords.get(note) ?? [],
        },
        this.allowedAt(level, line[i]!.measure.key).filter(p => !tried.has(midi(p))),
      )
      // Where no note will do, fewer do.
      if (!found || tried.size > MOST_TRIED) this.thinner(source)
      else for (const id of tiedTo(note, origins)) this.made.add(id, { pitches: { [this.made.written(id)]: transposePitch(found, toWritten) } }) // prettier-ignore
    }
  }
}

const isOfRhythm = ({ asked }: Demand) => asked.kind === 'skill' && (RHYTHMS.has(asked.skill) || COUNTED.has(asked.skill)) // prettier-ignore
const isOfTheNote = ({ asked }: Demand) => asked.kind === 'skill' && OF_THE_NOTE.has(asked.skill)
const isOfPitch = (d: Demand) => isOfTheNote(d) || hangsOnTwo(d) || (d.asked.kind === 'skill' && NEIGHBOURS.has(d.asked.skill)) // prettier-ignore

const notesOf = (d: Demand) => d.notes.map(n => n.note)
const offOf = (d: Derived) => d.findings.flatMap(f => (f.severity === 'error' && f.where.note ? [eventOf(f.where.note)] : [])) // prettier-ignore

const weight = (e: Eased) =>
  e.blocked.reduce((n, d) => n + (d.level - 0.5) * d.notes.length, 8 * e.off.length)

/** A note and all that is tied to it. */
const tiedTo = (note: EventId, origins: ReadonlyMap<string, string>) => [
  note,
  ...[...origins].flatMap(([id, from]) => (from === note ? [id as EventId] : [])),
]

/** Of two places of a finger the one at home, where the rest of the tune has it, counts more. */
const AT_HOME = 1.5

/** After so many other notes the place is thinned. */
const MOST_TRIED = 4

const weightOf = (p: Placed) => beatStrength(p.measure.felt, p.inMeasure) + Math.min(1, toNumber(p.event.duration) / 2) // prettier-ignore
const isStrong = (p: Placed) => beatStrength(p.measure.felt, p.inMeasure) >= 2
/** Two beats and more on a strong one: as much a goal of the line as the end of a phrase. */
const isLong = (p: Placed) => isStrong(p) && toNumber(p.event.duration) >= 2
