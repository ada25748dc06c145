/** The time between two tones of a line, and what else joins them: what a hand or a bow has to go from one to the next. */
import type { Semitones } from '#core/music/pitch'
import type { TiedOn } from '#core/music/timeline'
import type { Tone } from './tones'

/** Seconds between notes: below `QUICK` they hurry hand and arm, and fully so at `QUICKEST`. */
export const QUICK = 0.45
export const QUICKEST = 0.12

/** 0 for an easy pace, 1 for the quickest. */
export const hurry = (seconds: number) => Math.max(0, Math.min(1, (QUICK - seconds) / (QUICK - QUICKEST)))

/** Between two tones: what the transition needs to know of them. */
export interface Gap {
  /** Seconds from the start of the first tone to the start of the second. */
  readonly seconds: number
  /** Seconds the hand is free before the second tone when the first is open: the open strings before it count too. */
  readonly free: number
  /** 0 for an easy pace, 1 for the quickest. */
  readonly quick: number
  readonly rest: number
  readonly slurred: boolean
  readonly strong: boolean
  /** The line turns at the second tone: a bow that crosses to it comes right back. */
  readonly turns: boolean
  /** The first tone comes again right after the second: its finger may stay down. */
  readonly returns: boolean
  /** The second tone was heard right before the first: a neighbour and back. */
  readonly back: boolean
  /** One of the two is written as a harmonic. */
  readonly harmonic: boolean
  /** Both tones belong to one chromatic run. */
  readonly run: boolean
  /** Semitones from the first tone's top note to the second's. */
  readonly interval: Semitones
  readonly sameNotes: boolean
  /** Heads held from the first tone into the second. */
  readonly held: readonly TiedOn[]
}

const sameSound = (a: Tone, b: Tone) =>
  a.heads.length === b.heads.length && a.heads.every((h, i) => h.sounding === b.heads[i]!.sounding)

const intervalBetween = (a: Tone, b: Tone): Semitones => b.heads.at(-1)!.sounding - a.heads.at(-1)!.sounding

/**
 * @param next the tone of another pitch that comes after `b`
 * @param openRun seconds of the tones just before `a` that may be open as well, one after another
 * @param before the tone of another pitch that comes before `a`
 */
export function gapBetween(a: Tone, b: Tone, next?: Tone, openRun = 0, before?: Tone): Gap {
  const interval = intervalBetween(a, b)
  return {
    seconds: a.seconds + a.restAfter,
    free: a.seconds + a.restAfter + openRun,
    quick: hurry(a.seconds + a.restAfter),
    rest: a.restAfter,
    slurred: a.slurredOn,
    strong: b.beatStrength >= 2,
    turns: next !== undefined && interval * intervalBetween(b, next) < 0,
    returns: next !== undefined && sameSound(a, next),
    back: before !== undefined && sameSound(b, before),
    harmonic: a.harmonic || b.harmonic,
    run: a.run && b.run && Math.abs(interval) === 1,
    interval,
    sameNotes: sameSound(a, b),
    held: a.soundsOn,
  }
}

/** While open strings sound one after another the hand is free all that time. */
export function gapsOf(tones: readonly Tone[], open: readonly boolean[]): Gap[] {
  let openRun = 0
  const onward = nextOther(tones)
  const backward = nextOther(tones.toReversed()).reverse()
  return tones.slice(1).map((t, i) => {
    const gap = gapBetween(tones[i]!, t, onward[i + 1], openRun, backward[i])
    openRun = open[i] ? openRun + gap.seconds : 0
    return gap
  })
}

/** For each tone the next one of another pitch. */
function nextOther(tones: readonly Tone[]): (Tone | undefined)[] {
  const top = (t: Tone) => t.heads.at(-1)!.sounding
  const out: (Tone | undefined)[] = new Array(tones.length)
  for (let i = tones.length - 2; i >= 0; i--)
    out[i] = top(tones[i]!) === top(tones[i + 1]!) ? out[i + 1] : tones[i + 1]
  return out
}
