/** What a part comes to, as plain data for the page. */
import { engravedTune } from '#core/arrangement/fingeredNotation'
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement, Taught } from '#core/arrangement/recipe'
import { standsOf, taughtAsPlayed } from '#core/arrangement/taughtPlayed'
import type { Phrase } from '#core/form/form'
import { toNumber } from '#core/music/fraction'
import { formatPitch, midi } from '#core/music/pitch'
import { isNote, placeEvents } from '#core/music/timeline'
import { shownMark, stringLabels } from '#core/tablature/names'
import { tabModel } from '#core/tablature/tabModel'
import type { Stroke } from '#core/bowing/stroke'
import { joinedAsBowed } from '#core/tablature/bowMarks'
import type { DerivedView, PhraseView, StrokeView } from './views'
import { eventOf } from '#core/music/ids'

export function derivedView(d: Derived, recipe: Arrangement): DerivedView {
  const shown = engravedTune(d, recipe)
  const stands = standsOf(d.arranged)
  const { names } = taughtAsPlayed(recipe.taught, stands)
  const placed = new Map(placeEvents(d.tune).map(p => [p.event.id, p]))
  return {
    tune: d.tune,
    ...(shown !== d.tune && { shown }),
    tempo: d.tempo,
    octave: d.arranged.octave,
    toWritten: d.arranged.toWritten,
    origin: Object.fromEntries(d.arranged.origin),
    stands,
    notes: d.fingering.notes.map(n => {
      const event = eventOf(n.id)
      const p = placed.get(event)!
      return {
        id: n.id,
        event,
        measure: n.measure,
        pitch: formatPitch(n.pitch),
        string: n.string,
        finger: n.finger,
        offset: n.offset,
        anchor: n.anchor,
        mark: shownMark(n, recipe, p.measure.key),
        ...(n.harmonic && { harmonic: n.harmonic }),
        position: n.position,
        tied: n.tiedFrom !== undefined,
        start: toNumber(p.start),
        length: toNumber(p.event.duration),
      }
    }),
    shifts: d.shifts,
    crossings: d.crossings,
    holds: d.holds,
    blocks: d.blocks,
    strokes: d.bowing.written.map(strokeView),
    joined: [...joinedAsBowed(d)],
    parts: d.form.parts.map(p => ({
      label: p.label,
      repeated: p.repeated,
      again: p.again,
      phrases: p.phrases.map(x => phraseView(x, names)),
    })),
    findings: d.findings,
    strings: stringLabels(recipe),
    tab: tabModel(d, recipe),
    events: [...placed.keys()],
  }
}

export const strokeView = ({
  notes,
  measure,
  direction,
  from,
  to,
  lift,
  hook,
  added,
  strings,
  seconds,
  restBefore,
  why,
  cost,
}: Stroke): StrokeView => ({
  notes,
  measure,
  direction,
  from: short(from),
  to: short(to),
  lift,
  hook,
  added,
  strings,
  seconds: short(seconds),
  restBefore: short(restBefore),
  why,
  cost,
})

/** What is drawn needs no more than a thousandth; long fractions are slow to write down and to read. */
const short = (x: number) => Math.round(x * 1000) / 1000

function phraseView(p: Phrase, names: Taught['names']): PhraseView {
  const [start, end] = [toNumber(p.start), toNumber(p.end)]
  const notes = p.notes.filter(isNote)
  const heights = notes.map(n => midi(n.event.heads.at(-1)!.pitch))
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  return {
    id: p.events[0]!,
    label: p.label,
    name: names[p.events[0]!] ?? '',
    family: p.family,
    variant: p.variant,
    bars: p.bars,
    events: p.events,
    start,
    end,
    contour: notes.map((n, i) => [
      short((toNumber(n.start) - start) / Math.max(0.001, end - start)),
      high === low ? 0.5 : short((heights[i]! - low) / (high - low)),
    ]),
    kin: p.kin,
    role: p.role,
    endings: p.endings,
  }
}
