/** One pitch that keeps the hand on the move: the only one of the tune that does not lie at home. */
import { finding, type Finding } from '#core/findings/finding'
import { HOME_ANCHOR } from '#core/instruments/hands'
import { formatPitch } from '#core/music/pitch'
import type { HandState } from './candidates'
import type { Fingering } from './fingering'

/** Fewer shifts are no burden. */
const MANY = 4

const atHome = (s: HandState) => s.anchor <= HOME_ANCHOR && s.shape !== 'thumb'
/** Touched as a harmonic many a high note is there, too; nobody asked for that. */
const stopped = (s: HandState) => s.places.every(p => !p.harmonic)

/**
 * Told at the first of them, with the note an octave lower as its mend; where more than one pitch lies away
 * from home it is the tune that asks for shifts.
 */
export function loneNoteFindings({ problem, tables }: Fingering): Finding[] {
  const { tones, states, before } = problem
  const away = tones.flatMap((_, i) => (states[i]!.some(s => atHome(s) && stopped(s)) ? [] : [i]))
  const pitches = new Set(away.map(i => tones[i]!.heads.map(h => h.sounding).join()))
  const first = tones[away[0] ?? -1]
  if (pitches.size !== 1 || !first || first.heads.length > 1) return []
  const there = tables.path.map((s, i) => states[i]![s]!)
  const lone = new Set(away)
  let shifts = 0
  for (let i = 0; i < tones.length; i++) {
    if (atHome(there[i]!)) continue
    // A stretch away from home, with the ways into it and out of it.
    let end = i
    while (end < tones.length && !atHome(there[end]!)) end++
    const own = Array.from({ length: end - i + 1 }, (_, k) => i + k)
    if (own.some(k => lone.has(k)))
      shifts += own.filter(
        k => k < tones.length && before[k]! >= 0 && there[k]!.anchor !== there[before[k]!]!.anchor,
      ).length
    i = end
  }
  if (shifts < MANY) return []
  const { id, pitch } = first.heads[0]!
  const values = { pitch: formatPitch(pitch), times: away.length, shifts }
  return [
    finding('finger.loneNote', 'note', { measure: first.measure, note: id }, values, [
      { kind: 'moveNote', note: id, octaves: -1 },
    ]),
  ]
}
