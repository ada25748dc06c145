/**
 * The instruments of the player, built with Tone in whichever context is current: the live one, or one that
 * renders to a file.
 */
import * as Tone from 'tone'
import type { SoundEvent } from '#core/playback/program'
import type { Midi } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { samplesOf } from './samples'

export interface Voices {
  /** Sounds an event at a time of the context, for so many seconds. */
  play(event: SoundEvent, time: number, seconds: number): void
  /** Everything quiet at once. */
  hush(): void
  dispose(): void
  /** False when the recordings could not be loaded and a made-up string sound stands in. */
  readonly recorded: boolean
}

const hertz = (m: Midi) => 440 * 2 ** ((m - 69) / 12)
const CLICK: readonly Midi[] = [76, 79, 84, 91]

export async function makeVoices(id: InstrumentId, out: Tone.InputNode): Promise<Voices> {
  let buffers: Map<Midi, AudioBuffer> | null = null
  try {
    buffers = await samplesOf(id)
  } catch {
    // The stand-in below plays; the page says so.
  }
  const strings = (attack: number, release: number) =>
    buffers
      ? new Tone.Sampler({ urls: Object.fromEntries(buffers), attack, release }).connect(out)
      : new Tone.PolySynth(Tone.Synth, {
          oscillator: { type: 'fatsawtooth' },
          envelope: { attack: Math.max(0.03, attack), decay: 0.1, sustain: 0.7, release },
          volume: -14,
        }).connect(out)
  const melody = strings(0.008, 0.12)
  const drone = strings(0.5, 0.7)
  const click = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'triangle' },
    envelope: { attack: 0.001, decay: 0.05, sustain: 0, release: 0.03 },
    volume: -6,
  }).connect(out)
  const backing = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'triangle8' },
    envelope: { attack: 0.006, decay: 0.5, sustain: 0.12, release: 0.25 },
    volume: -8,
  }).connect(out)
  const all = [melody, drone, click, backing]
  return {
    recorded: buffers !== null,
    play(event, time, seconds) {
      if (event.kind === 'click')
        click.triggerAttackRelease(hertz(CLICK[event.strength]!), 0.04, time, 0.4 + event.strength * 0.18)
      else if (event.kind === 'backing')
        backing.triggerAttackRelease(hertz(event.midi), seconds, time, event.loudness)
      else if (event.kind === 'drone') holdOn(drone, event.midi, time, seconds, event.loudness)
      else if (event.kind === 'note') {
        // A new bow stroke needs a moment of air before it; slurred notes join.
        const held = Math.max(0.03, seconds - (event.legato ? 0 : 0.02))
        melody.triggerAttackRelease(hertz(event.midi), held, time, event.loudness)
      }
    },
    hush: () => all.forEach(v => v.releaseAll()),
    dispose: () => all.forEach(v => v.dispose()),
  }
}

/** Seconds after which a held note is bowed anew, softly overlapping: recordings end. */
const BOW = 2.4

function holdOn(
  voice: Tone.Sampler | Tone.PolySynth,
  midi: Midi,
  time: number,
  seconds: number,
  loudness: number,
) {
  for (let t = 0; t < seconds; t += BOW)
    voice.triggerAttackRelease(hertz(midi), Math.min(BOW + 0.3, seconds - t), time + t, loudness)
}
