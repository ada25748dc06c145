import { intervalBetweenKeys, signature, type Key } from './key'
import { transposePitch, type Interval } from './pitch'
import type { Measure, Tune, TuneEvent } from './tune'

const mapKey = (key: Key, by: Interval): Key => {
  const p = transposePitch({ step: key.step, alter: key.alter, octave: 4 }, by)
  return simplestKey({ step: p.step, alter: p.alter, mode: key.mode })
}

/** A key of at most seven sharps or flats that sounds the same. */
function simplestKey(key: Key): Key {
  if (Math.abs(signature(key)) <= 7 && Math.abs(key.alter) <= 1) return key
  const by: Interval = signature(key) > 0 ? { letters: 1, semitones: 0 } : { letters: -1, semitones: 0 }
  const p = transposePitch({ step: key.step, alter: key.alter, octave: 4 }, by)
  return { step: p.step, alter: p.alter, mode: key.mode }
}

function mapEvent(event: TuneEvent, by: Interval): TuneEvent {
  const chord = event.chord && { chord: transposeChord(event.chord, by) }
  if (event.kind === 'rest') return { ...event, ...chord }
  return {
    ...event,
    ...chord,
    heads: event.heads.map(h => ({ ...h, pitch: transposePitch(h.pitch, by) })),
    ...(event.grace && { grace: event.grace.map(g => transposePitch(g, by)) }),
    // A written finger belongs to the old place.
    ...(event.finger !== undefined && by.semitones % 12 !== 0 && { finger: undefined }),
  }
}

/** "Am7/G" up a tone is "Bm7/A"; text that is no chord name stays. */
export function transposeChord(name: string, by: Interval): string {
  return name.replace(/(^|\/)([A-G])(#|b)?/g, (_all, lead: string, letter: string, acc?: string) => {
    const alter = acc === '#' ? 1 : acc === 'b' ? -1 : 0
    const p = transposePitch({ step: letter as 'A', alter, octave: 4 }, by)
    return lead + p.step + (p.alter > 0 ? '#'.repeat(p.alter) : 'b'.repeat(-p.alter))
  })
}

/**
 * Moves every pitch, chord and key by an interval; ids and everything else stay. Up and then down gives the
 * tune back.
 */
export function transposeTune(tune: Tune, by: Interval): Tune {
  if (by.letters === 0 && by.semitones === 0) return tune
  const mapMeasure = (m: Measure): Measure => ({
    ...m,
    ...(m.key && { key: mapKey(m.key, by) }),
    events: m.events.map(e => mapEvent(e, by)),
  })
  return { ...tune, key: mapKey(tune.key, by), measures: tune.measures.map(mapMeasure) }
}

/** To another tonic (the mode stays), by the shorter way, then by whole octaves. */
export function transposeToKey(tune: Tune, key: Key, octaves = 0): Tune {
  return transposeTune(tune, intervalBetweenKeys(tune.key, { ...key, mode: tune.key.mode }, octaves))
}

/** A tune's pitches must stay on paper: octaves -1 to 9. */
export const octaveShift = (octaves: number): Interval => ({ letters: 7 * octaves, semitones: 12 * octaves })
