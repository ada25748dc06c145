/**
 * How a finger spoken on a string becomes a place, and back. The grammar of the text is in
 * docs/string-and-finger.md.
 */
import { framesOf, type Finger, type HandOptions } from '#core/instruments/hands'
import type { Semitones } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'

/**
 * Where the first finger stands in each numbered position: the steps of the scale above the open string; on
 * the bass its own system.
 */
const BY_STEP: Readonly<Record<string, Semitones>> = {
  '0.5': 1,
  '1': 2,
  '2': 4,
  '3': 5,
  '4': 7,
  '5': 9,
  '6': 11,
  '7': 12,
  '8': 14,
  '9': 16,
  '10': 17,
  '11': 19,
  '12': 21,
}
const BASS: Readonly<Record<string, Semitones>> = {
  '0.5': 1,
  '1': 2,
  '2': 3,
  '2.5': 4,
  '3': 5,
  '3.5': 6,
  '4': 7,
  '5': 8,
  '5.5': 9,
  '6': 10,
  '6.5': 11,
  '7': 12,
  '8': 14,
  '9': 16,
  '10': 17,
  '11': 19,
  '12': 21,
}
const tableOf = (id: InstrumentId) => (id === 'bass' ? BASS : BY_STEP)

/** "3", "<2", "half": the place of the first finger. Null when there is no such position. */
export function anchorOf(id: InstrumentId, text: string): Semitones | null {
  if (/^(half|½)$/.test(text)) return 1
  const m = /^([<>]?)(\d{1,2}(?:\.5)?)$/.exec(text)
  const place = m ? tableOf(id)[m[2]!] : undefined
  if (place === undefined) return null
  const anchor = place + (m![1] === '<' ? -1 : m![1] === '>' ? 1 : 0)
  return anchor >= 1 && anchor <= 21 ? anchor : null
}

export function positionText(id: InstrumentId, anchor: Semitones): string {
  if (anchor === 1) return 'half'
  const entries = Object.entries(tableOf(id))
  const same = entries.find(([, a]) => a === anchor)
  if (same) return same[0]
  const above = entries.find(([, a]) => a === anchor + 1)
  return above ? `<${above[0]}` : `>${entries.findLast(([, a]) => a < anchor)![0]}`
}

/** Semitones above the anchor where a finger is at home there; null when that hand does not use it. */
export function homeFrom(
  id: InstrumentId,
  anchor: Semitones,
  finger: Finger,
  hand: HandOptions = {},
): Semitones | null {
  const frames = framesOf(id, hand).filter(f => anchor >= f.lowest && anchor <= f.highest)
  for (const frame of frames) {
    const own = frame.reaches.filter(r => r.finger === finger)
    const home = own.find(r => r.mark === 'home') ?? own[0]
    if (home) return home.from
  }
  return null
}

export const UNITS = ['1/4', '1/8', '1/16', '1/32', '1/2', '1'] as const
