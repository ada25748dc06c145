/**
 * Signs of the hand over the staff: where it stands, what stays down, what is laid in advance, what to
 * prepare.
 */
import type { TabEvent, TabMeasure } from '#core/tablature/tabModel'
import type { Anchor, DrawnStaff } from './drawn'
import { stacked, TEXT_GAP, widthOf, type PlacedText, type Said } from './stacked'
import { el, line, text } from './svg'

export const hasHold = (e: TabEvent) => e.hand?.hold !== undefined
export const hasBlock = (e: TabEvent) => e.hand?.block !== undefined || e.hand?.arrives === 'hop'

const path = (d: string, width = 1.2, dashes?: string) =>
  el('path', {
    d,
    fill: 'none',
    stroke: 'currentColor',
    'stroke-width': width,
    'stroke-dasharray': dashes,
  })

/**
 * Where a span ends in this system: at its last note, or at the right edge when that stands on a later line.
 */
const endOf = (to: string, { anchors, bars }: DrawnStaff) => anchors.get(to)?.x ?? bars.at(-1)! - 4

/** A finger that stays down: a dashed line up to the note it is wanted for. */
export function holdSign(e: TabEvent, a: Anchor, drawn: DrawnStaff, y: number): SVGElement[] {
  const to = e.hand?.hold
  return to === undefined
    ? []
    : [el('g', { class: 'hold-sign' }, [path(`M${a.x} ${y - 3} H${endOf(to, drawn)} v4`, 1, '3 2')])]
}

/** One finger laid over two strings: a bracket over its notes. One that must jump: said in a word. */
export function blockSign(e: TabEvent, a: Anchor, drawn: DrawnStaff, y: number): SVGElement[] {
  const { block, arrives } = e.hand ?? {}
  if (arrives === 'hop') return [text(a.x, y + 1, 'hop', { size: 9.5, italic: true })]
  return block === undefined
    ? []
    : [
        el('g', { class: 'block-sign' }, [
          path(`M${a.x - 5} ${y + 2} v-7 H${endOf(block, drawn) + 5} v7`, 1.8),
        ]),
      ]
}

/** Beside a digit on y: an arrow to put the next finger down now, a slide into it. */
export function fingerSigns(e: TabEvent, a: Anchor, y: number): SVGElement[] {
  const { prepare, arrives } = e.hand ?? {}
  const out: SVGElement[] = []
  if (prepare) {
    const x = a.x + 11
    out.push(el('g', { class: 'prepare-sign' }, [path(`M${x} ${y - 9} v8 m-2.2 -3 l2.2 3 l2.2 -3`, 1)]))
  }
  if (arrives === 'slide')
    out.push(el('g', { class: 'slide-sign' }, [path(`M${a.x - 14} ${y - 1} l6 -6`, 1.3)]))
  return out
}

/** Where half steps are marked instead of places: a line from a digit on y to the next. */
export function halfStepSign(e: TabEvent, a: Anchor, { anchors }: DrawnStaff, y: number): SVGElement[] {
  const next = e.hand?.touches === undefined ? undefined : anchors.get(e.hand.touches)
  return next
    ? [el('g', { class: 'half-step' }, [line(a.x + 6, y - 4, next.x - 6, y - 4, { 'stroke-width': 1.4 })])]
    : []
}

/** Small digits over grace notes. */
export const graceDigits = (
  e: TabEvent,
  a: Anchor,
  staffTop: number,
  glyph: (x: number, y: number, shown: string, size: number) => SVGElement,
) =>
  (e.hand?.grace ?? []).flatMap((shown, i) => {
    const g = a.graces?.[i]
    return g && shown !== ''
      ? [el('g', { class: 'grace-finger' }, [glyph(g.x, Math.min(g.top, staffTop) - 4, shown, 9)])]
      : []
  })

const POSITION_SIZE = 10.5
/** Least length of a bracket. */
const BRACKET = 6

/**
 * "third pos."; with what the hand goes by where the hand's own marks are shown: "third pos., 1 where 4 was".
 * How long the hand stays is told first: the landmark is left out where its bracket would have no room beside
 * it. `from` and `to`: where the hand comes, and the last note played there.
 */
function positionSaid({ position = '', shift }: TabEvent, hand: boolean, from: number, to: number): string {
  if (!hand || !shift?.landmark) return position
  const full = `${position}, ${shift.landmark}`
  const leavesRoom = (said: string) => from + widthOf(said, POSITION_SIZE) + TEXT_GAP + BRACKET < to
  return leavesRoom(full) || !leavesRoom(position) ? full : position
}

export const POSITION_ROW = 11

/** Where the names of positions stand. */
export function positionNames(measures: readonly TabMeasure[], { anchors, bars }: DrawnStaff, hand: boolean) {
  const events = measures.flatMap(m => m.events)
  const texts = events.flatMap((e, i): Said[] => {
    const a = anchors.get(e.id)
    if (!a || e.position === undefined) return []
    let last = i
    while (e.away && events[last + 1]?.away && events[last + 1]!.position === undefined) last++
    const said = positionSaid(e, hand, a.x - 5, (anchors.get(events[last]!.id)?.x ?? 0) + 8)
    return [{ id: e.id, said, x: a.x - 5 }]
  })
  return stacked(texts, POSITION_SIZE, bars.at(-1)!)
}

/**
 * The name of every position where the hand comes to it, and a bracket to the last note played there while
 * the hand is away from first position.
 */
export function positionSigns(
  measures: readonly TabMeasure[],
  drawn: DrawnStaff,
  y: number,
  hand: boolean,
): SVGElement[] {
  const { anchors, bars } = drawn
  const { texts: names } = positionNames(measures, drawn, hand)
  const heightOf = (name: PlacedText) => y - name.row * POSITION_ROW
  const brackets: { from: number; to: number; y: number }[] = []
  let open: (typeof brackets)[number] | null = null
  for (const e of measures.flatMap(m => m.events)) {
    const a = anchors.get(e.id)
    if (!a) continue
    if (e.position !== undefined || !e.away) open = null
    if (!e.away) continue
    const name = names.get(e.id)
    if (!open) {
      open = { from: (name?.end ?? bars[0]!) + TEXT_GAP, to: 0, y: name ? heightOf(name) : y }
      brackets.push(open)
    }
    open.to = a.x + 8
  }
  const all = [...names.values()]
  // At the end of a line a name begins before its note: a bracket ends where the next name in its row begins.
  const shown = brackets.map(b => ({
    ...b,
    to: Math.min(b.to, ...all.filter(n => heightOf(n) === b.y && n.x >= b.from).map(n => n.x - TEXT_GAP)),
  }))
  return [
    ...all.map(n => text(n.x, heightOf(n), n.said, { size: POSITION_SIZE, italic: true, anchor: 'start' })),
    ...shown
      .filter(b => b.to > b.from + BRACKET)
      .map(b => el('g', { class: 'position-bracket' }, [path(`M${b.from} ${b.y - 4} H${b.to} v5`, 1)])),
  ]
}
