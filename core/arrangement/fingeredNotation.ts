/**
 * Notation of a cross-tuning as the fingers fall: every note is written as it would sound on the home
 * strings, so that old reading habits hold.
 */
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import type { FingeredNote } from '#core/fingering/fingering'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { diatonic, pitchOfMidi, transposePitch } from '#core/music/pitch'
import { type InstrumentId, type Tune } from '#core/music/tune'
import { noteId } from '#core/music/ids'

/** The tune as this arrangement is engraved. */
export const engravedTune = (d: Derived, { played, shown }: Pick<Arrangement, 'played' | 'shown'>): Tune =>
  played.tuning && shown.crossNotes === 'fingered'
    ? asFingered(d.tune, d.fingering.notes, played.instrument, played.tuning)
    : d.tune

export function asFingered(
  tune: Tune,
  notes: readonly FingeredNote[],
  id: InstrumentId,
  tuning: Tuning,
): Tune {
  const home = homeTuning(id, tuning)
  const toHome = home.map((h, i) => ({
    letters: diatonic(pitchOfMidi(h)) - diatonic(pitchOfMidi(tuning[i]!)),
    semitones: h - tuning[i]!,
  }))
  const strings = new Map(notes.map(n => [n.id, n.string]))
  return {
    ...tune,
    measures: tune.measures.map(m => ({
      ...m,
      events: m.events.map(e => {
        if (e.kind !== 'note') return e
        const heads = e.heads.map((h, i) => {
          const string = strings.get(noteId(e.id, i))
          return string === undefined ? h : { ...h, pitch: transposePitch(h.pitch, toHome[string]!) }
        })
        return { ...e, heads }
      }),
    })),
  }
}
