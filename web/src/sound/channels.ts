/** A channel for each track: its voice, how loud it is and where it stands. */
import * as Tone from 'tone'
import type { InstrumentId } from '#core/music/tune'
import { gainsOf, type Mix } from '#core/playback/mixer'
import type { SoundEvent, Track, TrackId } from '#core/playback/program'
import { makeVoice, type Voice } from './voices'

/** A track, with the instrument whose strings it is heard on. */
export interface VoicedTrack extends Track {
  readonly instrument: InstrumentId
}

interface Channel {
  readonly track: VoicedTrack
  readonly voice: Voice
  readonly gain: Tone.Gain
  readonly panner: Tone.Panner
}

/** Seconds a change of the mix takes: none is heard as a crack. */
const GLIDE = 0.03

export class Channels {
  private channels = new Map<TrackId, Channel>()

  constructor(private readonly out: Tone.InputNode) {}

  /** Makes what is missing, and ends what is not asked for. False where a stand-in plays for a recording. */
  async ready(tracks: readonly VoicedTrack[], mix: Mix): Promise<boolean> {
    const made = await Promise.all(tracks.map(t => this.channelOf(t)))
    for (const c of this.channels.values()) if (!made.includes(c)) disposeOf(c)
    this.channels = new Map(made.map(c => [c.track.id, c]))
    this.mix(mix, 0)
    return made.every(c => c.voice.recorded)
  }

  private async channelOf(track: VoicedTrack): Promise<Channel> {
    const known = this.channels.get(track.id)
    if (known?.track.kind === track.kind && known.track.instrument === track.instrument) return known
    const panner = new Tone.Panner(0).connect(this.out)
    const gain = new Tone.Gain(1).connect(panner)
    return { track, gain, panner, voice: await makeVoice(track.kind, track.instrument, gain) }
  }

  mix(mix: Mix, seconds = GLIDE) {
    const tracks = [...this.channels.values()].map(c => c.track)
    for (const { id, gain, pan } of gainsOf(tracks, mix)) {
      const channel = this.channels.get(id)!
      channel.gain.gain.rampTo(gain, seconds)
      channel.panner.pan.rampTo(pan, seconds)
    }
  }

  play(event: SoundEvent, time: number, seconds: number) {
    this.channels.get(event.track)?.voice.play(event, time, seconds)
  }

  hush() {
    for (const c of this.channels.values()) c.voice.hush()
  }
}

function disposeOf({ voice, gain, panner }: Channel) {
  voice.dispose()
  gain.dispose()
  panner.dispose()
}
