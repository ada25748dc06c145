/**
 * Music broken into systems by measured width, and every measure and column of them placed. The breaks are
 * the ones with the least total badness (Knuth and Plass, "Breaking paragraphs into lines", 1981): lines
 * neither crowded nor thin, parts at the beginning of a line, and no more measures in one than a reader
 * expects.
 */
import type { Mm } from '#core/instruments/instruments'
import { sub, toNumber } from '#core/music/fraction'
import type { Tune } from '#core/music/tune'
import type { TabModel } from '#core/tablature/tabModel'
import { columnsOf, placesIn, type Column, type MeasureColumns } from './columns'
import { aheadOf, headOf, headsOf, type Ahead, type HeadOptions, type MeasureHead } from './heads'
import { rowsIn, type PartMarks } from './marks'
import type { Notated, NotatedMeasure } from './notation'
import type { UnderLines } from './under'

/** One instrument, or one version, of what stands in a system; all parts have the same measures. */
export interface PagePart {
  readonly notated: Notated
  readonly tab: TabModel
  /** Its name, to the left of every line. */
  readonly label?: string
  /** What it shows otherwise than the others. */
  readonly marks?: PartMarks
  /** Lines of text under its staff. */
  readonly under?: UnderLines
}

export interface PlacedColumn extends Pick<Column, 'at' | 'events'> {
  /** Middle of the heads, from the left edge of the system. */
  readonly x: Mm
}

export interface SystemMeasure {
  readonly index: number
  readonly x: Mm
  readonly width: Mm
  readonly head: MeasureHead
  readonly columns: readonly PlacedColumn[]
}

export interface System {
  readonly measures: readonly SystemMeasure[]
  /** What its end announces of the next. */
  readonly ahead: Ahead | null
  /** As wide as the page has room, or less where it holds little. */
  readonly width: Mm
  /** Room to the left of it, for the names of the parts. */
  readonly indent: Mm
}

/** By id of a measure: a line (or a page) begins with it, or none does. */
export type Breaks = Readonly<Record<string, 'line' | 'page' | 'none'>>

export interface SystemOptions extends HeadOptions {
  readonly width: Mm
  /** Only these measures: index of the first, and of the one after the last. */
  readonly range?: readonly [from: number, to: number]
  /** What the teacher decided, whatever looks best. */
  readonly breaks?: Breaks
}

/** What a reader expects of a dance tune; a pickup does not count as a measure. */
const MOST_MEASURES = 4
/** The last line takes the whole width when, spaced like the line before it, it comes this near to it. */
const FULL = 0.8

/** Badness of a line, each with its reason; a line as wide as it should be has none. */
const BAD = {
  /** Stretched to twice what looks good. */
  thin: 1,
  /** Crowded as far as it can be. */
  crowded: 0.8,
  /** Each measure fewer than a line usually holds; halves of a phrase are better than an odd one. */
  fewer: 0.2,
  odd: 0.15,
  /** A part, or a phrase, begins in the middle of the line. */
  partInside: 0.8,
  phraseInside: 0.15,
  /** A single measure is left for the last line of a part. */
  lonely: 1.5,
  /** Against the teacher's word. */
  against: 5000,
  /** A measure so full that it can't be drawn in the width: unavoidable only for one alone. */
  over: 1000,
}

/** @param asked `width` has the names of the parts in it, where they have any */
export function systemsOf(parts: readonly PagePart[], asked: SystemOptions): System[] {
  const indent = namesWidth(parts, asked)
  const o = { ...asked, width: asked.width - indent }
  const lead = parts[0]
  if (!lead || lead.notated.measures.length === 0) return []
  const [first, end] = o.range ?? [0, lead.notated.measures.length]
  const measures = lead.notated.measures.slice(first, end)
  if (measures.length === 0) return []
  const columns = measures.map((_, i) =>
    columnsOf(
      parts.map(p => ({
        notated: p.notated.measures[first + i]!,
        tab: p.tab.measures[first + i]?.events ?? [],
        ...(p.under && { under: p.under }),
        ...(p.marks && { rows: rowsIn(o.rows, p.marks) }),
      })),
      o,
    ),
  )
  const phrases = new Set([...phraseStarts(lead)].map(i => i - first))
  const lines = breaksOf({ measures, columns, phrases }, o)
  const line = ([from, to]: Line, width: Mm) =>
    placed(measures.slice(from, to), columns.slice(from, to), [measures[from - 1], measures[to]], {
      ...o,
      width,
    })
  const whole = lines.slice(0, -1).map(l => line(l, o.width))
  const last = lines.at(-1)!
  const systems = [...whole, line(last, lastWidth(measures, columns, lines, o))]
  return systems.map(s => ({ ...s, indent }))
}

/** Face size of a part's name, and what the bracket takes beside it, in staff spaces. */
export const NAME_FACE = 1.2
const BRACKET = 2.6

/** The longest name with the bracket; nothing where no part has a name. */
function namesWidth(parts: readonly PagePart[], { space, measurer }: SystemOptions): Mm {
  const names = parts.flatMap(p => p.label ?? [])
  if (names.length === 0) return 0
  return Math.max(...names.map(n => measurer.text(n, { size: NAME_FACE * space }))) + BRACKET * space
}

type Line = readonly [from: number, to: number]

/**
 * How wide the last line is: its notes as far apart as those of the line before it, unless that nearly fills
 * the page.
 */
function lastWidth(
  measures: readonly NotatedMeasure[],
  columns: readonly MeasureColumns[],
  lines: readonly Line[],
  o: SystemOptions,
): Mm {
  const [before, last] = [lines.at(-2), lines.at(-1)!]
  if (!before) return o.width
  const roomOf = ([from, to]: Line) => {
    const [least, good] = widths(measures, columns, from, to, o)
    const ahead = aheadOf(measures[to - 1]!, measures[to], o)?.width ?? 0
    const head = headsOf(measures.slice(from, to), measures[from - 1], o).reduce((t, h) => t + h.width, ahead)
    return { head, least: least - head, good: good - head }
  }
  const [above, own] = [roomOf(before), roomOf(last)]
  const stretch = Math.max(1.05, (o.width - above.head) / above.good)
  const width = own.head + Math.max(own.least, own.good * stretch)
  return width >= FULL * o.width ? o.width : width
}

/** What begins with a line: a part, a phrase (or what leads into one), or neither. */
export function beginningOf(lead: PagePart): (line: System) => 'part' | 'phrase' | null {
  const starts = phraseStarts(lead)
  const { measures } = lead.notated
  return line => {
    const at = line.measures[0]!.index
    const [m, before] = [measures[at]!, measures[at - 1]]
    const next = isLeadIn(m, before) ? measures[at + 1] : undefined
    if (before?.placed.measure.repeatEnd || [m, next].some(x => x && beginsPart(x))) return 'part'
    return starts.has(at) || (next && starts.has(at + 1)) ? 'phrase' : null
  }
}

/** How many lines begin with a phrase or what leads into one. */
export function linesWithPhrases(systems: readonly System[], lead: PagePart): number {
  const begins = beginningOf(lead)
  return systems.filter(s => begins(s) !== null).length
}

const isLeadIn = (m: NotatedMeasure, before: NotatedMeasure | undefined) =>
  m.placed.number === 0 || m.placed.number === before?.placed.number

const beginsPart = (m: NotatedMeasure) =>
  m.placed.measure.repeatStart === true || m.placed.measure.label !== undefined

/** What breaking goes by. */
interface Breakable {
  readonly measures: readonly NotatedMeasure[]
  readonly columns: readonly MeasureColumns[]
  /** Measures a phrase begins in, or leads into. */
  readonly phrases: ReadonlySet<number>
}

/** A phrase whose first notes stand at the end of a measure leads into the next one. */
function phraseStarts({ notated, tab }: PagePart): Set<number> {
  const out = new Set<number>()
  notated.measures.forEach((m, i) => {
    const at = tab.measures[i]?.events.findIndex(e => e.phrase !== undefined) ?? -1
    const first = m.events[at]
    if (!first) return
    const late = toNumber(sub(first.placed.start, m.placed.start)) > toNumber(m.placed.length) / 2
    out.add(late ? i + 1 : i)
  })
  return out
}

/** Where lines begin and end, by least total badness. Linear in the measures: a line holds but few. */
function breaksOf(b: Breakable, o: SystemOptions): (readonly [from: number, to: number])[] {
  const { measures } = b
  const n = measures.length
  const best: { cost: number; from: number }[] = [{ cost: 0, from: 0 }]
  for (let to = 1; to <= n; to++) {
    let found = { cost: Infinity, from: to - 1 }
    for (let from = to - 1; from >= 0; from--) {
      const count = countOf(measures, from, to)
      if (count > MOST_MEASURES) break
      const cost = best[from]!.cost + badness(b, from, to, count, o)
      if (cost < found.cost) found = { cost, from }
    }
    best[to] = found
  }
  const out: [number, number][] = []
  for (let to = n; to > 0; to = best[to]!.from) out.unshift([best[to]!.from, to])
  return out
}

/** Another ending of one measure, beside the first: to the reader both are the same place. */
function isOtherEnding(m: NotatedMeasure, before: NotatedMeasure | undefined) {
  const [own, first] = [m, before].map(x => x?.placed.measure.endings?.join())
  return own !== undefined && first !== undefined && own !== first
}

/** Measures that count: a short one that leads in does not, nor another ending beside its first. */
function countOf(measures: readonly NotatedMeasure[], from: number, to: number): number {
  let count = 0
  for (let i = from; i < to; i++)
    if (
      !isLeadIn(measures[i]!, measures[i - 1]) &&
      !(i > from && isOtherEnding(measures[i]!, measures[i - 1]))
    )
      count++
  return Math.max(1, count)
}

function badness(
  { measures, columns, phrases }: Breakable,
  from: number,
  to: number,
  count: number,
  o: SystemOptions,
) {
  const [least, good] = widths(measures, columns, from, to, o)
  const last = to === measures.length
  let bad = 0
  // What leads in belongs to what it leads into.
  let begun = from
  while (begun < to && isLeadIn(measures[begun]!, measures[begun - 1])) begun++
  for (let i = begun + 1; i < to; i++) {
    if (beginsPart(measures[i]!)) bad += BAD.partInside
    else if (phrases.has(i)) bad += BAD.phraseInside
  }
  const asked = o.breaks ?? {}
  for (let i = from + 1; i < to; i++) {
    const wish = asked[measures[i]!.placed.measure.id]
    if (wish === 'line' || wish === 'page') bad += BAD.against
  }
  if (!last && asked[measures[to]!.placed.measure.id] === 'none') bad += BAD.against
  const ends = last || beginsPart(measures[to]!)
  if (ends && count === 1 && from > 0) bad += BAD.lonely
  if (count < MOST_MEASURES && !ends)
    bad += BAD.fewer * (MOST_MEASURES - count) + (count % 2 === 1 ? BAD.odd : 0)
  if (least > o.width) return bad + (to - from > 1 ? BAD.over : BAD.crowded) + (least - o.width) / o.width
  if (good > o.width) return bad + BAD.crowded * ((good - o.width) / Math.max(1e-9, good - least)) ** 2
  const thin = (o.width - good) / Math.max(1e-9, good)
  return bad + (last ? 0.2 : 1) * BAD.thin * Math.min(4, thin * thin)
}

function widths(
  measures: readonly NotatedMeasure[],
  columns: readonly MeasureColumns[],
  from: number,
  to: number,
  o: SystemOptions,
): [least: Mm, good: Mm] {
  const ahead = aheadOf(measures[to - 1]!, measures[to], o)?.width ?? 0
  let [least, good] = [ahead, ahead]
  for (let i = from; i < to; i++) {
    const head = headOf(measures[i]!, measures[i - 1], i === from, o).width
    least += head + columns[i]!.least
    good += head + columns[i]!.good
  }
  return [least, good]
}

function placed(
  measures: readonly NotatedMeasure[],
  columns: readonly MeasureColumns[],
  [before, after]: readonly [NotatedMeasure | undefined, NotatedMeasure | undefined],
  o: SystemOptions,
): Omit<System, 'indent'> {
  const { width } = o
  const heads = headsOf(measures, before, o)
  const headWidth = heads.reduce((t, h) => t + h.width, 0)
  const least = columns.reduce((t, c) => t + c.least, 0)
  const good = columns.reduce((t, c) => t + c.good, 0)
  // Up to its good width a measure grows from its least one; beyond, in proportion to the good one.
  const ahead = aheadOf(measures.at(-1)!, after, o)
  const free = width - headWidth - (ahead?.width ?? 0)
  const share = good > least ? Math.min(1, Math.max(0, (free - least) / (good - least))) : 1
  const beyond = free > good ? free / good : 1
  const squeeze = free < least ? free / least : 1
  let x = 0
  return {
    width,
    ahead,
    measures: measures.map((m, i): SystemMeasure => {
      const c = columns[i]!
      const notes = (c.least + (c.good - c.least) * share) * beyond * squeeze
      const own = { index: m.placed.index, x, width: heads[i]!.width + notes, head: heads[i]! }
      const from = x + heads[i]!.width
      x += own.width
      const at = placesIn(c, notes)
      return {
        ...own,
        columns: c.columns.map(({ at: time, events }, k) => ({
          at: time,
          events,
          x: from + at[k]! * squeeze,
        })),
      }
    }),
  }
}

interface Lines {
  readonly tune: Pick<Tune, 'measures'>
}

/**
 * The parts that can stand line under line with the first: those with as many measures. The others are told
 * of, not dropped in silence.
 */
export function aligned<T extends Lines>(parts: readonly T[]): { together: T[]; apart: T[] } {
  const fits = (p: T) => p.tune.measures.length === parts[0]!.tune.measures.length
  return { together: parts.filter(fits), apart: parts.filter(p => !fits(p)) }
}
