/**
 * The time between two tones of a line, and what else joins them: what a hand or a bow has to go from one to
 * the next.
 */
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
  /**
   * Seconds the hand is free before the second tone when the first is open: the open strings before it count
   * too.
   */
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

/**
 * What lies before each tone but the first. While open strings sound one after another the hand is free all
 * that time.
 * @param open whether each tone can be an open string
 * @param before the tone each is heard after; the one before it in the list when left out
 */
export function gapsOf(tones: readonly Tone[], open: readonly boolean[], before?: readonly number[]): Gap[] {
  const from = (i: number) => before?.[i] ?? i - 1
  const top = (i: number) => tones[i]!.heads.at(-1)!.sounding
  // For each tone the one of another pitch it is heard after, and for how long strings may sound open up to
  // it.
  const back: number[] = tones.map(() => -1)
  const openUpTo: number[] = tones.map(() => 0)
  const onward: (Tone | undefined)[] = tones.map(() => undefined)
  tones.forEach((_, i) => {
    const a = from(i)
    if (a < 0) return
    back[i] = top(a) === top(i) ? back[a]! : a
    openUpTo[i] = open[a] ? openUpTo[a]! + tones[a]!.seconds + tones[a]!.restAfter : 0
  })
  for (let i = tones.length - 2; i >= 0; i--)
    if (from(i + 1) === i) onward[i] = top(i) === top(i + 1) ? onward[i + 1] : tones[i + 1]
  return tones.slice(1).map((t, k) => {
    const a = from(k + 1)
    return gapBetween(tones[a]!, t, onward[k + 1], openUpTo[a], tones[back[a]!])
  })
}
