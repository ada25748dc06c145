/**
 * A tune with more in it: places that bear a spice are found ({@link OFFERS}), the best few chosen ({@link
 * bestSpices}) and tried together; what the level, the hand or the tempo does not have is dropped until
 * nothing asks for more than it did. Plain first: most come in with the second or third time through.
 */
import type { Change } from '#core/arrangement/change'
import type { DeriveContext } from '#core/arrangement/context'
import { derive, DeriveMemory, type Derived } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { gradeOf, type Grade, type LevelTable } from '#core/grading/demands'
import type { Level } from '#core/levels/levels'
import { changeOf, eventOf, madeId } from '#core/music/ids'
import { transposePitch } from '#core/music/pitch'
import type { EventBody, Tune } from '#core/music/tune'
import type { MadeChange } from './change'
import { OFFERS, type Offer } from './offers'
import { sceneOf } from './scene'
import { bestSpices } from './spiceSearch'
import { SPICE, SPICES, type SpiceKind } from './spices'

export interface Enriched {
  readonly recipe: Arrangement
  readonly derived: Derived
  readonly grade: Grade
  readonly changes: readonly MadeChange[]
}

export interface EnrichOptions {
  readonly spices: readonly SpiceKind[]
  readonly level: Level
  readonly context: DeriveContext
  readonly table?: LevelTable
  /** Changes the teacher will not have. */
  readonly refused?: ReadonlySet<string>
}

/**
 * So often what was dropped makes room for something else; twice as often something is dropped singly, and
 * then all of it.
 */
const ROUNDS = 6

interface Tried extends Offer {
  readonly id: string
}

export function enriched(tune: Tune, base: Arrangement, o: EnrichOptions): Enriched {
  const memory = new DeriveMemory()
  const plain = withPlayed(base, { level: o.level, through: 3 })
  const before = derive(tune, plain, o.context, memory)
  const known = asked(gradeOf(before, plain, o.table), o.level)
  const errors = new Set(before.findings.filter(f => f.severity === 'error').map(f => f.where.note))
  const out = new Set(o.refused)
  let offers = chosen(before, plain, o)
  for (let round = 0; ; round++) {
    const recipe = withOffers(plain, before, offers)
    const derived = derive(tune, recipe, o.context, memory)
    const grade = gradeOf(derived, recipe, o.table)
    const wrong = [
      ...asked(grade, o.level).filter(a => !known.some(k => k.what === a.what && k.note === a.note)),
      ...derived.findings.flatMap(f =>
        f.severity === 'error' && !errors.has(f.where.note)
          ? [{ what: f.code, note: eventOf(f.where.note ?? ''), measure: f.where.measure ?? 0 }]
          : [],
      ),
    ]
    const misplaced = new Set(offers.filter(x => !liesWell(x, derived)).map(x => x.id))
    if (wrong.length === 0 && misplaced.size === 0)
      return { recipe, derived, grade, changes: offers.map(told) }
    const own = new Set(wrong.flatMap(w => changeOf(w.note) ?? []))
    // A phrase goes up as a whole or not at all.
    const down = new Set(offers.filter(x => x.kind === 'octaves' && own.has(x.id)).map(x => x.at.phrase))
    // What none of them asks by itself hangs on its neighbours; in the end everything goes.
    const alone = own.size + misplaced.size === 0
    const near = (x: Tried) =>
      round >= 2 * ROUNDS ||
      (alone &&
        wrong.some(
          w => changeOf(w.note) === null && Math.abs(w.measure - x.at.placed.measure.number) <= round,
        ))
    const goes = (x: Tried) =>
      own.has(x.id) || misplaced.has(x.id) || near(x) || (x.kind === 'octaves' && down.has(x.at.phrase))
    offers.filter(goes).forEach(x => out.add(x.id))
    // Its notes are free for another kind, at first.
    offers = round < ROUNDS ? chosen(before, plain, { ...o, refused: out }) : offers.filter(x => !goes(x))
  }
}

const asked = (g: Grade, level: Level) =>
  g.demands
    .filter(d => d.level > level)
    .flatMap(d =>
      d.notes.map(n => ({ what: d.asked.kind === 'skill' ? d.asked.skill : d.asked.limit, ...n })),
    )

const told = (x: Tried): MadeChange => ({
  id: x.id,
  kind: x.kind,
  measure: x.at.placed.measure.number,
  notes: x.events,
})

/** Of all that offers itself, without what the teacher or the trial refused, what is best together. */
function chosen(before: Derived, recipe: Arrangement, { spices, refused }: EnrichOptions): Tried[] {
  const scene = sceneOf(before, recipe)
  const all = SPICES.filter(k => spices.includes(k)).flatMap(kind => OFFERS[kind](scene))
  return bestSpices(all.filter(o => !refused?.has(idOf(o)))).map(o => ({ ...o, id: idOf(o) }))
}

const idOf = ({ kind, events }: Offer) => `${kind}-${events[0]!.replaceAll('~', '-')}`.slice(0, 24)

function withOffers(base: Arrangement, { arranged }: Derived, offers: readonly Tried[]): Arrangement {
  const written = (by: EventBody): EventBody =>
    by.kind === 'rest'
      ? by
      : {
          ...by,
          heads: by.heads.map(h => ({ ...h, pitch: transposePitch(h.pitch, arranged.toWritten) })),
          ...(by.grace && { grace: by.grace.map(p => transposePitch(p, arranged.toWritten)) }),
        }
  const changes = offers.map((x): Change => {
    const { layer } = SPICE[x.kind]
    return {
      id: x.id,
      kind: x.kind,
      accepted: true,
      ...(layer && { layer }),
      edit: { do: 'replace', events: [...x.events], by: x.by.map(written) },
    }
  })
  const joins = { ...base.played.pins.joins }
  for (const x of offers) for (const i of x.slurred) joins[madeId(x.id, i)] = true
  return withPlayed(base, {
    changes: [...base.played.changes, ...changes],
    pins: { ...base.played.pins, joins },
  })
}

/** Half steps from the nut to the first finger of first position. */
const HOME = 2

/**
 * A drone is an open string, and so is one half of a unison, whose other half is the fourth finger at home:
 * where the hand had to do otherwise, it is none.
 */
function liesWell(x: Tried, d: Derived): boolean {
  if (x.kind !== 'drones' && x.kind !== 'unisons') return true
  const id = madeId(x.id, 0)
  const here = d.fingering.notes.filter(n => eventOf(n.id) === id)
  const open = here.some(n => n.finger === 0)
  return x.kind === 'drones' ? open : open && here.some(n => n.finger === 4 && n.anchor <= HOME)
}
