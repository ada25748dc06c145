/**
 * The teacher's rules for stretches of the tune: stay on this string, no open string here, one position, a
 * sound.
 */
import { POSITION_ANCHORS } from '#core/instruments/positions'
import type { PassageRule } from './passageRule'
import type { Tuning } from '#core/instruments/tunings'
import type { HandState } from './candidates'
import type { Tone } from '#core/line/tones'
import { WEIGHTS as W } from './weights'

export type Sound = Extract<PassageRule['rule'], { kind: 'sound' }>['sound']

/** A rule with the tones it is for, by index, both included. */
export interface Ruled {
  readonly index: number
  readonly rule: PassageRule['rule']
  readonly from: number
  readonly to: number
}

/** Rules whose events are still in the tune; either end may come first. */
export function ruled(rules: readonly PassageRule[], tones: readonly Tone[]): Ruled[] {
  const at = new Map<string, number>()
  tones.forEach((t, i) => [t.id, ...t.tied].forEach(id => at.set(id, i)))
  return rules.flatMap(({ from, to, rule }, index) => {
    const [a, b] = [at.get(from), at.get(to)]
    return a === undefined || b === undefined
      ? []
      : [{ index, rule, from: Math.min(a, b), to: Math.max(a, b) }]
  })
}

/** What a rule allows; a sound and a school of places allow everything and only weigh. */
export function allows(rule: PassageRule['rule'], s: HandState): boolean {
  switch (rule.kind) {
    case 'string':
      return s.places.some(p => p.string === rule.string)
    case 'noOpen':
      return s.places.every(p => p.finger !== 0)
    case 'noFourth':
      return s.places.every(p => p.finger !== 4)
    case 'position':
      return rule.anchor === null || s.anchor === rule.anchor
    case 'places':
    case 'sound':
      return true
  }
}

/** Anchors at which a hand could take every tone of a stretch. */
export function anchorsFor(
  states: readonly (readonly HandState[])[],
  { from, to }: Pick<Ruled, 'from' | 'to'>,
): number[] {
  return POSITION_ANCHORS.filter(h =>
    states.slice(from, to + 1).every(list => list.some(s => s.anchor === h)),
  )
}

/** Semitones up a string where it begins to sound round, and covered. */
const ROUND = 4
const COVERED = 9

/**
 * What a place costs for a wished sound: a clear one high strings low down, a covered one low strings high
 * up, a ringing one open strings.
 */
export function soundCost(sound: Sound, s: HandState, tuning: Tuning): number {
  const { finger, offset, string } = s.lead
  const open = finger === 0
  switch (sound) {
    case 'clear':
      return open ? 0 : W.soundStep * Math.max(0, offset - ROUND)
    case 'round':
      return open ? W.soundOpen : W.soundStep * Math.max(0, ROUND - offset)
    case 'covered':
      return open ? 2 * W.soundOpen : W.soundStep * Math.max(0, COVERED - offset)
    case 'ringing': {
      const pitch = tuning[string]! + offset
      return open ? -W.soundOpen : tuning.some(t => (t - pitch) % 12 === 0) ? -W.soundOpen / 3 : 0
    }
  }
}
