/**
 * A whole system: staff, marks, words and tab, in one SVG of its own. The bench and the sheet draw with the
 * same code.
 */
import type { Rows } from '#core/page/columns'
import { marksIn, type MarkOptions } from '#core/page/marks'
import type { PagePart, System } from '#core/page/systems'
import { highestOf, marksHeight, staffMarks } from './marks'
import { drawTab } from './tab'
import { tabSystem } from './tabSystem'
import { drawStaff } from './staff'
import type { StaffSystem } from './drawn'
import {
  cut,
  LEFT,
  leftOf,
  measureNumber,
  partName,
  underSigns,
  words,
  type DrawnSystem,
  type SystemOptions,
} from './systemParts'
import { dynamicSign } from './signs'
import { el } from './svg'
import { UNITS } from './measurer'
import { V } from './vex'

const RIGHT = 2

/** What a drawing takes beside its staff. */
export const OUTSIDE = LEFT + RIGHT

/** What stands in a row beside the notes: the page model leaves room for it. */
export const rowsOf = (tab: boolean, marks: MarkOptions): Rows => ({
  fingers: marks.fingers,
  bows: marks.bows,
  tab,
  chords: marks.chords,
})

export function drawSystem(part: PagePart, system: System, o: SystemOptions): DrawnSystem {
  const own = {
    ...o,
    tab: part.marks?.tab ?? o.tab,
    marks: marksIn(o.marks, part.marks),
  }
  return o.staff === false ? tabSystem(part, system, own) : staffSystem(part, system, own)
}

function staffSystem(part: PagePart, system: System, o: SystemOptions): DrawnSystem {
  const { notated, tab: model } = part
  const left = leftOf(system, o)
  const measures = system.measures.map(m => model.measures[m.index]!)
  const staff: StaffSystem = {
    measures: system.measures.map(m => notated.measures[m.index]!),
    placed: system.measures,
    ahead: system.ahead,
    scale: UNITS / o.space,
  }
  const holder = document.createElement('div')
  const renderer = new V.Renderer(holder, V.Renderer.Backends.SVG)
  renderer.resize(o.width, 400)
  const ctx = renderer.getContext()
  ctx.setFillStyle('currentColor').setStrokeStyle('currentColor')
  // Drawn once at a guess; the height above the staff is then known and the picture is cut to it.
  const staffY = 160
  const drawn = drawStaff(ctx, staff, { tune: notated.tune, x: left, y: staffY })
  const svg = holder.querySelector('svg')!
  const g = el('g', { class: 'nokta-marks' })
  const dynamics = o.marks.signs ? measures.flatMap(m => m.events).filter(e => e.dynamic) : []
  const underTop = drawn.wordsTop + (dynamics.length > 0 ? 18 : 0)
  const under = underSigns(part, system, drawn.anchors, underTop)
  const wordsTop = underTop + under.height
  g.append(
    staffMarks(measures, drawn, o.marks),
    ...under.signs,
    words(staff.measures, drawn.anchors, wordsTop),
  )
  if (part.label !== undefined) g.append(partName(part.label, left, drawn))
  if (o.marks.numbers) g.append(measureNumber(measures[0]!, drawn))
  for (const e of dynamics) {
    const x = drawn.anchors.get(e.id)?.x
    if (x !== undefined) g.append(dynamicSign(e, x, drawn.wordsTop + 12))
  }
  const below = Math.max(wordsTop + drawn.wordLines * 15, drawn.bottom + 14)
  let bottom = below + 4
  if (o.tab)
    bottom = below + 8 + drawTab(g, measures, staff.measures, drawn, model.lineLabels, below + 8).height
  svg.append(g)
  const top = highestOf(measures, drawn) - marksHeight(measures, drawn, o.marks)
  return cut(svg, drawn.anchors, top, bottom, o.width, drawn.top, drawn.bottom)
}
