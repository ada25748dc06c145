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

const SHIFT = 6

/** Draws the slurs; returns those that lie over their notes. */
export function drawSlurs(
  ctx: Ctx,
  slurs: Tune['slurs'],
  notes: ReadonlyMap<string, VexNote[]>,
  bars: readonly number[],
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
      const tie = new V.StaveTie({
        first_note: (from ?? null) as never,
        last_note: (to ?? null) as never,
        first_indices: [0],
        last_indices: [0],
      })
      if (bars.length > 0) tie.setContext(ctx).draw()
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

export function drawTies(ctx: Ctx, system: StaffSystem, notes: ReadonlyMap<string, VexNote[]>) {
  const events = system.measures.flatMap(m => m.events.map(e => e.placed))
  events.forEach((p, i) => {
    const own = notes.get(p.event.id) ?? []
    if (p.event.kind !== 'note') return
    const { heads } = p.event
    for (let k = 1; k < own.length; k++)
      heads.forEach((_, head) => tie(ctx, own[k - 1]!, own[k]!, head, head))
    const next = events[i + 1]
    const after = next && notes.get(next.event.id)?.[0]
    // Over the end of the line every tie goes on by itself; else from pitch to pitch.
    if (after) for (const t of tiedOn(p.event, next.event)) tie(ctx, own.at(-1)!, after, t.head, t.next)
    else heads.forEach((h, head) => h.tied && tie(ctx, own.at(-1)!, null, head, head))
  })
}

function tie(ctx: Ctx, a: VexNote, b: VexNote | null, from: number, to: number) {
  new V.StaveTie({ first_note: a as never, last_note: b as never, first_indices: [from], last_indices: [to] })
    .setContext(ctx)
    .draw()
}
