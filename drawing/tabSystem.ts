/**
 * A line of tablature by itself: metre, bars, digits, slurs, marks over it, the rhythm and the words under
 * it. No staff is needed to play from it.
 */
import { toNumber } from '#core/music/fraction'
import type { PagePart, System } from '#core/page/systems'
import { marksHeight, staffMarks } from './marks'
import type { Anchor, DrawnStaff } from './drawn'
import { el, line, text } from './svg'
import {
  cut,
  leftOf,
  measureNumber,
  partName,
  underSigns,
  words,
  type DrawnSystem,
  type SystemOptions,
} from './systemParts'
import { drawTab, TAB_GAP_ALONE } from './tab'
import { UNITS } from './measurer'

const TOP = 160
/** Room over the lines for digits on the uppermost, and for slurs. */
const OVER = 7
const SLUR = 14

export function tabSystem(part: PagePart, system: System, o: SystemOptions): DrawnSystem {
  const { notated, tab: model } = part
  const scale = UNITS / o.space
  const left = leftOf(system, o)
  const measures = system.measures.map(m => model.measures[m.index]!)
  const music = system.measures.map(m => notated.measures[m.index]!)
  const bottom = TOP + (model.lineLabels.length - 1) * TAB_GAP_ALONE
  const slurred = measures.some(m => m.events.some(e => e.joined))
  const top = TOP - (slurred ? SLUR : OVER)
  const anchors = new Map<string, Anchor>(
    system.measures.flatMap(m =>
      m.columns.flatMap(c =>
        c.events.flatMap(id =>
          id === null
            ? []
            : [[id, { x: left + c.x * scale, top, bottom, headTop: TOP, headBottom: bottom }] as const],
        ),
      ),
    ),
  )
  const last = system.measures.at(-1)!
  const bars = [...system.measures.map(m => left + m.x * scale), left + (last.x + last.width) * scale]
  const drawn: DrawnStaff = { anchors, bars, end: bars.at(-1)!, top, bottom, wordsTop: bottom, wordLines: 0 }
  const marks = { ...o.marks, fingers: false }
  const svg = el('svg', { xmlns: 'http://www.w3.org/2000/svg' }) as SVGSVGElement
  const g = el('g', { class: 'nokta-marks' })
  g.append(
    staffMarks(measures, drawn, marks),
    ...slurs(
      measures.flatMap(m => m.events),
      anchors,
    ),
  )
  const { height } = drawTab(g, measures, music, drawn, model.lineLabels, TOP, TAB_GAP_ALONE)
  system.measures.forEach((m, i) => {
    const { metre } = music[i]!.placed
    if (m.head.metre)
      g.append(
        ...metreSign(left + (m.x + m.head.width) * scale - 16, (TOP + bottom) / 2, metre.beats, metre.unit),
      )
  })
  const under = underSigns(part, system, anchors, TOP + height)
  const wordsTop = TOP + height + under.height
  g.append(...under.signs, words(music, anchors, wordsTop))
  if (part.label !== undefined) g.append(partName(part.label, left, drawn))
  if (o.marks.numbers) g.append(measureNumber(measures[0]!, drawn))
  svg.append(g)
  const verses = Math.max(
    0,
    ...music.flatMap(m =>
      m.events.map(e => (e.placed.event.kind === 'note' ? (e.placed.event.syllables?.length ?? 0) : 0)),
    ),
  )
  return cut(
    svg,
    anchors,
    top - marksHeight(measures, drawn, marks),
    wordsTop + verses * 15 + 4,
    o.width,
    TOP,
    bottom,
  )
}

/** From the first note of a bow to its last. */
function slurs(
  events: PagePart['tab']['measures'][number]['events'],
  anchors: ReadonlyMap<string, Anchor>,
): SVGElement[] {
  const out: SVGElement[] = []
  let from: number | null = null
  let to: number | null = null
  const close = () => {
    if (from !== null && to !== null) out.push(arc(from, to))
    from = to = null
  }
  for (const e of events) {
    const x = anchors.get(e.id)?.x
    if (x === undefined || e.rest || toNumber(e.duration) === 0) continue
    if (e.joined) to = x
    else {
      close()
      from = x
    }
  }
  close()
  return out
}

const arc = (from: number, to: number) =>
  el('path', {
    d: `M${from} ${TOP - 4} C${from + 6} ${TOP - 4 - SLUR} ${to - 6} ${TOP - 4 - SLUR} ${to} ${TOP - 4}`,
    fill: 'none',
    stroke: 'currentColor',
    'stroke-width': 1.5,
  })

const metreSign = (x: number, middle: number, beats: number, unit: number) => [
  text(x, middle - 1.5, String(beats), { size: 17, bold: true }),
  line(x - 6, middle, x + 6, middle, { 'stroke-width': 1 }),
  text(x, middle + 14, String(unit), { size: 17, bold: true }),
]
