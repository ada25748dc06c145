/** A plain tone to tune to: a few partials, so that it is heard on small loudspeakers too. */
import * as Tone from 'tone'
import { frequencyOf } from '#core/tuner/detect'

/** Seconds a reference tone lasts. */
const LENGTH = 2.5

/** Sounds a pitch; comes back when it is over. */
export async function playTone(midi: number): Promise<void> {
  await Tone.start()
  const synth = new Tone.Synth({
    oscillator: { type: 'fattriangle' },
    envelope: { attack: 0.05, decay: 0.1, sustain: 0.8, release: 0.3 },
    volume: -12,
  }).toDestination()
  synth.triggerAttackRelease(frequencyOf(midi), LENGTH)
  await new Promise(done => setTimeout(done, (LENGTH + 0.4) * 1000))
  synth.dispose()
}
