/** Which fingers an ornament takes, in the hand that stands there, and the time it needs. */
import { reachAt, type Finger, type MarkKind } from '#core/instruments/hands'
import { byLetters } from '#core/music/edit/spelling'
import { isOrnament, ORNAMENT_STEPS, type Ornament } from '#core/music/ornaments'
import { formatPitch, midi, type Midi, type Pitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { formatTempo } from '#core/music/metre'
import type { HandState } from '#core/fingering/candidates'
import type { Fingering } from '#core/fingering/fingering'

export interface OrnamentFinger {
  readonly pitch: string
  /** Null when the hand that stands there does not reach it. */
  readonly finger: Finger | null
  readonly mark: MarkKind
  /** 0 is the highest. */
  readonly string: number
}

export interface OrnamentHand {
  readonly note: string
  readonly measure: number
  readonly kind: Ornament | 'grace'
  /** In the order they sound; the main note is left out. */
  readonly fingers: readonly OrnamentFinger[]
  /** "1/4=120": beyond it there is no time left. */
  readonly ceiling: string
}

/** Seconds each little note of an ornament needs, by the ear rather than by the hand. */
export const LITTLE_NOTE = 0.055

/** The finger that plays a pitch while the hand stays: on the same string first, then on its neighbours. */
function fingerFor(f: Fingering, state: HandState, sounding: Midi): Omit<OrnamentFinger, 'pitch'> {
  const { tuning, instrument, hand } = f.problem.options
  const { string } = state.lead
  for (const s of [string, string - 1, string + 1]) {
    const open = tuning[s]
    if (open === undefined) continue
    const offset = sounding - open
    if (offset === 0) return { finger: 0, mark: 'home', string: s }
    const reach = reachAt(instrument, state.anchor, offset, hand, state.shape)
    if (reach) return { finger: reach.finger, mark: reach.mark, string: s }
  }
  return { finger: null, mark: 'home', string }
}

/** Every ornament and grace note of the tune, with its fingers. */
export function ornamentsOf(f: Fingering, tune: Tune): OrnamentHand[] {
  const { tones, states, options } = f.problem
  const at = new Map(tones.map((t, i) => [t.id, i]))
  let key = tune.key
  return tune.measures.flatMap(m => {
    key = m.key ?? key
    return m.events.flatMap(e => {
      const i = at.get(e.id)
      if (e.kind !== 'note' || i === undefined) return []
      const [tone, state] = [tones[i]!, states[i]![f.tables.path[i]!]!]
      const written = e.heads.at(-1)!.pitch
      const down = midi(written) - tone.heads.at(-1)!.sounding
      const fingered = (pitches: readonly Pitch[]) =>
        pitches.map(p => ({ pitch: formatPitch(p), ...fingerFor(f, state, midi(p) - down) }))
      const least = (count: number) => LITTLE_NOTE * (count + 1)
      const told = (kind: OrnamentHand['kind'], pitches: readonly Pitch[]): OrnamentHand => ({
        note: tone.id,
        measure: tone.measure,
        kind,
        fingers: fingered(pitches.filter((p, k) => pitches.findIndex(q => midi(q) === midi(p)) === k)),
        ceiling: formatTempo({
          beat: options.tempo.beat,
          perMinute: Math.max(
            1,
            Math.floor((options.tempo.perMinute * tone.seconds) / least(pitches.length)),
          ),
        }),
      })
      const graces = e.grace?.length ? [told('grace', e.grace)] : []
      const marks = (e.marks ?? []).filter(isOrnament).map(mark => {
        const others = ORNAMENT_STEPS[mark].filter(step => step !== 0)
        return told(
          mark,
          others.flatMap(step => byLetters(written, step, key) ?? []),
        )
      })
      return [...graces, ...marks]
    })
  })
}
