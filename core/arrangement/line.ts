/**
 * What a part plays, before its key, its octave and its clef: the tune's own line with the changes of the
 * recipe and its slurs. Parts that play the same line share it, and the form that is heard in it.
 */
import { joinedEvents, slursOf } from '#core/line/joins'
import type { EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import { applyChanges, playedChanges, type Origin, type Refused } from './changes'
import type { Arrangement } from './recipe'

export interface PartLine {
  /** The line, in the key and the octave it is written in. */
  readonly tune: Tune
  /** The tune it was made from. */
  readonly written: Tune
  /**
   * For every event that a change made: the written events it stands for. Every other event is the written
   * one of the same id.
   */
  readonly origin: Origin
  /** Ids of the measures that are left out. */
  readonly left: ReadonlySet<string>
  /** Events that take the same bow as the one before: the tune's slurs, changed by the recipe. */
  readonly joined: ReadonlySet<EventId>
  /** Changes that were not carried out. */
  readonly refused: readonly Refused[]
  /** Its strokes are not those of the tune as it is written: directions written there are of no use here. */
  readonly rebowed: boolean
}

/** The tune's own line as a recipe plays it. */
export function ownLine(written: Tune, { played }: Arrangement): PartLine {
  const { tune, origin, left, refused, rebowed } = applyChanges(written, playedChanges(played))
  const { joins } = played.pins
  const joined = joinedEvents(tune, joins)
  const slurs = Object.keys(joins).length > 0 ? slursOf(tune, joined) : tune.slurs
  return { tune: { ...tune, slurs }, written, origin, left, joined, refused, rebowed }
}
