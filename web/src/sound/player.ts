/**
 * Plays a program: events go to the voices a little before their time, the place is read from the audio clock
 * itself.
 */
import * as Tone from 'tone'
import { ProgramClock, type Place } from '#core/playback/clock'
import type { Program } from '#core/playback/program'
import type { Mix } from '#core/playback/mixer'
import { Channels, type VoicedTrack } from './channels'

/** Seconds ahead of the clock that are handed to the voices; and how soon after the call the sound begins. */
const AHEAD = 0.25
const SOON = 0.08

export interface PlayOptions {
  readonly program: Program
  /** Quarters a second. */
  readonly rate: number
  readonly loops: boolean
  /** Quarters into the body. */
  readonly from: number
  readonly withIntro: boolean
}

export class Player {
  private readonly master = new Tone.Gain(1)
  private readonly channels = new Channels(this.master)
  private clock: ProgramClock | null = null
  private scheduled = 0
  private readonly onTick = () => this.schedule()

  constructor() {
    this.master.toDestination()
  }

  /** Resolves when the sounds are there; false when a stand-in plays. One call at a time. */
  async ready(tracks: readonly VoicedTrack[], mix: Mix): Promise<boolean> {
    await Tone.start()
    return this.channels.ready(tracks, mix)
  }

  mix(mix: Mix) {
    this.channels.mix(mix)
  }

  /** 0 to 1; 0 plays in silence, with the clock running. */
  setVolume(volume: number) {
    this.master.gain.rampTo(volume * volume, 0.03)
  }

  start(o: PlayOptions) {
    this.stop()
    this.clock = new ProgramClock(o.program, o.loops, this.now() + SOON, o.rate, o.from, o.withIntro)
    this.scheduled = 0
    Tone.getContext().on('tick', this.onTick)
    this.schedule()
  }

  stop() {
    Tone.getContext().off('tick', this.onTick)
    this.channels.hush()
    this.clock = null
  }

  /** A new tempo, from where nothing is scheduled yet. */
  setRate(rate: number) {
    if (this.clock) this.clock.setRate(rate, this.clock.timeOf(this.scheduled))
  }

  /** Where the music that can be heard now is. Null when nothing plays. */
  place(): Place | null {
    return this.clock?.placeAt(this.now() - this.latency()) ?? null
  }

  private now = () => Tone.getContext().currentTime
  /** Seconds from the clock to the ear, as far as the browser knows. */
  private latency(): number {
    const raw = Tone.getContext().rawContext as AudioContext
    return raw.outputLatency || raw.baseLatency || 0
  }

  private schedule() {
    if (!this.clock) return
    const until = this.clock.unrolledAt(this.now() + AHEAD)
    if (until <= this.scheduled) return
    for (const { event, at, length } of this.clock.between(this.scheduled, until)) {
      const time = Math.max(this.now(), this.clock.timeOf(at))
      this.channels.play(event, time, this.clock.lasting(at, length))
    }
    this.scheduled = until
  }
}

/** Renders a program once through, with its count-in, to samples. */
export async function render(
  program: Program,
  rate: number,
  tracks: readonly VoicedTrack[],
  mix: Mix,
): Promise<AudioBuffer> {
  const seconds = (program.intro.length + program.body.length) / rate + 1.2
  const buffer = await Tone.Offline(async () => {
    const channels = new Channels(new Tone.Gain(1).toDestination())
    await channels.ready(tracks, mix)
    const clock = new ProgramClock(program, false, 0.05, rate)
    const whole = program.intro.length + program.body.length
    for (const { event, at, length } of clock.between(0, whole + 1))
      channels.play(event, clock.timeOf(at), clock.lasting(at, length))
  }, seconds)
  return buffer.get()!
}
