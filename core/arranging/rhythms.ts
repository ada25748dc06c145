/**
 * The rhythms a group of notes may take at a level: its own, and plainer ones made of the cells a learner
 * counts.
 */
import type { SkillId } from '#core/grading/catalogue'
import { skillLevel, type LevelTable } from '#core/grading/demands'
import type { Level } from '#core/levels/levels'
import { add, compare, equal, frac, mul, sub, toNumber, ZERO, type Fraction } from '#core/music/fraction'
import { inThrees, isCompound } from '#core/music/metre'
import type { InstrumentId } from '#core/music/tune'
import { soundingAt, type Group } from './groups'

/** Where notes begin in a group and how long they last, in quarters from its beginning. */
export interface Beginning {
  readonly at: Fraction
  readonly length: Fraction
  /** Nothing sounds: a long note ends on the beat before. */
  readonly rest?: true
}
export interface Rhythm {
  readonly slots: readonly Beginning[]
  /** The tune's own. */
  readonly own: boolean
}

export interface RhythmOptions {
  readonly level: Level
  readonly instrument: InstrumentId
  readonly table?: LevelTable | undefined
}

/**
 * At most so many combinations of cells are looked at: groups of many beats are held notes, with few of them.
 */
const MOST = 48

/**
 * The rhythms a level has for a group, its own first where that is one of them. Never empty: one note to the
 * group stands where nothing else does.
 */
export function rhythmsOf(g: Group, o: RhythmOptions): Rhythm[] {
  const own: Rhythm = { slots: ownSlots(g), own: true }
  const found = new Map<string, Rhythm>([[rhythmName(own), own]])
  for (const slots of combined(g)) {
    const rhythm: Rhythm = { slots, own: false }
    if (!found.has(rhythmName(rhythm))) found.set(rhythmName(rhythm), rhythm)
  }
  const has = (skill: SkillId) => (skillLevel(skill, o.instrument, o.table) ?? 8) <= o.level
  const within = [...found.values()].filter(
    r => rhythmSkills(g, r).every(has) && (o.level > 1 || !runsInThrees(g, r)),
  )
  return within.length > 0 ? within : [{ slots: [{ at: ZERO, length: g.length }], own: false }]
}

/** Three and more to a beat of three: they run, which the first months do not. */
const runsInThrees = (g: Group, r: Rhythm) =>
  isCompound(g.measure.metre) && r.slots.filter(s => toNumber(s.length) < 1).length > 2

/** "1/1 1/2": the same lengths and rests, the same name. */
export const rhythmName = (r: Rhythm) =>
  r.slots.map(s => `${s.rest ? 'z' : ''}${s.length.n}/${s.length.d}`).join(' ')

function ownSlots(g: Group): Beginning[] {
  let at = ZERO
  return g.events.map(e => {
    const slot = { at, length: e.duration }
    at = add(at, e.duration)
    return slot
  })
}

/**
 * Cells beat by beat: one note, two halves, a long and a short, three thirds, what the tune has; a beat may
 * also go on with the note of the beat before.
 */
function combined(g: Group): Beginning[][] {
  let ways: Beginning[][] = [[]]
  for (const [i, part] of g.beats.entries()) {
    const cells = cellsOf(g, part)
    ways = ways.flatMap(way => [
      ...cells.map(cell => [...way, ...cell]),
      ...(i > 0 && goesOver(g, part.at) ? [lengthened(way, part.length)] : []),
    ])
    if (ways.length > MOST) ways = ways.slice(0, MOST)
  }
  return ways
}

function cellsOf(g: Group, { at, length }: Beginning): Beginning[][] {
  const split = (lengths: readonly Fraction[]) => {
    let from = at
    return lengths.map(l => {
      const slot = { at: from, length: l }
      from = add(from, l)
      return slot
    })
  }
  const whole = split([length])
  const inside = g.events.length > 0 ? ownWithin(g, at, length) : []
  if (equal(length, frac(3, 2))) {
    const third = frac(1, 2)
    return [
      whole,
      split([frac(1), third]),
      split([third, third, third]),
      ...(inside.length > 1 ? [inside] : []),
    ]
  }
  if (!equal(length, frac(1))) {
    const silent =
      compare(at, ZERO) > 0 && toNumber(length) < 1 ? [[{ at, length, rest: true as const }]] : []
    return [whole, ...(inside.length > 1 ? [inside] : []), ...silent]
  }
  const half = mul(length, frac(1, 2))
  return [whole, split([half, half]), ...(inside.length > 1 ? [inside] : [])]
}

/** The tune's own notes within a beat, where they begin and end with it. */
function ownWithin(g: Group, at: Fraction, length: Fraction): Beginning[] {
  const end = add(at, length)
  const slots = ownSlots(g).filter(s => compare(s.at, at) >= 0 && compare(s.at, end) < 0)
  const fits =
    slots.length > 0 &&
    equal(slots[0]!.at, at) &&
    compare(add(slots.at(-1)!.at, slots.at(-1)!.length), end) === 0
  return fits ? slots : []
}

/** A note of the tune sounds on over the place. */
function goesOver(g: Group, at: Fraction): boolean {
  const there = soundingAt(g, at)
  return there !== null && !there.begins && there.event.kind === 'note'
}

function lengthened(way: readonly Beginning[], by: Fraction): Beginning[] {
  const last = way.at(-1)!
  return [...way.slice(0, -1), { ...last, length: add(last.length, by) }]
}

/** The skills of rhythm that a rhythm asks for at its place, as the catalogue names them. */
export function rhythmSkills(g: Group, { slots }: Rhythm): SkillId[] {
  const threes = inThrees(g.measure.metre)
  const asked = new Set<SkillId>()
  const lengths = slots.map(s => toNumber(s.length))
  const tuplet = g.events.some(e => e.kind === 'note' && e.tuplet)
  lengths.forEach((length, i) => {
    if (slots[i]!.rest) return
    const near = (x: number) => Math.abs(length - x) < 1e-6
    const dottedPair = [lengths[i - 1], lengths[i + 1]].some(
      l => l !== undefined && Math.abs(l - 3 * length) < 1e-6,
    )
    if (tuplet && !isBinary(slots[i]!.length)) asked.add('triplet')
    else if (!threes && near(0.5)) asked.add('eighths')
    else if (length < 0.3 && !dottedPair) asked.add('sixteenths')
    if (!threes && [1.75, 1.5, 0.875, 0.75, 0.375].some(near) && !isBeat(g, slots[i]!)) asked.add('dotted')
    if (threes && [0.75, 0.375].some(near)) asked.add('compoundDotted')
    if (!threes && crossesBeat(g, slots[i]!)) asked.add('syncopation')
  })
  return [...asked]
}

const isBinary = ({ d }: Fraction) => (d & (d - 1)) === 0
/** A long beat of an uneven metre, filled by one note. */
const isBeat = (g: Group, s: Beginning) => g.beats.some(b => equal(b.at, s.at) && equal(b.length, s.length))

/** It begins between beats and sounds over the next one. */
function crossesBeat(g: Group, s: Beginning): boolean {
  const parts = g.beats
  if (parts.some(p => equal(p.at, s.at))) return false
  const next = parts.find(p => compare(p.at, s.at) > 0)
  return next !== undefined && compare(sub(add(s.at, s.length), next.at), ZERO) > 0
}
