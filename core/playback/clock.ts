/**
 * Where the music is at a moment, and when a place in it comes: a program is played once through its intro,
 * then through its body, again and again when it loops. The tempo may change on the way; what came before
 * stays where it was.
 */
import type { Program, SoundEvent } from './program'

/** Quarters from the very start of playing, intro included, loops unrolled. */
export type Unrolled = number
export type Seconds = number

export interface Place {
  readonly part: 'intro' | 'body' | 'over'
  /** Quarters from the start of that part. */
  readonly at: number
  /** How often the body was begun before: 0 the first time. */
  readonly round: number
}

export class ProgramClock {
  /** From this time on, so many quarters a second. */
  private readonly anchors: { time: Seconds; at: Unrolled; rate: number }[]

  constructor(
    private readonly program: Program,
    private readonly loops: boolean,
    start: Seconds,
    /** Quarters a second. */
    rate: number,
    /** Where in the body to begin. */
    private readonly from = 0,
    private readonly withIntro = true,
  ) {
    this.anchors = [{ time: start, at: 0, rate }]
  }

  private get introLength() {
    return this.withIntro ? this.program.intro.length : 0
  }

  /** A new tempo from a time on, which must not be before the last change. */
  setRate(rate: number, from: Seconds) {
    const at = this.unrolledAt(from)
    this.anchors.push({ time: from, at, rate })
  }

  unrolledAt(time: Seconds): Unrolled {
    const a = this.anchors.findLast(x => x.time <= time) ?? this.anchors[0]!
    return a.at + (time - a.time) * a.rate
  }

  timeOf(at: Unrolled): Seconds {
    const a = this.anchors.findLast(x => x.at <= at) ?? this.anchors[0]!
    return a.time + (at - a.at) / a.rate
  }

  /** Seconds a stretch of quarters takes when it begins at a place. */
  lasting(at: Unrolled, quarters: number): Seconds {
    return this.timeOf(at + quarters) - this.timeOf(at)
  }

  placeAt(time: Seconds): Place {
    const at = this.unrolledAt(time)
    if (at < this.introLength) return { part: 'intro', at: Math.max(0, at), round: 0 }
    const { length } = this.program.body
    const inBody = at - this.introLength + this.from
    if (length === 0 || (!this.loops && inBody >= length)) return { part: 'over', at: length, round: 0 }
    return { part: 'body', at: inBody % length, round: Math.floor(inBody / length) }
  }

  /** When everything is over; never for a loop. */
  get end(): Seconds {
    return this.loops ? Infinity : this.timeOf(this.introLength + this.program.body.length - this.from)
  }

  /**
   * What begins from one place (included) to another (excluded). A background that sounds already where one
   * starts begins there.
   */
  between(a: Unrolled, b: Unrolled): { event: SoundEvent; at: Unrolled; length: number }[] {
    const out: { event: SoundEvent; at: Unrolled; length: number }[] = []
    const lengthOf = (e: SoundEvent) => (e.kind === 'click' ? 0 : e.length)
    if (this.withIntro)
      for (const event of this.program.intro.events)
        if (event.start >= a && event.start < b) out.push({ event, at: event.start, length: lengthOf(event) })
    const { length, events } = this.program.body
    if (length === 0) return out
    const origin = this.introLength - this.from
    const [first, last] = [Math.floor((a - origin) / length), Math.floor((b - origin) / length)]
    for (let round = Math.max(0, first); round <= (this.loops ? last : 0); round++)
      for (const event of events) {
        const at = origin + round * length + event.start
        const late = round === 0 ? Math.max(0, this.from - event.start) : 0
        const begins = at + late
        const left = lengthOf(event) - late
        const sounds = late === 0 || (event.kind !== 'click' && event.kind !== 'note' && left > 0)
        if (sounds && begins >= a && begins < b) out.push({ event, at: begins, length: left })
      }
    return out
  }
}
