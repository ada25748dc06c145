/** What a system with a staff and one of tab alone share: numbers, words and signs under the notes, the cut. */
import type { Mm } from '#core/instruments/instruments'
import type { MarkOptions } from '#core/page/marks'
import { NAME_FACE, type PagePart, type System } from '#core/page/systems'
import { UNITS } from './measurer'
import type { TabMeasure } from '#core/tablature/tabModel'
import type { Anchor, DrawnStaff, StaffSystem } from './drawn'
import { el, text } from './svg'

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

/** Where the staff of a system begins. */
export const leftOf = ({ indent }: System, { space }: Pick<SystemOptions, 'space'>) =>
  LEFT + (indent * UNITS) / space

/** Between the staff and the bracket, and between the bracket and the names. */
const BRACKET_AT = 17
const NAME_AT = 24
/** The name of a part, to the left of the middle of its staff. */
export const partName = (label: string, left: number, { top, bottom }: Pick<DrawnStaff, 'top' | 'bottom'>) =>
  text(left - NAME_AT, (top + bottom) / 2 + 4, label, { size: NAME_FACE * UNITS, anchor: 'end' })

/** What holds the parts of a line together: a line at their left, and a bracket. In units of the drawing. */
export function bracketOf(left: number, top: number, bottom: number): SVGElement {
  const x = left - BRACKET_AT
  return el('g', { class: 'bracket', stroke: 'currentColor', fill: 'none' }, [
    el('path', { d: `M${left} ${top}V${bottom}`, 'stroke-width': 1.2 }),
    el('path', { d: `M${x} ${top - 3}V${bottom + 3}`, 'stroke-width': 3 }),
    el('path', {
      d: `M${x - 1.5} ${top - 3}q5 -1 8 -5M${x - 1.5} ${bottom + 3}q5 1 8 5`,
      'stroke-width': 1.4,
    }),
  ])
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
