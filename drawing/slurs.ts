/** Slurs and ties of one line of staff notation. */
import { tiedOn } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { Ctx, StaffSystem, VexNote } from './drawn'
import { V } from './vex'

/** A slur over the heads: what stands above its notes must stand above it too. */
export interface Arc {
  readonly from: number
  readonly to: number
  /** y of the arc over an x between the two. */
  readonly yAt: (x: number) => number
}

/** Where the notes of a line begin, and where it ends. */
export interface LineEdges {
  readonly from: number
  readonly to: number
}

type Note = InstanceType<typeof V.StaveNote>

/** From a head or a stem's end to the end of a slur; from a slur to what it goes over. */
const OFF = 4
const CLEAR = 3
/** A slur bends no more than this: over what is higher still all of it lies higher. */
const MOST_BEND = 26

/** Draws what of the slurs lies on this line; returns those over their notes. */
export function drawSlurs(
  ctx: Ctx,
  tune: Tune,
  notes: ReadonlyMap<string, VexNote[]>,
  line: LineEdges,
): Arc[] {
  if (tune.slurs.length === 0) return []
  const order = orderOf(tune)
  const own = [...notes].flatMap(([id, [note]]) =>
    note instanceof V.StaveNote ? [{ at: order.get(id)!, note }] : [],
  )
  return tune.slurs.flatMap(s => {
    const [from, to] = [order.get(s.from)!, order.get(s.to)!]
    const under = own.filter(n => n.at >= from && n.at <= to)
    if (under.length === 0) return []
    const first = under[0]!.at === from ? under[0]!.note : null
    const last = under.at(-1)!.at === to ? under.at(-1)!.note : null
    const slur = slurOver(
      under.map(u => u.note),
      first,
      last,
      line,
    )
    drawSlur(ctx, slur)
    return slur.side === ABOVE ? [{ from: slur.x1, to: slur.x2, yAt: (x: number) => yOf(slur, x) }] : []
  })
}

/** A crescent: thin at its ends. */
function drawSlur(ctx: Ctx, { x1, y1, x2, y2, bend, side }: Slur) {
  const third = (x2 - x1) / 3
  const [inner, outer] = [side * bend, side * (bend + THICK)]
  ctx.openGroup('slur')
  ctx.beginPath()
  ctx.moveTo(x1, y1)
  ctx.bezierCurveTo(x1 + third, y1 + inner, x2 - third, y2 + inner, x2, y2)
  ctx.bezierCurveTo(x2 - third, y2 + outer, x1 + third, y1 + outer, x1, y1)
  ctx.stroke()
  ctx.fill()
  ctx.closeGroup()
}
const THICK = 1.6

/** The place of every event in its tune. */
function orderOf(tune: Tune): ReadonlyMap<string, number> {
  const known = ORDERS.get(tune)
  if (known) return known
  const order = new Map(tune.measures.flatMap(m => m.events).map((e, i) => [e.id as string, i]))
  ORDERS.set(tune, order)
  return order
}
const ORDERS = new WeakMap<Tune, ReadonlyMap<string, number>>()

interface Slur {
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
  readonly bend: number
  readonly side: number
}

/**
 * A cubic curve whose two control points lie `bend` off its ends, at its thirds: 3t(1 − t) of it off the line
 * between them.
 */
function yOf({ x1, y1, x2, y2, bend, side }: Slur, x: number): number {
  const t = Math.max(0, Math.min(1, (x - x1) / (x2 - x1)))
  return y1 + (y2 - y1) * t + side * 3 * t * (1 - t) * bend
}

/**
 * The slur over some notes, on the side of their heads: below where every stem goes up, else above. Without a
 * first or a last note it goes on to the line's edge. It is flat for neighbours and rounder over more notes,
 * and goes clear of the notes between its ends.
 */
function slurOver(under: readonly Note[], first: Note | null, last: Note | null, line: LineEdges): Slur {
  const side = under.every(n => n.getStemDirection() === V.Stem.UP) ? BELOW : ABOVE
  const edge = (n: Note) => edgeOf(n, side) + side * OFF
  const x2 = last ? last.getNoteHeadBeginX() + HEAD.width / 2 : line.to
  const x1 = first ? first.getNoteHeadBeginX() + HEAD.width / 2 : Math.min(line.from, x2 - COMES_IN)
  const y1 = edge(first ?? last ?? under[0]!)
  const y2 = edge(last ?? first ?? under.at(-1)!)
  const plain = { x1, y1, x2, y2, bend: Math.min(12, 3 + (x2 - x1) * 0.06), side }
  const between = under
    .filter(n => n !== first && n !== last)
    .map(n => ({ x: n.getNoteHeadBeginX() + HEAD.width / 2, y: edgeOf(n, side) + side * CLEAR }))
  /** How far a note reaches out over a slur. */
  const over = (slur: Slur, { x, y }: { x: number; y: number }) => Math.max(0, side * (y - yOf(slur, x)))
  const wanted = between.map(b => {
    const t = Math.max(0.05, Math.min(0.95, (b.x - x1) / (x2 - x1)))
    return plain.bend + over(plain, b) / (3 * t * (1 - t))
  })
  const bent = { ...plain, bend: Math.max(plain.bend, Math.min(MOST_BEND, Math.max(0, ...wanted))) }
  const off = side * Math.max(0, ...between.map(b => over(bent, b)))
  return { ...bent, y1: bent.y1 + off, y2: bent.y2 + off }
}

const HEAD = { width: 12, height: 10 }

/** The outermost of a note's heads and stem on one side. */
function edgeOf(n: Note, side: number): number {
  if (side === ABOVE && n.getStemDirection() === V.Stem.UP && n.hasStem()) return n.getStemExtents().topY
  const ys = n.getYs()
  return (side === ABOVE ? Math.min(...ys) : Math.max(...ys)) + (side * HEAD.height) / 2
}

export function drawTies(
  ctx: Ctx,
  system: StaffSystem,
  notes: ReadonlyMap<string, VexNote[]>,
  tune: Tune,
  line: LineEdges,
) {
  const events = system.measures.flatMap(m => m.events.map(e => e.placed))
  // What was tied over the end of the line before comes in at the beginning of this one.
  const first = events[0]?.event
  const last = tune.measures[(system.measures[0]?.placed.index ?? 0) - 1]?.events.at(-1)
  const begins = first && notes.get(first.id)?.[0]
  if (begins && first.kind === 'note')
    for (const t of tiedOn(last, first)) comesIn(ctx, begins, line, t.next, bowed(first.heads, t.next))
  events.forEach((p, i) => {
    const own = notes.get(p.event.id) ?? []
    if (p.event.kind !== 'note') return
    const { heads } = p.event
    for (let k = 1; k < own.length; k++)
      heads.forEach((_, h) => tieTo(ctx, own[k - 1]!, own[k]!, h, h, bowed(heads, h)))
    const next = events[i + 1]
    const after = next && notes.get(next.event.id)?.[0]
    // Over the end of the line every tie goes on by itself; else from pitch to pitch.
    if (after)
      for (const t of tiedOn(p.event, next.event))
        tieTo(ctx, own.at(-1)!, after, t.head, t.next, bowed(heads, t.head))
    else heads.forEach((h, head) => h.tied && tieTo(ctx, own.at(-1)!, null, head, head, bowed(heads, head)))
  })
}

/**
 * Of notes together the lower ones are tied below, the upper ones above; one alone is tied on the side of its
 * head.
 */
const bowed = (heads: readonly unknown[], head: number) =>
  heads.length < 2 ? undefined : head < heads.length / 2 ? BELOW : ABOVE
const BELOW = 1
const ABOVE = -1
/** Least room for an arc that comes in from the line before. */
const COMES_IN = 20

function tieTo(ctx: Ctx, a: VexNote, b: VexNote | null, from: number, to: number, side?: number) {
  const arc = new V.StaveTie({
    first_note: a as never,
    last_note: b as never,
    first_indices: [from],
    last_indices: [to],
  })
  if (side !== undefined) arc.setDirection(side)
  arc.setContext(ctx).draw()
}

/** From the beginning of the line to the note, over all that lies between. */
function comesIn(ctx: Ctx, note: VexNote, line: LineEdges, head: number, side?: number) {
  if (!(note instanceof V.StaveNote)) return
  const x = note.getTieLeftX()
  openArc(ctx, note, head, Math.min(line.from, x - COMES_IN), x, side)
}

function openArc(
  ctx: Ctx,
  note: InstanceType<typeof V.StaveNote>,
  head: number,
  from: number,
  to: number,
  side?: number,
) {
  const arc = new V.StaveTie({
    first_note: null as never,
    last_note: note,
    first_indices: [head],
    last_indices: [head],
  })
  const ys = note.getYs()
  arc.setContext(ctx)
  arc.renderTie({
    first_x_px: from,
    last_x_px: to,
    first_ys: ys,
    last_ys: ys,
    direction: side ?? note.getStemDirection(),
  })
}
