/**
 * The one place where a recipe moves notes: its line becomes what is played, in its key, its octave and its
 * instrument's clef. Everything after it takes what comes out; nothing else may assume that played notes are
 * written ones moved.
 */
import { finding, type Finding } from '#core/findings/finding'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { isWrittenFor } from '#core/instruments/writtenFor'
import { changeOf, type EventId } from '#core/music/ids'
import { intervalBetweenKeys } from '#core/music/key'
import { inverse, transposePitch, type Interval, type Pitch } from '#core/music/pitch'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { Tune, TuneEvent } from '#core/music/tune'
import type { Origin, Refused } from './changes'
import { withMeasuresBack } from './leaveOut'
import type { PartLine } from './line'
import type { Arrangement } from './recipe'

/** A line as it is played: `tune` in its key, its octave and its clef. */
export interface Arranged extends PartLine {
  /** From a played pitch back to a written one. */
  readonly toWritten: Interval
  /** Octaves it was moved, the key's own way not counted. */
  readonly octave: number
}

/** The line in its recipe's key, in an octave, in the instrument's clef. */
export function arrange(line: PartLine, recipe: Arrangement, octave: number): Arranged {
  const { key, instrument } = recipe.played
  const { written } = line
  const usual = isWrittenFor(written, instrument) ? written.clef : INSTRUMENTS[instrument].clef
  const asks = recipe.shown.clef
  const clef = asks && INSTRUMENTS[instrument].reads.includes(asks) ? asks : usual
  const by = intervalBetweenKeys(written.key, key ? { ...key, mode: written.key.mode } : written.key, octave)
  const keyed = key ? transposeToKey(line.tune, key) : line.tune
  const tune = { ...transposeTune(keyed, octaveShift(octave)), clef }
  return { ...line, tune, toWritten: inverse(by), octave }
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
