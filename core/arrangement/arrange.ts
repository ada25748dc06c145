/**
 * The one place where a recipe changes notes: what is written becomes what is played, by the changes it
 * holds, its key, its octave and its instrument's clef. Everything after it takes what comes out; nothing
 * else may assume that played notes are written ones moved.
 */
import { finding, type Finding } from '#core/findings/finding'
import { newFingeringCache, type FingeringCache } from '#core/fingering/cache'
import { fingeringProblem, solveFingering } from '#core/fingering/fingering'
import { outOfReach } from '#core/fingering/states'
import { tonesOf } from '#core/line/tones'
import { shiftsOf } from '#core/fingering/derived'
import type { HandModel } from '#core/instruments/handModel'
import type { FingeringOptions } from '#core/fingering/problem'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { joinedEvents, slursOf } from '#core/line/joins'
import { changeOf, type EventId } from '#core/music/ids'
import { intervalBetweenKeys } from '#core/music/key'
import { inverse, transposePitch, type Interval, type Pitch } from '#core/music/pitch'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { Clef, InstrumentId, Tune, TuneEvent } from '#core/music/tune'
import { applyChanges, playedChanges, type Origin, type Refused } from './changes'
import { withMeasuresBack } from './leaveOut'
import type { DeriveContext } from './context'
import { fingeringOptions } from './handOptions'
import type { Arrangement } from './recipe'

export interface Arranged {
  /** The tune as it is played. */
  readonly tune: Tune
  /** The tune as it is written. */
  readonly written: Tune
  /**
   * For every event that a change made: the written events it stands for. Every other event is the written
   * one of the same id.
   */
  readonly origin: Origin
  /** From a played pitch back to a written one. */
  readonly toWritten: Interval
  /** Octaves it was moved, the key's own way not counted. */
  readonly octave: number
  /** Ids of the measures that are left out. */
  readonly left: ReadonlySet<string>
  /** Events that take the same bow as the one before: the tune's slurs, changed by the recipe. */
  readonly joined: ReadonlySet<EventId>
  /** Changes that were not carried out. */
  readonly refused: readonly Refused[]
  /** Its strokes are not those of the tune as it is written: directions written there are of no use here. */
  readonly rebowed: boolean
}

/** Clefs an instrument reads as its own: a tune in one of them stays where it is. */
const OWN_CLEFS: Readonly<Record<InstrumentId, readonly Clef[]>> = {
  violin: ['treble'],
  viola: ['alto'],
  cello: ['bass', 'tenor'],
  bass: ['bass', 'tenor'],
}

export const isWrittenFor = (tune: Tune, id: InstrumentId) =>
  tune.instrument ? tune.instrument === id : OWN_CLEFS[id].includes(tune.clef)

/** An octave higher costs a little by itself, so that of two that lie alike the lower is taken. */
const HIGHER_OCTAVE = 0.5
/** A shift the tempo leaves no time for costs more than any other: an octave without it is taken. */
const LATE_SHIFT = 3

/**
 * Where a tune lies lowest and easiest on an instrument it was not written for: the octave with the fewest
 * notes off the instrument, then the fewest beyond the level and the reach, then the cheapest fingering whose
 * shifts hold at this tempo.
 */
function chooseOctave(
  tune: Tune,
  instrument: InstrumentId,
  options: FingeringOptions,
  model: HandModel,
  costs: FingeringCache,
): number {
  if (isWrittenFor(tune, instrument)) return 0
  const { writtenAbove } = INSTRUMENTS[instrument]
  const octaves = [-3, -2, -1, 0, 1].map(octave => {
    const there = transposeTune(tune, octaveShift(octave))
    const tones = tonesOf(there, { tempo: options.tempo, writtenAbove })
    return { octave, there, ...outOfReach(tones, options) }
  })
  const least = octaves.reduce((a, b) => (b.off < a.off || (b.off === a.off && b.beyond < a.beyond) ? b : a))
  const fits = octaves.filter(o => o.off === least.off && o.beyond === least.beyond)
  const costOf = ({ octave, there }: (typeof fits)[number]) => {
    const solved = solveFingering(fingeringProblem(there, options, costs))
    const late = shiftsOf(solved, model).filter(s => s.ceiling.perMinute < options.tempo.perMinute).length
    return solved.total + octave * HIGHER_OCTAVE + late * LATE_SHIFT
  }
  let best = { octave: fits[0]!.octave, cost: Infinity }
  for (const o of fits.length > 1 ? fits : []) {
    const cost = costOf(o)
    if (cost < best.cost) best = { octave: o.octave, cost }
  }
  return best.octave
}

/** @param costs only saves time: what other arrangements of the tune worked out */
export function arrange(
  written: Tune,
  recipe: Arrangement,
  context: DeriveContext,
  costs = newFingeringCache(),
): Arranged {
  const { key, octave: asked, instrument, pins } = recipe.played
  const {
    tune: changed,
    origin,
    left,
    refused,
    rebowed,
  } = applyChanges(written, playedChanges(recipe.played))
  const joined = joinedEvents(changed, pins.joins)
  const keyed = key ? transposeToKey(changed, key) : changed
  const octave =
    asked === 'auto'
      ? chooseOctave(
          keyed,
          instrument,
          fingeringOptions(keyed, recipe, joined, context),
          context.model,
          costs,
        )
      : asked
  const usual = isWrittenFor(written, instrument) ? written.clef : INSTRUMENTS[instrument].clef
  const asks = recipe.shown.clef
  const clef = asks && INSTRUMENTS[instrument].reads.includes(asks) ? asks : usual
  const slurs = Object.keys(pins.joins).length > 0 ? slursOf(changed, joined) : changed.slurs
  const by = intervalBetweenKeys(written.key, key ? { ...key, mode: written.key.mode } : written.key, octave)
  const tune = { ...transposeTune(keyed, octaveShift(octave)), clef, slurs }
  return { tune, written, origin, toWritten: inverse(by), octave, left, joined, refused, rebowed }
}

/** The written events an event of the arrangement stands for. */
export const originOf = (a: Pick<Arranged, 'origin'>, event: EventId): readonly EventId[] =>
  a.origin.get(event) ?? [event]

export const writtenPitch = (a: Pick<Arranged, 'toWritten'>, played: Pitch): Pitch =>
  transposePitch(played, a.toWritten)
export const playedPitch = (a: Pick<Arranged, 'toWritten'>, written: Pitch): Pitch =>
  transposePitch(written, inverse(a.toWritten))

/**
 * An edit of what is played, as an edit of what is written. What a change of the arrangement made is not the
 * tune's: the written notes it stands for come back in its place, and an edit of it is not taken over.
 */
export function toWrittenTune(a: Arranged, edited: Tune): Tune {
  const moved = transposeTune(edited, a.toWritten)
  const sameKey = edited.key.step === a.tune.key.step && edited.key.alter === a.tune.key.alter
  const clef = edited.clef === a.tune.clef ? a.written.clef : edited.clef
  const back = withMeasuresBack(a.written, a.left, {
    ...moved,
    clef,
    key: sameKey ? a.written.key : moved.key,
  })
  if (a.origin.size === 0) return back
  const there = new Map(a.written.measures.flatMap(m => m.events.map(e => [e.id, e] as const)))
  const measures = back.measures.map(m => ({ ...m, events: unmade(m.events, a.origin, there) }))
  const ids = new Set(measures.flatMap(m => m.events.map(e => e.id)))
  const own = (s: Tune['slurs'][number]) => ids.has(s.from) && ids.has(s.to)
  // Slurs of written notes that a change covered stay as they were.
  const covered = a.written.slurs.filter(
    s =>
      own(s) &&
      !back.slurs.some(t => t.from === s.from && t.to === s.to) &&
      [s.from, s.to].some(id => !a.tune.measures.some(m => m.events.some(e => e.id === id))),
  )
  return { ...back, measures, slurs: [...back.slurs.filter(own), ...covered] }
}

/**
 * The events of a measure with those that changes made turned back into the written ones, each of these once.
 */
function unmade(
  events: readonly TuneEvent[],
  origin: Origin,
  written: ReadonlyMap<EventId, TuneEvent>,
): TuneEvent[] {
  const back = new Set<EventId>()
  return events.flatMap(e => {
    if (changeOf(e.id) === null) return [e]
    return (origin.get(e.id) ?? []).flatMap(id => {
      const own = written.get(id)
      if (!own || back.has(id)) return []
      back.add(id)
      return [own]
    })
  })
}

/** Once, where directions are written in the tune and the version leaves them. */
export const rebowedFindings = ({ rebowed, tune }: Pick<Arranged, 'rebowed' | 'tune'>): Finding[] => {
  const marked = tune.measures
    .flatMap(m => m.events)
    .find(e => e.kind === 'note' && e.marks?.some(m => m === 'upbow' || m === 'downbow'))
  return rebowed && marked ? [finding('arrange.rebowed', 'note', { note: marked.id })] : []
}

/** What is told of changes that were not carried out; the teacher's own refusals are no news. */
export const refusedFindings = (refused: readonly Refused[]): Finding[] =>
  refused.flatMap(({ change, why }) =>
    why === 'refused' || why === 'left'
      ? []
      : [
          finding('arrange.changeLost', 'warning', {}, { kind: change.kind, why }, [
            { kind: 'dropChange', change: change.id },
          ]),
        ],
  )
