/** What is decided about a tune on its way down to a level: which groups of notes become what, and what goes for all of it. Carried out it is a recipe. */
import type { Change } from '#core/arrangement/change'
import { withPlayed } from '#core/arrangement/edits'
import { tempoOf } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Level } from '#core/levels/levels'
import { frac, toNumber } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import type { Tempo } from '#core/music/metre'
import { inverse, transposePitch, type Interval, type Pitch } from '#core/music/pitch'
import { octaveShift } from '#core/music/transpose'
import type { NoteEvent, Tune } from '#core/music/tune'
import type { MadeChange } from './change'
import { contentOf, groupsOf, type Group } from './groups'
import { kindOf, reduced, sameLength, type Reduction, type ReductionKind } from './reduce'

export interface EasedChange extends MadeChange {
  readonly kind: ReductionKind | 'unslur'
}

export class Decisions {
  readonly groups: readonly Group[]
  /** Ids of notes that no longer lie in the bow of the one before. */
  readonly parted = new Set<EventId>()
  /** Share of the tempo it is played at. */
  tempo = 1
  /** The half note is no longer the beat. */
  inFour = false
  /** The group each written event lies in. */
  private readonly groupOf = new Map<EventId, Group>()
  /** The groups with the same notes at the same place of measures with the same notes, itself too: what is learned once is changed once. */
  private readonly same = new Map<Group, readonly Group[]>()
  private readonly todo = new Map<string, Reduction>()
  /** Notes of phrases played an octave away, by how far. */
  private readonly folded = new Map<EventId, Interval>()
  /** By id of an event a change made: the written one it comes from. */
  private sources = new Map<EventId, EventId>()

  /**
   * @param refused ids of changes the teacher will not have
   * @param octave changes are of notes in one octave: null until it is found
   */
  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly refused: ReadonlySet<string>,
    public octave: number | null,
  ) {
    this.groups = groupsOf(tune)
    const byContent = new Map<string, Group[]>()
    for (const g of this.groups) {
      for (const e of g.events) this.groupOf.set(e.id, g)
      const key = contentOf(g)
      const list = byContent.get(key) ?? []
      list.push(g)
      byContent.set(key, list)
      this.same.set(g, list)
    }
  }

  /** Tells whether anything was decided since. */
  state = () => JSON.stringify([[...this.todo], [...this.parted], this.tempo, this.inFour, this.octave])

  /** The written event that one of the version stands for. */
  written = (note: EventId): EventId => this.sources.get(note) ?? note
  groupAt = (note: EventId): Group | undefined => this.groupOf.get(this.written(note))
  alike = (g: Group): readonly Group[] => this.same.get(g)!
  of = (g: Group): Reduction => this.todo.get(g.id) ?? {}

  /** For the note's group and those alike. */
  add(note: EventId, how: Reduction) {
    const own = this.groupAt(note)
    if (!own) return
    const { fold } = this.of(own)
    for (const g of this.alike(own)) {
      const is = this.of(g)
      if (is.fold !== fold) continue
      const thin = Math.max(is.thin ?? 0, how.thin ?? 0)
      const there = (id: EventId) => g.events[own.events.findIndex(e => e.id === id)]!.id
      const pitches = Object.fromEntries(Object.entries(how.pitches ?? {}).map(([id, p]) => [there(id), p]))
      this.todo.set(g.id, { ...is, ...how, ...(thin > 0 && { thin: thin as 1 | 2 }), pitches: { ...is.pitches, ...pitches } }) // prettier-ignore
    }
  }

  /** Written notes that have another pitch by themselves, not with their phrase; of those alike the first. */
  replaced(): EventId[] {
    return this.groups.flatMap(g => {
      const { fold, pitches = {} } = this.of(g)
      return fold || this.alike(g)[0] !== g ? [] : Object.keys(pitches)
    })
  }

  /** Gives a note, and those alike, the tune's own pitch again; what is returned takes that back. */
  restore(source: EventId): () => void {
    const own = this.groupOf.get(source)!
    const at = own.events.findIndex(e => e.id === source)
    const before = new Map(this.alike(own).map(g => [g, this.of(g)]))
    for (const [g, how] of before) {
      const { [g.events[at]!.id]: _, ...pitches } = how.pitches ?? {}
      if (!how.fold) this.todo.set(g.id, { ...how, pitches })
    }
    return () => before.forEach((how, g) => this.todo.set(g.id, how))
  }

  silence = (g: Group) => void this.todo.set(g.id, { silent: true })

  /** A phrase an octave away; false where it went before or the teacher will not have it. */
  fold(notes: readonly EventId[], octaves: -1 | 1): boolean {
    const written = notes.map(this.written)
    const groups = written.flatMap(n => this.groupOf.get(n) ?? [])
    const refused = groups.some(g => this.refused.has(idOf('fold', g)))
    if (refused || written.some(n => this.folded.has(n))) return false
    for (const n of written) this.foldNote(n, octaveShift(octaves))
    return true
  }

  private foldNote(source: EventId, by: Interval) {
    const event = this.noteAt(source)
    if (!event) return
    this.folded.set(source, by)
    const g = this.groupOf.get(source)!
    const is = this.of(g)
    const pitch = transposePitch(event.heads.at(-1)!.pitch, by)
    this.todo.set(g.id, { ...is, fold: true, pitches: { ...is.pitches, [source]: pitch } })
  }

  private noteAt(source: EventId): NoteEvent | null {
    const event = this.groupOf.get(source)?.events.find(e => e.id === source)
    return event?.kind === 'note' ? event : null
  }

  /** The tune's own note there, as it is played; where its phrase went, an octave away. */
  original(source: EventId, toWritten: Interval): Pitch | null {
    const event = this.noteAt(source)
    if (!event) return null
    const there = transposePitch(event.heads.at(-1)!.pitch, this.folded.get(source) ?? octaveShift(0))
    return transposePitch(there, inverse(toWritten))
  }

  /** Carried out: the recipe, and the changes as they are told, by measure. */
  carriedOut(level: Level): { recipe: Arrangement; changes: readonly EasedChange[] } {
    this.sources = new Map()
    const changes: Change[] = []
    const told: EasedChange[] = []
    for (const g of this.groups) {
      const how = this.todo.get(g.id)
      const by = how && reduced(g, how)
      if (!how || !by || !sameLength(by, g.length)) continue
      const kind = kindOf(how, g, by)
      const id = idOf(kind, g)
      if (this.refused.has(id)) continue
      by.forEach((r, i) => this.sources.set(`${id}~${i + 1}`, r.from))
      changes.push({ id, kind, accepted: true, edit: { do: 'replace', events: g.events.map(e => e.id), by: by.map(r => r.body) } }) // prettier-ignore
      told.push({ id, kind, measure: g.measure.number, notes: g.events.map(e => e.id) })
    }
    const { played } = this.base
    const parted = [...this.parted].filter(id => !this.refused.has(unslurId(id)))
    for (const id of parted)
      told.push({ id: unslurId(id), kind: 'unslur', measure: this.groupAt(id)?.measure.number ?? 0, notes: [this.written(id)] }) // prettier-ignore
    const tempo = this.tempo < 1 || this.inFour ? this.slower() : null
    const recipe = withPlayed(this.base, {
      level,
      eased: { tempo, octave: this.octave, parted },
      ...(this.octave !== null && { octave: this.octave }),
      changes: [...played.changes, ...changes],
      pins: { ...played.pins, joins: { ...played.pins.joins, ...Object.fromEntries(parted.map(id => [id, false])) } },
      ...(tempo && { tempo }),
    }) // prettier-ignore
    return { recipe, changes: told.sort((a, b) => a.measure - b.measure) }
  }

  private slower(): Tempo {
    const own = tempoOf(this.tune, this.base)
    const four = this.inFour && toNumber(own.beat) === 2
    return {
      beat: four ? frac(1) : own.beat,
      perMinute: Math.max(20, Math.round(own.perMinute * this.tempo * (four ? 2 : 1))),
    }
  }
}

const idOf = (kind: ReductionKind, g: Group) => `${kind}-${g.id}`.slice(0, 24)
const unslurId = (note: EventId) => `unslur-${note}`.slice(0, 24)
