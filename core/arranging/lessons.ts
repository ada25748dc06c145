/**
 * What trying a version by hand and bow teaches the next search: places and rhythms that were too much cost
 * more, ornaments and slurs go, the tempo falls. A demand on several notes is met at the one that carries
 * least of the tune.
 */
import { groupBy } from '#core/groupBy'
import type { Derived } from '#core/arrangement/derive'
import { skillOf } from '#core/grading/catalogue'
import type { Demand } from '#core/grading/demands'
import { eventOf, type EventId } from '#core/music/ids'
import { placeEvents, tieOrigins } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import { refusalKey, rhythmRefusalKey, type Filling, type Slot } from './fillings'
import { rhythmName } from './rhythms'
import type { Source, Span } from './source'
import { NO_UPBEATS, upbeatsLeft, type Upbeats } from './upbeats'
import { fillingsKey } from './versionSearch'
import { VERSION_WEIGHTS as W } from './versionWeights'
import type { WrittenVersion } from './writeVersion'

/** A version as it was graded: what asks for more than the level, and what no place of the instrument has. */
export interface Tried {
  readonly blocked: readonly Demand[]
  readonly off: readonly EventId[]
  readonly derived: Derived
}

/** No slower than this share of the level's own tempo. */
const SLOWEST = 0.6

export class Lessons {
  /** Share of the level's tempo it is played at. */
  slower = 1
  upbeats: Upbeats = NO_UPBEATS
  readonly plain = new Set<EventId>()
  readonly single = new Set<EventId>()
  readonly parted = new Set<EventId>()
  readonly refusals = new Map<string, number>()
  /** Fillings worked out so far; those of a group that learned something are worked out anew. */
  readonly fillings = new Map<string, readonly Filling[]>()
  private written: WrittenVersion = { changes: [], told: [], slots: new Map(), sources: new Map() }

  constructor(
    private readonly tune: Tune,
    private readonly source: Source,
    private readonly refused: ReadonlySet<string>,
  ) {}

  /**
   * Takes what asks for too much into the costs of the next search. False where there is nothing left to
   * learn.
   */
  learn({ blocked, off, derived }: Tried, written: WrittenVersion): boolean {
    this.written = written
    let learned = false
    const note = (done: boolean) => (learned ||= done)
    for (const d of blocked) note(this.learnDemand(d, derived))
    for (const id of off) note(this.refusePitch(id))
    return learned
  }

  /** Something of a group was tried, and the hand or the bow could not. */
  refusedIn({ group, notes }: Span): boolean {
    const own = [group.id, ...notes.map(n => n.id)]
    return [...this.refusals.keys()].some(key => own.some(id => key.startsWith(`${id} `)))
  }

  private learnDemand(d: Demand, derived: Derived): boolean {
    const held = heldBy(d, derived)
    if (d.asked.kind === 'limit') {
      if (d.asked.limit === 'fastest') return this.goSlower() || some(held, id => this.refuseRhythm(id))
      if (d.asked.limit === 'notesPerBow') return this.partSlurs(d, derived)
      return some(held, id =>
        this.refusePitch(d.asked.kind === 'limit' && d.asked.limit === 'leap' ? this.weakerOf(id) : id),
      )
    }
    const written = held.map(id => this.written.sources.get(id) ?? id)
    switch (skillOf(d.asked.skill).eased) {
      case 'off':
        return some(written, id => added(this.plain, id))
      case 'oneString':
        return some(written, id => added(this.single, id))
      case 'slurs':
        return this.partSlurs(d, derived)
      case 'slower':
        return this.goSlower() || some(held, id => this.refuseRhythm(id))
      case 'upbeats':
        return this.leaveUpbeats()
      case 'rhythm':
        return some(d.notes, n => this.refuseRhythm(n.note))
      case 'shape':
        return this.refuseOddOnes(held, derived)
      case 'neighbour':
        return some(held, id => this.refusePitch(this.weakerOf(id)))
      case 'place':
      case 'pitch':
        return some(held, id => this.refusePitch(id))
      case 'nothing':
        return false
    }
  }

  /** Of a note and the one before it the one that carries less: what they ask for together goes with it. */
  private weakerOf(id: EventId): EventId {
    const slots = [...this.written.slots].sort(([, a], [, b]) => a.at - b.at)
    const i = slots.findIndex(([own]) => own === id)
    const before = slots[i - 1]
    return before && slots[i] && carries(before[1]) < carries(slots[i]![1]) ? before[0] : id
  }

  /**
   * In the phrases where a finger changes its place: of its places all but the one that carries most of the
   * phrase.
   */
  private refuseOddOnes(notes: readonly EventId[], { form, fingering }: Derived): boolean {
    const asking = new Set(notes)
    const slotOf = (n: (typeof fingering.notes)[number]) => this.written.slots.get(eventOf(n.id))
    const worth = (n: (typeof fingering.notes)[number]) =>
      (1 + carries(slotOf(n)!)) * (n.mark === 'home' ? AT_HOME : 1)
    return some(
      form.phrases.filter(p => p.events.some(e => asking.has(e))),
      p => {
        const own = new Set(p.events)
        const stopped = fingering.notes.filter(n => n.finger !== 0 && own.has(eventOf(n.id)) && slotOf(n))
        const fingers = [...groupBy(stopped, n => `${n.anchor} ${n.finger}`).values()]
        return some(
          fingers.filter(list => list.some(n => asking.has(eventOf(n.id)))),
          finger => {
            const places = [...groupBy(finger, n => n.mark).values()]
            const carried = places.map(list => list.reduce((sum, n) => sum + worth(n), 0))
            const odd = places.filter((_, i) => i !== carried.indexOf(Math.max(...carried))).flat()
            return some(odd, n => this.refusePitch(eventOf(n.id)))
          },
        )
      },
    )
  }

  private goSlower(): boolean {
    if (this.slower <= SLOWEST) return false
    this.slower = Math.max(SLOWEST, Math.round((this.slower - 0.1) * 100) / 100)
    return true
  }

  private leaveUpbeats(): boolean {
    if (this.upbeats.measures.length > 0) return false
    this.upbeats = upbeatsLeft(this.tune, this.refused)
    return this.upbeats.measures.length > 0
  }

  private partSlurs(d: Demand, { bowing }: Derived): boolean {
    const asking = new Set(d.notes.map(n => n.note))
    return some(
      bowing.written.filter(s => s.notes.some(n => asking.has(n))),
      s => some(s.tones.slice(1), id => added(this.parted, id)),
    )
  }

  private refusePitch(id: EventId): boolean {
    const slot = this.written.slots.get(id)
    if (!slot?.source) return false
    const { source } = slot
    const span = this.source.spans.find(s => s.notes.includes(source))
    return span !== undefined && this.refuse(refusalKey(source.id, slot.midi), span)
  }

  private refuseRhythm(id: EventId): boolean {
    const source = this.written.slots.get(id)?.source
    const i = source ? this.source.spans.findIndex(s => s.notes.includes(source)) : -1
    const span = this.source.spans[i]
    if (!span) return false
    const own = [...this.written.slots].filter(([, s]) => s.at >= span.start - 1e-6 && s.at < span.end - 1e-6)
    const rhythm = {
      own: false,
      slots: own
        .map(([, s]) => s)
        .sort((a, b) => a.at - b.at)
        .map(s => ({ at: s.length, length: s.length, ...(!s.pitch && { rest: true as const }) })),
    }
    return this.refuse(rhythmRefusalKey(span.group.id, rhythmName(rhythm)), span)
  }

  /** Each time it costs more; in the end something else is cheaper. */
  private refuse(key: string, span: Span): boolean {
    const now = this.refusals.get(key) ?? 0
    if (now >= 4 * W.refused) return false
    this.refusals.set(key, now + W.refused)
    for (const fold of [-1, 0, 1]) this.fillings.delete(fillingsKey(span.group.id, fold))
    return true
  }
}

/** Of two places of a finger the one at home, where the rest of the tune has it, counts more. */
const AT_HOME = 1.5
/** How much of the tune hangs on a note: by its beat, its length, and whether a phrase ends on it. */
const carries = (s: Slot) =>
  s.strength + Math.min(1, s.quarters / 2) + (s.source?.goal ? 2 : 0) + (s.own ? 0 : -1)
/** Each is tried, whatever came of those before. */
function some<T>(list: readonly T[], each: (x: T) => boolean): boolean {
  return list.map(each).some(Boolean)
}
function added<T>(set: Set<T>, x: T): boolean {
  if (set.has(x)) return false
  set.add(x)
  return true
}

/** The notes that ask, and those they are tied to. */
function heldBy(d: Demand, { tune }: Derived): EventId[] {
  const own = new Set(d.notes.map(n => n.note))
  const tied = [...tieOrigins(placeEvents(tune))].flatMap(([id, from]) => (own.has(from) ? [id] : []))
  return [...own, ...tied]
}
