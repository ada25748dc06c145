/**
 * What a teacher marks beside the fingers: shifts, crossings, fingers that stay down, one finger laid over
 * two strings.
 */
import { finding, type Finding } from '#core/findings/finding'
import type { EventId } from '#core/music/ids'
import { travel } from '#core/instruments/geometry'
import { formatTempo, type Tempo } from '#core/music/metre'
import type { HandState } from './candidates'
import { staysDown } from './costs'
import type { Fingering } from './fingering'
import type { Gap } from '#core/line/time'
import type { Mm } from '#core/instruments/instruments'
import { leastShift, type HandModel } from '#core/instruments/handModel'
import { reachAt, type Finger } from '#core/instruments/hands'

export interface Shift {
  readonly from: EventId
  readonly to: EventId
  readonly measure: number
  readonly anchorFrom: number
  readonly anchorTo: number
  readonly mm: number
  /** Seconds between the two notes' beginnings. */
  readonly seconds: number
  readonly sameFinger: boolean
  /** The finger that arrives, and the string (0 the highest) it arrives on. */
  readonly finger: Finger
  readonly string: number
  /**
   * The finger of the old hand whose place the new one takes: "1 goes where 4 was"; null when none stood
   * there.
   */
  readonly was: Finger | null
  /** The fastest tempo at which the hand arrives in time, by the model. */
  readonly ceiling: Tempo
}

export interface Crossing {
  readonly from: EventId
  readonly to: EventId
  /** Positive towards the lower strings. */
  readonly strings: number
}

export interface Span {
  readonly from: EventId
  readonly to: EventId
  readonly finger: Finger
  readonly strings: readonly number[]
}

const statesOf = (f: Fingering): HandState[] => f.tables.path.map((s, i) => f.problem.states[i]![s]!)

/** The finger whose ordinary place in the hand of `a` is where `b` puts its own. */
function whoStood(f: Fingering, a: HandState, b: HandState): Finger | null {
  const { instrument, hand } = f.problem.options
  const there = reachAt(instrument, a.anchor, b.lead.offset, hand, a.shape)
  return there?.finger ?? null
}

/** Seconds a move has: an open string lends its own. */
export const secondsFor = (a: HandState, gap: Gap) => (a.lead.finger === 0 ? gap.free : gap.seconds)

/** Seconds a move takes at least, by the model of the hand. */
export function leastSeconds(a: HandState, b: HandState, length: Mm, model: HandModel): number {
  const same = a.lead.finger === b.lead.finger && a.lead.finger !== 0
  const mm = travel(length, a.anchor, b.anchor)
  return leastShift(model, mm, same)
}

/** Every move of the hand. An open string lends its time to the move. */
export function shiftsOf(f: Fingering, model: HandModel): Shift[] {
  const { tones, before, gaps, options } = f.problem
  const states = statesOf(f)
  const out: Shift[] = []
  for (let i = 1; i < states.length; i++) {
    const [a, b] = [states[before[i]!]!, states[i]!]
    if (a.anchor === b.anchor) continue
    const mm = travel(options.length, a.anchor, b.anchor)
    const sameFinger = a.lead.finger === b.lead.finger && a.lead.finger !== 0
    const seconds = secondsFor(a, gaps[i - 1]!)
    const least = leastSeconds(a, b, options.length, model)
    out.push({
      from: tones[before[i]!]!.id,
      to: tones[i]!.id,
      measure: tones[i]!.measure,
      anchorFrom: a.anchor,
      anchorTo: b.anchor,
      mm: Math.round(mm * 10) / 10,
      seconds,
      sameFinger,
      finger: b.lead.finger,
      string: b.lead.string,
      was: b.lead.finger === 0 ? null : whoStood(f, a, b),
      ceiling: {
        beat: options.tempo.beat,
        perMinute: Math.max(1, Math.floor((options.tempo.perMinute * seconds) / least)),
      },
    })
  }
  return out
}

/** A shift that the tempo does not leave time for. */
export function shiftFindings(shifts: readonly Shift[], tempo: Tempo): Finding[] {
  return shifts
    .filter(s => s.ceiling.perMinute < tempo.perMinute)
    .map(s =>
      finding(
        'finger.shiftFast',
        'warning',
        { measure: s.measure, note: s.to },
        {
          mm: Math.round(s.mm),
          seconds: s.seconds.toFixed(2),
          ceiling: formatTempo(s.ceiling),
        },
      ),
    )
}

export function crossingsOf(f: Fingering): Crossing[] {
  const states = statesOf(f)
  const { tones, before } = f.problem
  return states.flatMap((b, i) => {
    const from = before[i]!
    const strings = from < 0 ? 0 : b.lead.string - states[from]!.lead.string
    return strings === 0 ? [] : [{ from: tones[from]!.id, to: tones[i]!.id, strings }]
  })
}

/** How far ahead a finger that is down may be wanted again and still be worth holding, in tones. */
const HOLD_REACH = 6

/**
 * Holds: a finger that can stay down because the same finger is wanted again at the same place, and until
 * then only higher fingers, other strings or open neighbours are played.
 */
export function holdsOf(f: Fingering): Span[] {
  const states = statesOf(f)
  const follows = (i: number) => f.problem.before[i] === i - 1
  const out: Span[] = []
  let heldUntil = -1
  states.forEach((s, i) => {
    const { finger, string, offset } = s.lead
    if (finger === 0 || i < heldUntil || s.places.length > 1) return
    // A bracket goes over what is written side by side: it ends where an ending does.
    for (let k = i + 1; k <= Math.min(states.length - 1, i + HOLD_REACH) && follows(k); k++) {
      const next = states[k]!
      if (next.anchor !== s.anchor) return
      const p = next.lead
      if (p.finger === finger && p.string === string && p.offset === offset) {
        if (k > i + 1) {
          out.push({ from: f.problem.tones[i]!.id, to: f.problem.tones[k]!.id, finger, strings: [string] })
          heldUntil = k
        }
        return
      }
      if (!staysDown(s.lead, p)) return
    }
  })
  return out
}

/** Blocks: one finger at one place over neighbouring strings, from its first note to its last. */
export function blocksOf(f: Fingering): Span[] {
  const states = statesOf(f)
  const id = (i: number) => f.problem.tones[i]!.id
  const out: Span[] = []
  for (let i = 1; i < states.length; i++) {
    const [a, b] = [states[i - 1]!, states[i]!]
    const [p, q] = [a.lead, b.lead]
    const block =
      p.finger !== 0 && p.finger === q.finger && p.offset === q.offset && Math.abs(p.string - q.string) === 1
    if (!block || a.anchor !== b.anchor || f.problem.before[i] !== i - 1) continue
    const last = out.at(-1)
    const goesOn = last?.to === id(i - 1)
    const strings = [...new Set([...(goesOn ? last.strings : []), p.string, q.string])].sort()
    const span = { from: goesOn ? last.from : id(i - 1), to: id(i), finger: p.finger, strings }
    if (goesOn) out[out.length - 1] = span
    else out.push(span)
  }
  return out
}
