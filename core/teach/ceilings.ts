/**
 * How fast a fingering can go: the tempo at which the time for a shift, a crossing or a hop runs out, by
 * {@link HandModel}.
 */
import type { Tempo } from '#core/music/metre'
import { tempoName } from '#core/music/valueName'
import type { Bowing } from '#core/bowing/stroke'
import type { Fingering } from '#core/fingering/fingering'
import { shiftsOf } from '#core/fingering/derived'
import { HAND_MODEL, type HandModel } from '#core/instruments/handModel'
import { measureText } from '#core/words/places'

export interface Ceiling {
  readonly kind: 'shift' | 'crossing' | 'skip' | 'hop' | 'stroke'
  /** Events from which and to which the hand or the bow goes. */
  readonly from: string
  readonly to: string
  readonly measure: number
  readonly tempo: Tempo
}

/** The tempo at which so many seconds at the present one shrink to the least. */
const ceilingTempo = (tempo: Tempo, seconds: number, least: number): Tempo => ({
  beat: tempo.beat,
  perMinute: Math.max(1, Math.floor((tempo.perMinute * seconds) / least)),
})

/** What limits the tempo, between each two tones that need the hand or the bow to move; in order. */
export function ceilingsOf(f: Fingering, model: HandModel = HAND_MODEL): Ceiling[] {
  const { tones, before, gaps, states, options } = f.problem
  const out: Ceiling[] = shiftsOf(f, model).map(s => ({
    kind: 'shift',
    from: s.from,
    to: s.to,
    measure: s.measure,
    tempo: s.ceiling,
  }))
  for (let i = 1; i < tones.length; i++) {
    const from = before[i]!
    const [p, q] = [states[from]![f.tables.path[from]!]!.lead, states[i]![f.tables.path[i]!]!.lead]
    const strings = Math.abs(p.string - q.string)
    if (strings === 0) continue
    const hop = p.finger !== 0 && p.finger === q.finger && p.offset !== q.offset
    const least = Math.max(
      model.crossingSeconds + model.skipSeconds * (strings - 1),
      hop ? model.hopSeconds : 0,
    )
    out.push({
      kind: hop ? 'hop' : strings > 1 ? 'skip' : 'crossing',
      from: tones[from]!.id,
      to: tones[i]!.id,
      measure: tones[i]!.measure,
      tempo: ceilingTempo(options.tempo, gaps[i - 1]!.seconds, least),
    })
  }
  return out
}

/** Seconds the shortest stroke takes, one after another: about ten a second. */
const STROKE_SECONDS = 0.095

/**
 * What the bow limits: the shortest strokes, one after another. A stroke that goes to another string is
 * limited by the crossing already.
 */
export function bowCeilings({ strokes }: Pick<Bowing, 'strokes'>, tempo: Tempo): Ceiling[] {
  return strokes.flatMap((s, i): Ceiling[] => {
    const before = strokes[i - 1]
    if (!before || s.pass > 1) return []
    const [from, to] = [before.notes[0]!, s.notes[0]!]
    return [
      {
        kind: 'stroke',
        from,
        to,
        measure: s.measure,
        tempo: ceilingTempo(tempo, before.seconds + s.restBefore, STROKE_SECONDS),
      },
    ]
  })
}

/** What gives out first among some events; null when nothing moves there. */
export function firstToGive(ceilings: readonly Ceiling[], events: ReadonlySet<string>): Ceiling | null {
  const own = ceilings.filter(c => events.has(c.to))
  return own.length === 0 ? null : own.reduce((a, b) => (b.tempo.perMinute < a.tempo.perMinute ? b : a))
}

const WHAT: Record<Ceiling['kind'], string> = {
  shift: 'the shift',
  crossing: 'the string crossing',
  skip: 'the skip over a string',
  hop: 'the hop of one finger',
  stroke: 'the bow',
}
/** "playable up to quarter note = 112; above that the shift in measure 3 is too fast". */
export const ceilingText = (c: Ceiling) =>
  `playable up to ${tempoName(c.tempo)}; above that ${WHAT[c.kind]} in ${measureText(c.measure)} is too fast`
