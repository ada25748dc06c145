/**
 * Two phrases laid over each other from their first downbeats, with what differs: heights, fingers and bows.
 */
import type { Derived } from '#core/arrangement/derive'
import { digitText } from '#core/instruments/digits'
import { lettersOf } from '#core/instruments/instruments'
import type { Phrase } from '#core/form/form'
import { differing } from '#core/form/likeness'
import { TICKS_PER_QUARTER, type Tone } from '#core/form/material'
import { eventOf } from '#core/music/ids'

export interface OverlayNote {
  readonly id: string
  /** In quarters from the first downbeat; pickups are negative. */
  readonly at: number
  readonly length: number
  /** Steps on the staff above the lowest note of both; null for a rest. */
  readonly height: number | null
  readonly name: string
  readonly finger: string
  readonly bow: 'down' | 'up' | null
  /** Not the same note there, at the same place. */
  readonly differs: boolean
  /** The same note, but with another finger or string. */
  readonly otherFinger: boolean
  readonly otherBow: boolean
}

export interface Overlay {
  readonly labels: readonly [string, string]
  readonly from: number
  readonly to: number
  readonly highest: number
  readonly voices: readonly [readonly OverlayNote[], readonly OverlayNote[]]
}

/** Null when one of the phrases is not there. */
export function overlayOf(d: Derived, first: string, second: string): Overlay | null {
  const [a, b] = [first, second].map(id => d.form.phrases.find(p => p.events[0] === id))
  if (!a || !b) return null
  const tones = [...a.stretch.tones, ...b.stretch.tones].filter(t => t.midi !== null)
  const low = Math.min(...tones.map(t => t.step))
  const quarters = (p: Phrase, at: number) => (at - p.stretch.downbeat) / TICKS_PER_QUARTER
  const hand = handsOf(d)
  const voice = (own: Phrase, other: Phrase): OverlayNote[] => {
    const strays = new Set(differing(own.stretch, other.stretch).map(t => t.id))
    const there = new Map(other.stretch.tones.map(t => [quarters(other, t.at), t]))
    return own.stretch.tones.map(t => {
      const partner = there.get(quarters(own, t.at))
      const [mine, theirs] = [hand(t), partner && hand(partner)]
      const same = !strays.has(t.id) && t.midi !== null && theirs !== undefined
      return {
        id: t.id,
        at: quarters(own, t.at),
        length: t.length / TICKS_PER_QUARTER,
        height: t.midi === null ? null : t.step - low,
        ...mine,
        differs: strays.has(t.id),
        otherFinger: same && theirs.finger !== mine.finger,
        otherBow: same && theirs.bow !== mine.bow,
      }
    })
  }
  return {
    labels: [a.label, b.label],
    from: Math.min(...[a, b].map(p => quarters(p, p.stretch.tones[0]?.at ?? 0))),
    to: Math.max(...[a, b].map(p => quarters(p, p.stretch.end))),
    highest: Math.max(...tones.map(t => t.step - low), 1),
    voices: [voice(a, b), voice(b, a)],
  }
}

function handsOf(d: Derived) {
  const { instrument, tuning } = d.fingering.problem.options
  const letters = lettersOf(instrument, tuning)
  const fingers = new Map(d.fingering.notes.map(n => [eventOf(n.id), n]))
  const bows = new Map(
    d.bowing.written.flatMap(s => s.notes.map((id, i) => [id, i === 0 ? s.direction : null])),
  )
  return (t: Tone) => {
    const n = fingers.get(t.id)
    const name = n
      ? `${n.pitch.step}${'♯'.repeat(Math.max(0, n.pitch.alter))}${'♭'.repeat(Math.max(0, -n.pitch.alter))}`
      : ''
    return {
      name,
      finger: n ? letters[n.string]! + digitText(n.finger, n.mark) : '',
      bow: bows.get(t.id) ?? null,
    }
  }
}
