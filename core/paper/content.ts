/**
 * What a sheet holds beside its music, taken from an arrangement: plain data, so that it can be worked out
 * elsewhere than it is drawn.
 */
import type { DeriveContext } from '#core/arrangement/context'
import { derive, type Derived, type DeriveMemory } from '#core/arrangement/derive'
import { handOptions } from '#core/arrangement/handOptions'
import { standsOf, taughtAsPlayed } from '#core/arrangement/taughtPlayed'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import type { SheetKind } from '#core/styles/sheetRecipe'
import { planOf } from '#core/form/plan'
import type { Phrase } from '#core/form/form'
import { writeSpoken } from '#core/formats/spoken/writeSpoken'
import { digitText } from '#core/instruments/digits'
import { sizeOf } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { touchingPlaces } from '#core/teach/shapes'
import { groupBy } from '#core/groupBy'
import { eventOf } from '#core/music/ids'
import { beatStrength } from '#core/music/metre'
import { isNote, placeEvents } from '#core/music/timeline'
import { formatPitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { shownMark, stringLabels } from '#core/tablature/names'
import { tabModel, type TabModel } from '#core/tablature/tabModel'
import { hardNotes } from '#core/teach/hardness'
import { outline, type OutlineLine } from '#core/teach/outline'
import { warmUps } from '#core/watch/warmUps'
import { kinSentence } from '#core/words/form'
import type { Piece } from '#core/page/flow'
import { legendOf } from './legend'

export interface BoardPlace {
  readonly string: number
  readonly offset: number
  readonly digits: readonly string[]
  /** The learner has not met it. */
  readonly fresh: boolean
}
export interface Board {
  /** Vibrating length of the strings, in mm. */
  readonly length: number
  readonly instrument: Arrangement['played']['instrument']
  readonly strings: readonly string[]
  readonly places: readonly BoardPlace[]
  /**
   * Half steps between neighbouring fingers of one hand: these fingers touch. Offsets as in places, the lower
   * first.
   */
  readonly touching: readonly { readonly string: number; readonly offset: number }[]
}
export interface Card {
  readonly title: string
  readonly note: string
  /** Measures it takes, whole ones, and which of their notes and rests are its own. */
  readonly range: readonly [from: number, to: number]
  readonly events: readonly string[]
  /** Only its own notes on the fingerboard, where the sheet has that picture. */
  readonly board?: Board
}
export interface WarmUpPart {
  readonly title: string
  readonly note: string
  readonly tune: Tune
  readonly tab: TabModel
}
export interface Grid {
  readonly rows: readonly string[]
  readonly steps: readonly string[]
}

/** Only what was asked for; what has nothing to show is absent. */
export interface SheetContent {
  readonly board?: Board
  readonly cards?: readonly Card[]
  /** A line a phrase; syllables on beats are bold. */
  readonly words?: readonly (readonly Piece[])[]
  readonly warmUps?: readonly WarmUpPart[]
  readonly text?: string
  readonly outline?: readonly OutlineLine[]
  readonly grid?: Grid
  readonly legend: readonly string[]
  /** Short words of care, where the hand is asked to stretch. */
  readonly cautions: readonly string[]
}

export function contentOf(
  d: Derived,
  arrangement: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): SheetContent {
  const recipe = saidAsPlayed(d, arrangement)
  const wants = (k: SheetKind) => recipe.shown.sheet.kinds.includes(k)
  const words = wants('words') ? wordsOf(d) : []
  return {
    ...(wants('board') && { board: boardOf(d, recipe) }),
    ...(wants('cards') && { cards: cardsOf(d, recipe) }),
    ...(words.length > 0 && { words }),
    ...(wants('warmUps') && { warmUps: warmUpsOf(d, recipe, context, memory) }),
    ...(wants('text') && { text: textOf(d, recipe) }),
    ...(wants('outline') && { outline: outlineOf(d, recipe) }),
    ...(wants('grid') && { grid: gridOf(d, recipe) }),
    legend: recipe.shown.sheet.show.legend ? legendOf(d, recipe) : [],
    cautions: cautionsOf(d),
  }
}

/** The arrangement with what is taught of it said of the notes it plays. */
const saidAsPlayed = (d: Derived, r: Arrangement): Arrangement => ({
  ...r,
  taught: taughtAsPlayed(r.taught, standsOf(d.arranged)),
})

const nameOf = (p: Phrase, recipe: Arrangement) => {
  const name = recipe.taught.names[p.events[0]!]
  return name ? `${p.label}, ${name}` : p.label
}

/** @param only events whose notes are shown; all of them when left out */
function boardOf(d: Derived, recipe: Arrangement, only?: readonly string[]): Board {
  const { instrument, size, measured } = recipe.played
  const keys = new Map(placeEvents(d.tune).map(p => [p.event.id, p.measure.key]))
  const known = new Set(recipe.taught.known)
  const own = only && new Set(only)
  const notes = own ? d.fingering.notes.filter(n => own.has(eventOf(n.id))) : d.fingering.notes
  const places = groupBy(
    notes.filter(n => n.tiedFrom === undefined),
    n => `${n.string}:${n.offset}`,
  )
  return {
    length: measured ?? sizeOf(instrument, size).string,
    instrument,
    strings: stringLabels(recipe),
    places: [...places.values()].map((list): BoardPlace => ({
      string: list[0]!.string,
      offset: list[0]!.offset,
      digits: [
        ...new Set(
          list.map(n => digitText(n.finger, shownMark(n, recipe, keys.get(eventOf(n.id))!), n.harmonic)),
        ),
      ],
      fresh: known.size > 0 && list.some(n => !known.has(formatPitch(n.pitch))),
    })),
    touching: touchingPlaces({ ...d.fingering, notes }),
  }
}

/** A card a phrase; one that is the same as an earlier one is not printed again but named on its card. */
function cardsOf(d: Derived, recipe: Arrangement): Card[] {
  const boards = recipe.shown.sheet.kinds.includes('board')
  const measures = new Map(placeEvents(d.tune).map(p => [p.event.id, p.measure.index]))
  const { phrases } = d.form
  const same = (p: Phrase) => p.kin.find(k => k.relation === 'same')
  return phrases
    .filter(p => !same(p))
    .flatMap(p => {
      const at = p.events.flatMap(e => measures.get(e) ?? [])
      if (at.length === 0) return []
      const again = phrases.filter(q => same(q)?.phrase === p.label).map(q => q.label)
      const [kin] = p.kin
      const note = [again.length > 0 ? `again as ${again.join(', ')}` : '', kin ? kinSentence(kin) : '']
        .filter(Boolean)
        .join('; ')
      return [
        {
          title: nameOf(p, recipe),
          note,
          range: [Math.min(...at), Math.max(...at) + 1] as const,
          events: p.events,
          ...(boards && { board: boardOf(d, recipe, p.events) }),
        },
      ]
    })
}

function wordsOf(d: Derived): Piece[][] {
  return d.form.phrases.flatMap(p => {
    const notes = p.notes.filter(isNote)
    const verses = Math.max(0, ...notes.map(n => n.event.syllables?.length ?? 0))
    return Array.from({ length: verses }, (_, v) =>
      notes.flatMap((n): Piece[] => {
        const s = n.event.syllables?.[v]
        if (!s) return []
        const text = s.text + (s.hyphen ? '-' : ' ')
        return [beatStrength(n.measure.felt, n.inMeasure) >= 2 ? { text, bold: true } : { text }]
      }),
    ).filter(line => line.length > 0)
  })
}

/** Each fingered for the same hand, in the arrangement's names. */
function warmUpsOf(
  d: Derived,
  { played, shown }: Arrangement,
  context: DeriveContext,
  memory: DeriveMemory,
): WarmUpPart[] {
  const plain = newArrangement(played.instrument, played.size)
  const { tuning, level, schools, measured, span } = played
  const recipe = {
    ...plain,
    shown: { ...shown, bowMarks: 'none' as const },
    played: { ...plain.played, octave: 0 as const, tuning, level, schools, measured, span },
  }
  return warmUps(d, played.instrument).map(w => {
    const asInTune = withPlayed(recipe, { pins: { ...recipe.played.pins, fingers: w.pins } })
    const own = derive(w.tune, asInTune, context, memory)
    return { title: w.name, note: w.why, tune: own.tune, tab: withoutPhrases(tabModel(own, asInTune)) }
  })
}

/** An exercise has no phrases of its own to learn. */
const withoutPhrases = (tab: TabModel): TabModel => ({
  ...tab,
  measures: tab.measures.map(m => ({ ...m, events: m.events.map(({ phrase: _, ...e }) => e) })),
})

function textOf(d: Derived, { played }: Arrangement): string {
  const { instrument, tuning } = played
  return writeSpoken(d.tune, new Map(d.fingering.notes.map(n => [n.id, n])), {
    instrument,
    tuning: tuning ?? homeTuning(instrument),
    hand: handOptions(played),
  }).text
}

function outlineOf(d: Derived, recipe: Arrangement): OutlineLine[] {
  const plan = planOf(d.form, { order: recipe.taught.order, tempo: d.tempo, hard: hardNotes(d) })
  const phrases = new Map(
    d.form.phrases.map(p => [p.label, { id: p.events[0]!, name: recipe.taught.names[p.events[0]!] ?? '' }]),
  )
  return outline({ title: 'Lesson', plan, taught: recipe.taught, phrases })
}

/** Shares of the tempo to be reached, one after another. */
const STEPS = [0.6, 0.7, 0.8, 0.9, 1]

function gridOf(d: Derived, recipe: Arrangement): Grid {
  const rows = d.form.parts.flatMap(p => [
    ...p.phrases.map(x => nameOf(x, recipe)),
    ...(p.phrases.length > 1 ? [`all of ${p.label}`] : []),
  ])
  return {
    rows: [...rows, ...(d.form.parts.length > 1 ? ['the whole tune'] : [])],
    steps: STEPS.map(s => String(Math.round(d.tempo.perMinute * s))),
  }
}

function cautionsOf(d: Derived): string[] {
  const stretched = d.fingering.notes.some(n => n.mark === 'extended')
  return stretched
    ? ['Where a finger is stretched: no pain, short turns, rests; a teacher or health professional decides.']
    : []
}
