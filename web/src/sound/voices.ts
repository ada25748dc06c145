/**
 * The instruments of the player, built with Tone in whichever context is current: the live one, or one that
 * renders to a file.
 */
import * as Tone from 'tone'
import type { SoundEvent, Track } from '#core/playback/program'
import type { Midi } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { samplesOf } from './samples'

/** What one track sounds with. */
export interface Voice {
  /** Sounds an event at a time of the context, for so many seconds. */
  play(event: SoundEvent, time: number, seconds: number): void
  /** Quiet at once. */
  hush(): void
  dispose(): void
  /** False when the recordings could not be loaded and a made-up string sound stands in. */
  readonly recorded: boolean
}

const hertz = (m: Midi) => 440 * 2 ** ((m - 69) / 12)
const CLICK: readonly Midi[] = [76, 79, 84, 91]

/** @param instrument whose strings a part and the drone are heard on */
export function makeVoice(
  kind: Track['kind'],
  instrument: InstrumentId,
  out: Tone.InputNode,
): Promise<Voice> {
  if (kind === 'clicks') return Promise.resolve(clickVoice(out))
  if (kind === 'backing') return Promise.resolve(backingVoice(out))
  return stringVoice(kind, instrument, out)
}

async function stringVoice(kind: 'part' | 'drone', instrument: InstrumentId, out: Tone.InputNode) {
  let buffers: Map<Midi, AudioBuffer> | null = null
  try {
    buffers = await samplesOf(instrument)
  } catch {
    // The stand-in below plays; the page says so.
  }
  const { attack, release } = kind === 'part' ? PART_BOW : DRONE_BOW
  const voice = buffers
    ? new Tone.Sampler({ urls: Object.fromEntries(buffers), attack, release }).connect(out)
    : new Tone.PolySynth(Tone.Synth, {
        oscillator: { type: 'fatsawtooth' },
        envelope: { attack: Math.max(0.03, attack), decay: 0.1, sustain: 0.7, release },
        volume: -14,
      }).connect(out)
  return madeOf(voice, buffers !== null, (event, time, seconds) => {
    if (event.kind === 'drone') holdOn(voice, event.midi, time, seconds, event.loudness)
    else if (event.kind === 'note') {
      // A new bow stroke needs a moment of air before it; slurred notes join.
      const held = Math.max(0.03, seconds - (event.legato ? 0 : 0.02))
      voice.triggerAttackRelease(hertz(event.midi), held, time, event.loudness)
    }
  })
}
/** Seconds in which a bow catches the string and lets it go. */
const PART_BOW = { attack: 0.008, release: 0.12 }
const DRONE_BOW = { attack: 0.5, release: 0.7 }

function clickVoice(out: Tone.InputNode): Voice {
  const voice = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'triangle' },
    envelope: { attack: 0.001, decay: 0.05, sustain: 0, release: 0.03 },
    volume: -6,
  }).connect(out)
  return madeOf(voice, true, (event, time) => {
    if (event.kind === 'click')
      voice.triggerAttackRelease(hertz(CLICK[event.strength]!), 0.04, time, 0.4 + event.strength * 0.18)
  })
}

function backingVoice(out: Tone.InputNode): Voice {
  const voice = new Tone.PolySynth(Tone.Synth, {
    oscillator: { type: 'triangle8' },
    envelope: { attack: 0.006, decay: 0.5, sustain: 0.12, release: 0.25 },
    volume: -8,
  }).connect(out)
  return madeOf(voice, true, (event, time, seconds) => {
    if (event.kind === 'backing') voice.triggerAttackRelease(hertz(event.midi), seconds, time, event.loudness)
  })
}

const madeOf = (voice: Tone.Sampler | Tone.PolySynth, recorded: boolean, play: Voice['play']): Voice => ({
  recorded,
  play,
  hush: () => void voice.releaseAll(),
  dispose: () => void voice.dispose(),
})

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
