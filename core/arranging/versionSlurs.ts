/**
 * Slurs of two for a version: what a first-year learner plays in one bow. The shortest neighbours, by a step
 * or a third, on one string, within a beat (in a slow or sung tune two quarters of a measure in three as
 * well), the same wherever the same figure comes back; none across strings, and no single one left alone in a
 * tune.
 */
import type { Derived } from '#core/arrangement/derive'
import { add, toNumber } from '#core/music/fraction'
import { eventOf, type EventId } from '#core/music/ids'
import { beatStrength, inThrees, isUneven, secondsPerQuarter } from '#core/music/metre'
import { midi } from '#core/music/pitch'
import { isNote, placeEvents, type Placed } from '#core/music/timeline'
import type { NoteEvent } from '#core/music/tune'

/** The name a slur has among the changes of a version. */
export const slurId = (kind: 'slur' | 'unslur', note: EventId) => `${kind}-${note}`.slice(0, 24)

/** So much time two slurred notes take together: longer bows are no help, shorter ones a flick. */
const LONGEST = 3.2
const SHORTEST = 0.4
/** Quicker pairs than this are slurred by step only: the finger falls, the bow stays quiet. */
const QUICK = 0.75
const STEP = 2
/** Fewer than this in a whole tune are orphans. */
const ORPHANS = 2
/** With no more short notes than this a tune in four is sung: its quarters are slurred too. */
const SUNG = 0.15
/** Half steps of a major third: wider is no neighbour. */
const THIRD = 4

/** The events that are taken in the bow of the one before; `without` are the teacher's refusals, by event. */
export function slursFor({ tune, tempo, fingering, arranged }: Derived): EventId[] {
  const strings = new Map(fingering.notes.map(n => [eventOf(n.id), n.string]))
  const placed = placeEvents(tune).filter(isNote)
  const quarter = secondsPerQuarter(tempo)
  const short = placed.filter(p => toNumber(p.event.duration) < 1).length
  const sung = short <= SUNG * placed.length
  const own = new Set(arranged.joined)
  const found = placed.flatMap((b, i) => {
    const a = placed[i - 1]
    if (!a || own.has(b.event.id) || own.has(a.event.id) || own.has(placed[i + 1]?.event.id ?? '')) return []
    const seconds = toNumber(add(a.event.duration, b.event.duration)) * quarter
    const fits =
      seconds >= SHORTEST &&
      seconds <= LONGEST &&
      isPair(a, b, sung) &&
      isNeighbour(a, b, seconds < QUICK ? STEP : THIRD)
    return fits && strings.get(a.event.id) === strings.get(b.event.id) ? [b] : []
  })
  const apart = found.filter((b, i) => found[i - 1]?.event.id !== placed[placed.indexOf(b) - 1]?.event.id)
  return apart.length >= ORPHANS ? apart.map(b => b.event.id) : []
}

const single = (p: Placed<NoteEvent>) =>
  p.event.heads.length === 1 && !p.event.heads[0]!.tied && !p.event.tuplet

function isNeighbour(a: Placed<NoteEvent>, b: Placed<NoteEvent>, widest: number): boolean {
  if (!single(a) || !single(b)) return false
  const wide = Math.abs(midi(a.event.heads[0]!.pitch) - midi(b.event.heads[0]!.pitch))
  return wide > 0 && wide <= widest
}

/**
 * Two that belong together: the halves of one beat, the long and the short of three, the second and third
 * beat of a measure in three, two beats of a slow song.
 */
function isPair(a: Placed<NoteEvent>, b: Placed<NoteEvent>, sung: boolean): boolean {
  if (a.measure !== b.measure) return false
  const [x, y] = [toNumber(a.event.duration), toNumber(b.event.duration)]
  const { metre, felt } = a.measure
  const strength = beatStrength(felt, a.inMeasure)
  if (inThrees(metre)) return x === 1 && y === 0.5 && strength > 0
  if (isUneven(metre)) return x === y && x >= 1 && strength === 3
  if ((x === 0.5 && y === 0.5) || (x === 0.75 && y === 0.25)) return strength > 0
  if (x !== 1 || y !== 1) return false
  const at = toNumber(a.inMeasure)
  return metre.beats === 3 ? at === 0 || at === 1 : sung && at % 2 === 0
}
