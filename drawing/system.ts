/**
 * A whole system: staff, marks, words and tab, in one SVG of its own. The bench and the sheet draw with the
 * same code.
 */
import type { Mm } from '#core/instruments/instruments'
import type { Rows } from '#core/page/columns'
import type { PagePart, System } from '#core/page/systems'
import type { TabMeasure } from '#core/tablature/tabModel'
import { highestOf, marksHeight, staffMarks, type MarkOptions } from './marks'
import { drawTab } from './tab'
import { tabSystem } from './tabSystem'
import { drawStaff, type Anchor, type DrawnStaff, type StaffSystem } from './staff'
import { dynamicSign } from './signs'
import { el, text } from './svg'
import { UNITS } from './measurer'
import { V } from './vex'

export interface SystemOptions {
  /** Width of the drawing, in its own units. */
  readonly width: number
  /** Distance of two staff lines in the page model. */
  readonly space: Mm
  readonly tab: boolean
  /** Without it the tab stands alone, with its own bars, metre and signs. */
  readonly staff?: boolean
  readonly marks: MarkOptions
}

export interface DrawnSystem {
  readonly svg: SVGSVGElement
  readonly anchors: ReadonlyMap<string, Anchor>
  readonly height: number
  /** Vertical extent of the staff, for highlights. */
  readonly staffTop: number
  readonly staffBottom: number
}

/** Room for the string letters left of the tab, and for the last barline, in units of the drawing. */
export const LEFT = 22
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
  if (o.staff === false) return tabSystem(part, system, o)
  const { notated, tab: model } = part
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
  const drawn = drawStaff(ctx, staff, { tune: notated.tune, x: LEFT, y: staffY })
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

/** From one line of small text under the staff to the next. */
const UNDER = 14

/** Names of notes and counting under their notes. */
export function underSigns(
  { under, notated }: PagePart,
  system: System,
  anchors: ReadonlyMap<string, Pick<Anchor, 'x'>>,
  top: number,
): { readonly signs: readonly SVGElement[]; readonly height: number } {
  const ids = system.measures.flatMap(m => notated.measures[m.index]!.events.map(e => e.placed.event.id))
  const lines = Math.max(0, ...ids.map(id => under?.get(id)?.length ?? 0))
  const signs = ids.flatMap(id => {
    const x = anchors.get(id)?.x
    return x === undefined
      ? []
      : (under?.get(id) ?? []).flatMap((said, i) =>
          said === '' ? [] : [text(x, top + 11 + i * UNDER, said, { size: 11.5 })],
        )
  })
  return { signs, height: lines * UNDER }
}

/** Over the left end of the line, where the first measure is not also the first of the tune. */
export const measureNumber = ({ number }: TabMeasure, { bars, top }: Pick<DrawnStaff, 'bars' | 'top'>) =>
  text(bars[0]! - 2, top - 5, number > 1 ? String(number) : '', { size: 10, anchor: 'end' })

/** Words under their notes, a line a verse; a hyphen stands between the syllables of a word. */
export function words(
  measures: StaffSystem['measures'],
  anchors: ReadonlyMap<string, Pick<Anchor, 'x'>>,
  top: number,
): SVGElement {
  const g = el('g', { class: 'words' })
  for (const { event } of measures.flatMap(m => m.events.map(e => e.placed))) {
    const x = anchors.get(event.id)?.x
    if (event.kind !== 'note' || x === undefined) continue
    event.syllables?.forEach((s, verse) => {
      if (s) g.append(text(x, top + 12 + verse * 15, s.text + (s.hyphen ? ' -' : ''), { size: 13 }))
    })
  }
  return g
}

/** Cuts the picture to what is drawn; positions are given in the cut picture. */
export function cut(
  svg: SVGSVGElement,
  anchors: ReadonlyMap<string, Anchor>,
  top: number,
  bottom: number,
  width: number,
  staffTop: number,
  staffBottom: number,
): DrawnSystem {
  const height = bottom - top
  svg.setAttribute('viewBox', `0 ${top} ${width} ${height}`)
  svg.setAttribute('width', String(width))
  svg.setAttribute('height', String(height))
  svg.removeAttribute('style')
  const moved = new Map(
    [...anchors].map(([id, a]) => [
      id,
      {
        x: a.x,
        top: a.top - top,
        bottom: a.bottom - top,
        headTop: a.headTop - top,
        headBottom: a.headBottom - top,
        ...(a.signTop !== undefined && { signTop: a.signTop - top }),
        ...(a.graces && { graces: a.graces.map(g => ({ x: g.x, top: g.top - top })) }),
      },
    ]),
  )
  return { svg, anchors: moved, height, staffTop: staffTop - top, staffBottom: staffBottom - top }
}
