/**
 * Keys under which costs are kept. Each is made of every field the cost is given: a field that comes to it and is
 * forgotten here does not compile, for a key that knows too little gives wrong fingers in silence.
 */
import type { Tone } from '#core/line/tones'
import type { Around, CostContext, HandGap } from './problem'
import { LASTING, SUSTAINED } from './weights'

/** All that the cost of a state reads of its tone. */
export type CostedTone = Pick<Tone, 'seconds' | 'run' | 'harmonic'>

type Part = string | number | boolean
/** What stands in the key for each field. */
type Parts<T> = { readonly [K in keyof T]-?: (of: T, context: CostContext) => Part }

const TONE: Parts<CostedTone> = {
  // Beyond so long it matters only whether it is sustained.
  seconds: t => `${Math.min(t.seconds, LASTING)}${t.seconds >= SUSTAINED ? 's' : ''}`,
  run: t => t.run,
  harmonic: t => t.harmonic,
}

/** Of what an open string costs by school the one that is asked. */
const AROUND: Parts<Around> = {
  first: (a, { openSchool }) => (openSchool === 'first' ? a.first : ''),
  cost: (a, { openSchool }) => (openSchool === 'cost' ? a.cost : ''),
  fourth: (a, { openSchool }) => (openSchool === 'fourth' ? a.fourth : ''),
  lies: a => a.lies?.key ?? '',
  manner: a => a.manner,
  bound: a => a.bound,
}

const GAP: Parts<HandGap> = {
  seconds: g => g.seconds,
  free: g => g.free,
  quick: g => g.quick,
  rest: g => g.rest,
  slurred: g => g.slurred,
  strong: g => g.strong,
  turns: g => g.turns,
  returns: g => g.returns,
  back: g => g.back,
  harmonic: g => g.harmonic,
  run: g => g.run,
  interval: g => g.interval,
  sameNotes: g => g.sameNotes,
  held: g => g.held.map(h => Object.values(h).join(',')).join(';'),
  lies: g => g.lies?.key ?? '',
  manner: g => g.manner,
}

/** Of the context: the rest of it is told by the group of states. */
type Costing = Pick<
  CostContext,
  'openSchool' | 'longStopped' | 'harmonics' | 'ringing' | 'tasteName' | 'model'
>
const CONTEXT: Parts<Costing> = {
  openSchool: c => c.openSchool,
  longStopped: c => c.longStopped,
  harmonics: c => c.harmonics,
  ringing: c => c.ringing,
  tasteName: c => c.tasteName,
  model: ({ model }) => Object.values(model).join(' '),
}

function keyOf<T>(parts: Parts<T>) {
  const all = Object.values(parts) as ((of: T, context: CostContext) => Part)[]
  return (of: T, context: CostContext) => {
    let key = ''
    for (const part of all) key += `${part(of, context)}|`
    return key
  }
}

export const contextKey = (context: CostContext) => keyOf(CONTEXT)(context, context)
export const toneKey = keyOf(TONE)
export const aroundKey = keyOf(AROUND)
export const gapKey = keyOf(GAP)
