/**
 * The columns of a measure: everything that begins at one time, over all parts, and how near two of them may
 * stand. What is drawn at a column lies in rows (heads, digits, bow marks, words, chords); in each row the
 * next thing must clear the one before it. From that come the least width of a measure, and places for any
 * wider one, in which the rest is shared out by the time that passes (Gourlay's springs and rods, "Spacing a
 * line of music", 1987).
 */
import type { Mm } from '#core/instruments/instruments'
import { compare, sub, toNumber, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import type { TabDigit, TabEvent } from '#core/tablature/tabModel'
import type { GlyphName, Measurer } from './measurer'
import type { Accidental, NotatedEvent, NotatedMeasure } from './notation'
import type { UnderLines } from './under'
import { flagsOf } from './values'

/** What is drawn beside the notes: a row that is not drawn takes no room. */
export interface Rows {
  readonly fingers: boolean
  readonly bows: boolean
  readonly tab: boolean
  readonly chords: boolean
}

export interface Scale {
  /** Distance of two staff lines. */
  readonly space: Mm
  readonly measurer: Measurer
  readonly rows: Rows
}

/** One part's share of a measure. */
export interface PartMeasure {
  readonly notated: NotatedMeasure
  readonly tab: readonly TabEvent[]
  readonly under?: UnderLines
  /** What is drawn of it, where that is not the same for all. */
  readonly rows?: Rows
}

/** Room to the left and right of the middle of a head, in one row. */
interface Extent {
  readonly row: string
  readonly left: Mm
  readonly right: Mm
}

export interface Column {
  /** Quarters from the start of the measure. */
  readonly at: number
  /** The event of each part that begins here. */
  readonly events: readonly (EventId | null)[]
  /** Middle of the heads, from where the notes of the measure begin, as near to the left as it can stand. */
  readonly least: Mm
  /** Share of the room that is left over, up to the next column. */
  readonly weight: number
}

export interface MeasureColumns {
  readonly columns: readonly Column[]
  readonly least: Mm
  /** The width at which it looks neither crowded nor thin. */
  readonly good: Mm
}

/** Face sizes of what stands in the rows, in staff spaces. */
export const FACE = { under: 1.15, digit: 1.2, tabDigit: 1.5, ossia: 1.05, word: 1.3, chord: 1.25 } as const
/** Least air between two things of a row, in staff spaces. */
const AIR = { heads: 0.45, words: 0.5, other: 0.25 }
/** Air before the first and after the last column, in staff spaces. */
const LEAD = 1.25
const TAIL = 1.1
/** A good width, in staff spaces for each unit of {@link weightOf}. */
const GOOD = 1.9
/** A measure with next to nothing in it is still a measure. */
const LEAST_MEASURE = 4.5

/** What leads into a head from the left, in staff spaces. */
const SLIDE = 1.1

/** A long note takes more room than a short one, but not in proportion. */
const weightOf = (quarters: number) => 0.75 + Math.min(1.2, quarters * 0.55)

const ACCIDENTAL_GLYPH: Readonly<Record<Accidental, GlyphName>> = {
  [-2]: 'doubleFlat',
  [-1]: 'flat',
  0: 'natural',
  1: 'sharp',
  2: 'doubleSharp',
}

export function columnsOf(parts: readonly PartMeasure[], scale: Scale): MeasureColumns {
  const { space } = scale
  const slots = slotsOf(parts)
  const ends = parts.flatMap(({ notated: m }) =>
    m.events.map(({ placed: p }) => toNumber(sub(p.start, m.placed.start)) + toNumber(p.event.duration)),
  )
  const total = Math.max(0, ...ends)
  const reach = new Map<string, Mm>()
  let before = -Infinity
  const columns = slots.map(({ at, events }, i): Column => {
    const extents = events.flatMap((e, part) => (e ? extentsOf(e.notated, e.tab, part, parts, scale) : []))
    let x = Math.max(before, LEAD * space)
    for (const { row, left } of extents)
      x = Math.max(x, (reach.get(row) ?? -Infinity) + left, left + 0.2 * space)
    for (const { row, right } of extents) reach.set(row, x + right)
    before = x
    const until = slots[i + 1]?.at ?? total
    return {
      at,
      events: events.map(e => e?.notated.placed.event.id ?? null),
      least: x,
      weight: weightOf(Math.max(0, until - at)),
    }
  })
  const right = Math.max(0, ...reach.values()) + TAIL * space
  const least = Math.max(right, LEAST_MEASURE * space)
  const good = (columns.reduce((t, c) => t + c.weight, 0.6) * GOOD + LEAD) * space
  return { columns, least, good: Math.max(least, good) }
}

/** Middle of every column in a measure so wide: what is over its least width is shared out by time. */
export function placesIn({ columns, least }: MeasureColumns, width: Mm): Mm[] {
  const over = Math.max(0, width - least)
  const total = columns.reduce((t, c) => t + c.weight, 0)
  let given = 0
  return columns.map(c => {
    const x = c.least + (total === 0 ? 0 : (over * given) / total)
    given += c.weight
    return x
  })
}

interface Slot {
  readonly at: number
  readonly events: readonly ({ readonly notated: NotatedEvent; readonly tab: TabEvent | undefined } | null)[]
}

/** Everything that begins at one time, in order of time. */
function slotsOf(parts: readonly PartMeasure[]): Slot[] {
  const found: { at: Fraction; part: number; notated: NotatedEvent; tab: TabEvent | undefined }[] = []
  parts.forEach(({ notated, tab }, part) => {
    const byId = new Map(tab.map(t => [t.id, t]))
    for (const e of notated.events) {
      const at = sub(e.placed.start, notated.placed.start)
      found.push({ at, part, notated: e, tab: byId.get(e.placed.event.id) })
    }
  })
  found.sort((a, b) => compare(a.at, b.at) || a.part - b.part)
  const slots: { at: Fraction; events: Slot['events'][number][] }[] = []
  for (const f of found) {
    let slot = slots.at(-1)
    if (!slot || compare(slot.at, f.at) !== 0 || slot.events[f.part]) {
      slot = { at: f.at, events: parts.map(() => null) }
      slots.push(slot)
    }
    slot.events[f.part] = { notated: f.notated, tab: f.tab }
  }
  return slots.map(s => ({ at: toNumber(s.at), events: s.events }))
}

function extentsOf(
  e: NotatedEvent,
  tab: TabEvent | undefined,
  part: number,
  parts: readonly PartMeasure[],
  { space, measurer, rows: usual }: Scale,
): Extent[] {
  const rows = parts[part]!.rows ?? usual
  const out: Extent[] = []
  const half = (AIR.other / 2) * space
  const middle = (row: string, width: Mm, air = half) =>
    out.push({ row: `${part} ${row}`, left: width / 2 + air, right: width / 2 + air })
  out.push({ row: `${part} heads`, ...headExtent(e, parts[part]!.notated, measurer, space) })
  const { event } = e.placed
  if (event.kind === 'note')
    event.syllables?.forEach((s, verse) => {
      if (s)
        middle(
          `verse ${verse}`,
          measurer.text(s.text + (s.hyphen ? ' -' : ''), { size: FACE.word * space }),
          (AIR.words / 2) * space,
        )
    })
  parts[part]!.under?.get(event.id)?.forEach((said, i) => {
    if (said !== '')
      middle(`under ${i}`, measurer.text(said, { size: FACE.under * space }), (AIR.words / 2) * space)
  })
  if (!tab) return out
  const widest = (list: readonly TabDigit[], size: number, bold: boolean) =>
    Math.max(0, ...list.map(d => measurer.text(d.text, { size: size * space, bold })))
  if (rows.fingers && tab.digits.length > 0) {
    const ossia = tab.ossia ? widest(tab.ossia, FACE.ossia, false) + space : 0
    middle('fingers', Math.max(widest(tab.digits, FACE.digit, false), ossia))
  }
  if (rows.tab && tab.digits.length > 0) middle('tab', widest(tab.digits, FACE.tabDigit, true) + 0.3 * space)
  if (rows.bows && tab.bow) middle('bow', (tab.lift ? 1.9 : 0.95) * space)
  if (rows.chords && tab.chord) {
    const width = measurer.text(tab.chord, { size: FACE.chord * space, bold: true })
    out.push({ row: `${part} chord`, left: 0.5 * space, right: width - 0.5 * space + half })
  }
  return out
}

/**
 * Room of grace notes, in staff spaces, as they are engraved: after each of them, between the last and the note,
 * the flag of one that stands alone, and how large their accidentals are.
 */
const GRACE = { after: 0.4, last: 0.4, flag: 0.8, sign: 0.85 }

/**
 * What an event takes of the staff: accidentals and grace notes to the left of its head, dots and flags to
 * the right.
 */
function headExtent(
  e: NotatedEvent,
  m: NotatedMeasure,
  measurer: Measurer,
  space: Mm,
): { left: Mm; right: Mm } {
  const glyph = (name: GlyphName) => measurer.glyph(name)
  const first = e.values[0]!
  const note = e.placed.event.kind === 'note'
  const head = note ? glyph(first.of >= 4 ? 'wholeHead' : 'head') : glyph('rest')
  const signs = e.accidentals.filter(a => a !== null)
  // Signs of a chord stand beside each other where its notes are near.
  const sign =
    signs.length === 0
      ? 0
      : 0.25 + signs.slice(0, 3).reduce<number>((w, a) => w + glyph(ACCIDENTAL_GLYPH[a]), 0)
  const flag = e.graces.length === 1 ? GRACE.flag : 0
  const graces = e.graces.reduce<number>(
    (w, a) =>
      w + glyph('graceHead') + GRACE.after + (a === null ? 0 : GRACE.sign * glyph(ACCIDENTAL_GLYPH[a])),
    e.graces.length === 0 ? 0 : GRACE.last + flag + (sign > 0 ? GRACE.after : 0),
  )
  const dots = first.dots * glyph('dot')
  const flagged = note && flagsOf(first) > 0 && !m.beams.some(b => b.includes(e.placed.event.id))
  // A length no single value has is drawn as more notes, tied.
  const more = (e.values.length - 1) * (head + 1.4)
  // Seconds in a chord push a head to the other side of the stem.
  const heads = e.placed.event.kind === 'note' && e.placed.event.heads.length > 1 ? head * 0.6 : 0
  const slide = e.placed.event.kind === 'note' && e.placed.event.marks?.includes('slide') ? SLIDE : 0
  const air = AIR.heads / 2
  return {
    left: (head / 2 + sign + graces + slide + heads + air) * space,
    right: (head / 2 + dots + (flagged ? glyph('flag') * 0.6 : 0) + more + heads + air) * space,
  }
}
