/** Slurs and ties of one line of staff notation. */
import { tiedOn } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { Ctx, StaffSystem, VexNote } from './staff'
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

const SHIFT = 6

/** Draws the slurs; returns those that lie over their notes. */
export function drawSlurs(
  ctx: Ctx,
  slurs: Tune['slurs'],
  notes: ReadonlyMap<string, VexNote[]>,
  line: LineEdges,
): Arc[] {
  const above: Arc[] = []
  for (const s of slurs) {
    const from = notes.get(s.from)?.[0]
    const to = notes.get(s.to)?.[0]
    if (!from && !to) continue
    if (from instanceof V.StaveNote && to instanceof V.StaveNote) {
      // Flat for neighbours, rounder over more notes.
      const bend = Math.min(12, 3 + (to.getAbsoluteX() - from.getAbsoluteX()) * 0.06)
      new V.Curve(from, to, { cps: [{ x: 0, y: bend }, { x: 0, y: bend }], thickness: 1.6, y_shift: SHIFT }).setContext(ctx).draw() // prettier-ignore
      if (from.getStemDirection() === V.Stem.DOWN) above.push(arcOver(from, to, bend))
    } else {
      // The slur goes on to the next line, or comes from the one before.
      if (from) goesOn(ctx, from, line)
      else comesIn(ctx, to!, line, 0)
    }
  }
  return above
}

/** A cubic curve whose two control points lie `bend` over its ends: 3t(1 − t) of it above the line between them. */
function arcOver(
  a: InstanceType<typeof V.StaveNote>,
  b: InstanceType<typeof V.StaveNote>,
  bend: number,
): Arc {
  const [from, to] = [a.getNoteHeadBeginX(), b.getNoteHeadEndX()]
  const [y1, y2] = [a.getStemExtents().baseY - SHIFT, b.getStemExtents().baseY - SHIFT]
  const yAt = (x: number) => {
    const t = Math.max(0, Math.min(1, (x - from) / (to - from)))
    return y1 + (y2 - y1) * t - 3 * t * (1 - t) * bend
  }
  return { from, to, yAt }
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
  if (begins && first.kind === 'note') for (const t of tiedOn(last, first)) comesIn(ctx, begins, line, t.next, bowed(first.heads, t.next)) // prettier-ignore
  events.forEach((p, i) => {
    const own = notes.get(p.event.id) ?? []
    if (p.event.kind !== 'note') return
    const { heads } = p.event
    for (let k = 1; k < own.length; k++) heads.forEach((_, h) => tieTo(ctx, own[k - 1]!, own[k]!, h, h, bowed(heads, h))) // prettier-ignore
    const next = events[i + 1]
    const after = next && notes.get(next.event.id)?.[0]
    // Over the end of the line every tie goes on by itself; else from pitch to pitch.
    if (after)
      for (const t of tiedOn(p.event, next.event)) tieTo(ctx, own.at(-1)!, after, t.head, t.next, bowed(heads, t.head)) // prettier-ignore
    else heads.forEach((h, head) => h.tied && tieTo(ctx, own.at(-1)!, null, head, head, bowed(heads, head)))
  })
}

/** Of notes together the lower ones are tied below, the upper ones above; one alone is tied on the side of its head. */
const bowed = (heads: readonly unknown[], head: number) =>
  heads.length < 2 ? undefined : head < heads.length / 2 ? BELOW : ABOVE
const BELOW = 1
const ABOVE = -1
/** Least room for an arc that comes in from the line before. */
const COMES_IN = 20

function tieTo(ctx: Ctx, a: VexNote, b: VexNote | null, from: number, to: number, side?: number) {
  const arc = new V.StaveTie({ first_note: a as never, last_note: b as never, first_indices: [from], last_indices: [to] }) // prettier-ignore
  if (side !== undefined) arc.setDirection(side)
  arc.setContext(ctx).draw()
}

/** From the beginning of the line to the note, over all that lies between. */
function comesIn(ctx: Ctx, note: VexNote, line: LineEdges, head: number, side?: number) {
  if (!(note instanceof V.StaveNote)) return
  const x = note.getTieLeftX()
  openArc(ctx, note, head, Math.min(line.from, x - COMES_IN), x, side)
}

/** From the note to the end of the line. */
function goesOn(ctx: Ctx, note: VexNote, line: LineEdges) {
  if (note instanceof V.StaveNote) openArc(ctx, note, 0, note.getTieRightX(), line.to)
}

function openArc(
  ctx: Ctx,
  note: InstanceType<typeof V.StaveNote>,
  head: number,
  from: number,
  to: number,
  side?: number,
) {
  const arc = new V.StaveTie({ first_note: null as never, last_note: note, first_indices: [head], last_indices: [head] }) // prettier-ignore
  const ys = note.getYs()
  arc.setContext(ctx)
  arc.renderTie({ first_x_px: from, last_x_px: to, first_ys: ys, last_ys: ys, direction: side ?? note.getStemDirection() }) // prettier-ignore
}
