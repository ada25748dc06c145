/** What a learner cannot do yet, or a hand not at all: hard limits, each with its reason. */
import { travel } from '#core/instruments/geometry'
import { FIRST_TO, framesOf, HOME_ANCHOR, type Finger } from '#core/instruments/hands'
import { INSTRUMENTS, type Mm, type Size } from '#core/instruments/instruments'
import type { InstrumentId } from '#core/music/tune'
import { latestSkill, type Level } from '#core/levels/levels'
import type { HandState } from './candidates'
import type { FingeringOptions } from './problem'

/** A reach of more than this share of the learner's is told with the caution. */
export const NEAR_LIMIT = 0.93

/**
 * What a state asks of the hand as a share of the learner's own reach from 1 to 4: over 1 is out of reach; 0
 * when nobody measured it.
 */
export function shareOfSpan(s: HandState, { span, length }: FingeringOptions): number {
  if (!span || s.shape === 'thumb') return 0
  // Between the fingers of one state, and from where the first finger stands.
  const stopped = s.places.filter(p => p.finger !== 0)
  const first = { finger: 1 as Finger, offset: s.anchor }
  const pairs = s.places.length > 1 ? stopped.flatMap(p => stopped.map(q => [p, q] as const)) : []
  const fromFirst = stopped.map(p => [first, p] as const)
  // The hand that reaches back still has its fourth finger where it was.
  const back =
    s.shape === 'back' ? [[stopped[0] ?? first, { finger: 4 as Finger, offset: s.anchor + 3 }] as const] : []
  return Math.max(
    0,
    ...[...pairs, ...fromFirst, ...back].map(([p, q]) => {
      const share = FIRST_TO[q.finger] - FIRST_TO[p.finger]
      return share <= 0 ? 0 : travel(length, p.offset, q.offset) / (span * share)
    }),
  )
}

/** What the ordinary hand of first position asks of a reach, as a share of it: 1 to 4 at home. */
export function shareOfHome(id: InstrumentId, length: Mm, span: Mm): number {
  const home = framesOf(id)[0]!.reaches.filter(r => r.mark === 'home' && r.shape === 'plain')
  return Math.max(...home.map(r => travel(length, HOME_ANCHOR, HOME_ANCHOR + r.from))) / span
}

/**
 * The largest size on which the ordinary hand of first position is within a reach; undefined when none is.
 */
export const largestFor = (id: InstrumentId, span: Mm): Size | undefined =>
  [...INSTRUMENTS[id].sizes]
    .sort((a, b) => b.string - a.string)
    .find(s => shareOfHome(id, s.string, span) <= 1)

/** The instrument is too big for this hand: even at home it does not reach. */
export const isTooBig = ({
  instrument,
  length,
  span,
}: Pick<FingeringOptions, 'instrument' | 'length' | 'span'>) =>
  span !== undefined && shareOfHome(instrument, length, span) > 1

export interface OutOfBounds {
  readonly by: 'level' | 'span'
  readonly why: string
}

type Latest = ReturnType<typeof latestSkill>

/** A state is of one instrument's hand and stays what it is: what it asks for is found out once. */
const asked = new WeakMap<HandState, Latest>()

/** The latest skill a state asks for; null when it asks for none. */
function latestOf(s: HandState, instrument: InstrumentId): Latest {
  const known = asked.get(s)
  if (known !== undefined) return known
  const found = findLatest(s, instrument)
  asked.set(s, found)
  return found
}

function findLatest({ places, shape, anchor }: HandState, instrument: InstrumentId): Latest {
  let latest: Latest = null
  for (const { finger, mark, harmonic } of places) {
    const needed = latestSkill(instrument, { finger, mark, shape, anchor, harmonic })
    if (needed && needed.from > (latest?.from ?? 0)) latest = needed
  }
  return latest
}

/**
 * The lowest level that has any place at all for every note: whatever the fingers, no lower one can play it.
 */
export const lowestHand = (states: readonly (readonly HandState[])[], instrument: InstrumentId): Level =>
  states.reduce<Level>((most, set) => {
    let least: Level = 8
    for (const s of set) {
      const from = latestOf(s, instrument)?.from ?? 1
      // A place that asks no more than what was met before: this note changes nothing.
      if (from <= most) return most
      if (from < least) least = from
    }
    return least
  }, 1)

/** Why a state is out of bounds for this learner; null when it is not. */
export function outOfBounds(s: HandState, options: FingeringOptions): OutOfBounds | null {
  const { level, instrument } = options
  const latest = level === undefined ? null : latestOf(s, instrument)
  if (latest && latest.from > level!) return { by: 'level', why: latest.why }
  if (shareOfSpan(s, options) <= 1) return null
  return { by: 'span', why: '' }
}

/**
 * How far a state is out of bounds, to take the least where all are: the level it asks for first, then the
 * share of the reach.
 */
export function excess(s: HandState, options: FingeringOptions): number {
  const level = options.level === undefined ? 0 : (latestOf(s, options.instrument)?.from ?? 0)
  return Math.max(level, options.level ?? 0) + Math.max(0, shareOfSpan(s, options) - 1) / 10
}
