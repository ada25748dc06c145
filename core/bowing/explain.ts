/** Why a stroke is as it is: its cost by component, and the reason a teacher would give, as data. */
import type { BowProblem, StrokeCost, StrokeWhy } from './stroke'
import type { BowLine } from './line'
import { isDotted } from './costs'
import { POLICIES } from './schools'
import type { Found } from './search'
import { wantedLength } from './travel'
import type { BowTone } from './tones'

const round = (x: number) => Math.round(x * 100) / 100

export function strokeCost({ tones }: BowProblem, line: BowLine, s: Found): StrokeCost {
  const out: Record<string, number> = {}
  const d = s.direction === 'down' ? 0 : 1
  let seconds = 0
  for (let k = s.first; k < s.end; k++) {
    seconds += tones[k]!.seconds
    put(out, 'direction', k === s.first ? line.start[2 * k + d]! : line.inside[2 * k + d]!)
    if (k > s.first) put(out, 'slur', line.join[k]!)
  }
  if (s.first > 0) put(out, s.way, line[s.way][s.first]!)
  put(out, 'time', line.stroke[s.first]!)
  if (s.end - s.first > 1) put(out, 'time', line.over[s.first]! * Math.max(0, seconds / line.bearing - 1))
  const first = tones[s.first]!
  const wanted = wantedLength(seconds, first.loudness, first.accent)
  put(out, 'length', Math.abs(Math.abs(s.to - s.from) / wanted - 1))
  return out
}

function put(out: Record<string, number>, name: string, cost: number) {
  if (Number.isFinite(cost) && Math.abs(cost) >= 0.005) out[name] = round((out[name] ?? 0) + cost)
}

export function whyStroke({ tones, options }: BowProblem, line: BowLine, s: Found): StrokeWhy {
  const first = tones[s.first]!
  const pin = options.pins[first.id]
  if (pin?.direction || pin?.way) return { is: 'pinned' }
  const joined = tones.slice(s.first + 1, s.end)
  const added = joined.find(t => !t.slurred)
  const { slurs } = POLICIES[options.planOf(first.id).school]
  if (added && slurs !== 'none' && line.join[s.first + 1]! < 1) return { is: slurs }
  const habit = line.habits.slice(s.first + 1, s.end).find((h, i) => h && !joined[i]!.slurred)
  if (habit) return { is: 'habit', ...habit }
  const measure = firstBeatAfter(tones, s.end)
  if (added) return { is: 'slur', because: reason(tones, s.first + 1), measure }
  const own = line.habits[s.first]
  if (s.way === 'hook' && own?.way === 'hook') return { is: 'habit', ...own }
  if (s.way === 'hook') return { is: 'hook', because: reason(tones, s.first), measure }
  if (s.way === 'lift' && first.marked && !first.lifted && first.restBefore === 0) return { is: 'marked' }
  if (s.way === 'lift') return { is: 'lift', room: room(first) }
  if (first.slurred) return { is: 'parted' }
  if (joined.length > 0) return { is: 'written' }
  if (first.marked) return { is: 'marked' }
  if (s.first === 0) return { is: startOf(first, tones[s.end], s) }
  return { is: 'turn' }
}

/** Only a pickup in one bow answers for the first beat by itself. */
function startOf(first: BowTone, next: BowTone | undefined, s: Found) {
  if (!first.pickup) return 'start'
  return next?.strength === 3 && s.direction === 'up' ? 'pickup' : 'leadIn'
}

function reason(tones: BowProblem['tones'], k: number) {
  const [a, b] = [tones[k - 1]!, tones[k]!]
  if (a.tuplet !== null && a.tuplet === b.tuplet) return 'triplet' as const
  if (b.strength === 0 && isDotted(a, b)) return 'dotted' as const
  if (b.strength === 0 && a.length > b.length) return 'longShort' as const
  return 'evens' as const
}

function room(t: BowProblem['tones'][number]) {
  if (t.lifted) return 'comma' as const
  return t.restBefore > 0 ? ('rest' as const) : ('breath' as const)
}

/** The measure whose first beat comes next. */
function firstBeatAfter(tones: BowProblem['tones'], from: number): number | null {
  for (let k = from; k < tones.length; k++) if (tones[k]!.strength === 3) return tones[k]!.measure
  return null
}
