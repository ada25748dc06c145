/** Small things a teacher says beside the fingers: prepare this one, hop here, slide there. */
import type { Finger } from '#core/instruments/hands'
import type { HandState } from '#core/fingering/candidates'
import type { Fingering } from '#core/fingering/fingering'

export interface Cue {
  readonly kind: 'prepare' | 'hop' | 'slide'
  /** Event the cue stands at, and the one it is for. */
  readonly at: string
  readonly for: string
  readonly measure: number
  readonly finger: Finger
  /** 0 is the highest. */
  readonly string: number
}

/**
 * Prepare on another string while an open one sounds; one finger that must jump to another string; one that
 * slides while the hand stays (not a shift).
 */
export function cuesOf(f: Fingering): Cue[] {
  const { tones, states, before } = f.problem
  const at = (i: number): HandState => states[i]![f.tables.path[i]!]!
  const out: Cue[] = []
  for (let i = 1; i < tones.length; i++) {
    const [a, b] = [at(before[i]!), at(i)]
    const [p, q] = [a.lead, b.lead]
    const cue = (kind: Cue['kind']) =>
      out.push({
        kind,
        at: tones[before[i]!]!.id,
        for: tones[i]!.id,
        measure: tones[i]!.measure,
        finger: q.finger,
        string: q.string,
      })
    // A hand that moves has a landmark, not a cue.
    if (q.finger === 0 || a.anchor !== b.anchor) continue
    const over = p.string !== q.string
    // On the string that sounds open no finger can be put down yet.
    if (p.finger === 0) {
      if (over) cue('prepare')
    } else if (p.finger === q.finger && p.offset !== q.offset) cue(over ? 'hop' : 'slide')
  }
  return out
}
