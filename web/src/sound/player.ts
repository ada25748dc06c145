/**
 * Plays a program: events go to the voices a little before their time, the place is read from the audio clock
 * itself.
 */
import * as Tone from 'tone'
import { ProgramClock, type Place } from '#core/playback/clock'
import type { Program } from '#core/playback/program'
import type { InstrumentId } from '#core/music/tune'
import { makeVoices, type Voices } from './voices'

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
  private voices: Voices | null = null
  private instrument: InstrumentId | null = null
  private wanted: InstrumentId | null = null
  private clock: ProgramClock | null = null
  private scheduled = 0
  private readonly onTick = () => this.schedule()

  constructor() {
    this.master.toDestination()
  }

  /**
   * Resolves when the sounds are there; false when the stand-in plays. Of several asked for at once the last
   * is kept.
   */
  async ready(instrument: InstrumentId): Promise<boolean> {
    this.wanted = instrument
    await Tone.start()
    if (this.instrument === instrument && this.voices) return this.voices.recorded
    const made = await makeVoices(instrument, this.master)
    if (this.wanted !== instrument) made.dispose()
    else {
      this.voices?.dispose()
      this.voices = made
      this.instrument = instrument
    }
    return made.recorded
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
    this.voices?.hush()
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
    if (!this.clock || !this.voices) return
    const until = this.clock.unrolledAt(this.now() + AHEAD)
    if (until <= this.scheduled) return
    for (const { event, at, length } of this.clock.between(this.scheduled, until)) {
      const time = Math.max(this.now(), this.clock.timeOf(at))
      this.voices.play(event, time, this.clock.lasting(at, length))
    }
    this.scheduled = until
  }
}

/** Renders a program once through, with its count-in, to samples. */
export async function render(program: Program, rate: number, instrument: InstrumentId): Promise<AudioBuffer> {
  const seconds = (program.intro.length + program.body.length) / rate + 1.2
  const buffer = await Tone.Offline(async () => {
    const out = new Tone.Gain(1).toDestination()
    const voices = await makeVoices(instrument, out)
    const clock = new ProgramClock(program, false, 0.05, rate)
    const whole = program.intro.length + program.body.length
    for (const { event, at, length } of clock.between(0, whole + 1))
      voices.play(event, clock.timeOf(at), clock.lasting(at, length))
  }, seconds)
  return buffer.get()!
}
