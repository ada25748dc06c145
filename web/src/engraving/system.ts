/** A whole system: staff, marks, words and tab, in one SVG of its own. The bench and the sheet draw with the same code. */
import Vex from 'vexflow/bravura'
import { placeEvents, placeMeasures, type Placed, type PlacedMeasure } from '#core/music/timeline'
import type { Tune } from '#core/music/tune'
import type { TabMeasure, TabModel } from '#core/tablature/tabModel'
import { drawTab, marksHeight, staffMarks, type MarkOptions } from './marks'
import { drawStaff, type Anchor, type DrawnStaff, type StaffSystem } from './staff'
import { dynamicSign } from './signs'
import { el, text } from './svg'

export interface PlacedTune {
  readonly tune: Tune
  readonly measures: readonly PlacedMeasure[]
  readonly events: ReadonlyMap<number, readonly Placed[]>
}

export function placeTune(tune: Tune): PlacedTune {
  const events = new Map<number, Placed[]>()
  for (const p of placeEvents(tune)) {
    const list = events.get(p.measure.index)
    if (list) list.push(p)
    else events.set(p.measure.index, [p])
  }
  return { tune, measures: placeMeasures(tune), events }
}

export interface SystemOptions {
  readonly width: number
  readonly tab: boolean
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

/** Room for the string letters left of the tab. */
const LEFT = 22

export function drawSystem(
  placed: PlacedTune,
  model: TabModel,
  index: number,
  o: SystemOptions,
): DrawnSystem {
  const measures = model.systems[index]!
  const own = measures.map(m => placed.measures[m.index]!)
  const system: StaffSystem = {
    measures: own,
    events: new Map(own.map(m => [m.index, placed.events.get(m.index) ?? []])),
    first: index === 0,
    ...(own[0]!.index > 0 && { previous: placed.measures[own[0]!.index - 1]! }),
  }
  const holder = document.createElement('div')
  const renderer = new Vex.Flow.Renderer(holder, Vex.Flow.Renderer.Backends.SVG)
  renderer.resize(o.width, 400)
  const ctx = renderer.getContext()
  ctx.setFillStyle('currentColor').setStrokeStyle('currentColor')
  // Drawn once at a guess; the height above the staff is then known and the picture is cut to it.
  const staffY = 160
  const width = lastIsShort(index, model) ? o.width * shareOfLast(measures, model) : o.width
  const drawn = drawStaff(ctx, system, { tune: placed.tune, x: LEFT, y: staffY, width: width - LEFT - 2 })
  const svg = holder.querySelector('svg')!
  const g = el('g', { class: 'nokta-marks' })
  const dynamics = o.marks.signs ? measures.flatMap(m => m.events).filter(e => e.dynamic) : []
  const wordsTop = drawn.wordsTop + (dynamics.length > 0 ? 18 : 0)
  g.append(staffMarks(measures, drawn, o.marks), words(system, drawn, wordsTop))
  for (const e of dynamics) {
    const x = drawn.anchors.get(e.id)?.x
    if (x !== undefined) g.append(dynamicSign(e, x, drawn.wordsTop + 12))
  }
  const below = Math.max(wordsTop + drawn.wordLines * 15, drawn.bottom + 14)
  let bottom = below + 4
  if (o.tab) bottom = below + 8 + drawTab(g, measures, drawn, model.lineLabels, below + 8).height
  svg.append(g)
  const highest = Math.min(drawn.top, ...[...drawn.anchors.values()].map(a => a.top))
  const top = highest - marksHeight(measures, o.marks)
  return cut(svg, drawn.anchors, top, bottom, o.width, drawn.top, drawn.bottom)
}

/** The last line of a tune is not stretched over the whole width when it holds much less than the others. */
const lastIsShort = (index: number, model: TabModel) => index > 0 && index === model.systems.length - 1

function shareOfLast(measures: readonly TabMeasure[], model: TabModel): number {
  const size = (s: readonly TabMeasure[]) => s.reduce((t, m) => t + Math.max(2, m.events.length), 0)
  const usual = size(model.systems[0]!)
  const share = size(measures) / Math.max(1, usual)
  return share > 0.7 ? 1 : Math.max(0.35, share + 0.12)
}

/** Words under their notes, a line a verse; a hyphen stands between the syllables of a word. */
function words(system: StaffSystem, drawn: DrawnStaff, top: number): SVGElement {
  const g = el('g', { class: 'words' })
  for (const { event } of system.measures.flatMap(m => system.events.get(m.index) ?? [])) {
    const x = drawn.anchors.get(event.id)?.x
    if (event.kind !== 'note' || x === undefined) continue
    event.syllables?.forEach((s, verse) => {
      if (s) g.append(text(x, top + 12 + verse * 15, s.text + (s.hyphen ? ' -' : ''), { size: 13 }))
    })
  }
  return g
}

/** Cuts the picture to what is drawn; positions are given in the cut picture. */
function cut(
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
        ...(a.graces && { graces: a.graces.map(g => ({ x: g.x, top: g.top - top })) }),
      },
    ]),
  )
  return { svg, anchors: moved, height, staffTop: staffTop - top, staffBottom: staffBottom - top }
}
