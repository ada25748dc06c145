/**
 * The school of places on violin and viola: rather at home, crossing strings and reaching, as fiddlers do; or
 * rather in one position, a slurred or sung phrase kept on its strings, as classical players do. Which one a
 * phrase is given where nobody says: dances and quick notes stay at home, slow slurred lines lie in one
 * position.
 */
import { isLow } from '#core/instruments/instruments'
import type { Tone } from '#core/line/tones'
import type { InstrumentId } from '#core/music/tune'
import type { Ruled } from './rules'

export const PLACE_SCHOOLS = ['auto', 'home', 'position'] as const
export type PlaceSchool = (typeof PLACE_SCHOOLS)[number]
/** What a phrase is played by, once it is decided. */
export type Manner = 'plain' | 'home' | 'stays' | 'position'

export interface MannerWeights {
  /**
   * Times what a crossing costs, under a slur and elsewhere: who lies in one position does so to stay on a
   * string.
   */
  readonly crossing: number
  readonly crossingSlurred: number
  /** Times what a move of the hand costs: it moves seldom, but gladly as a whole. */
  readonly shift: number
  /** Times what a finger pays that slides in a still hand: one note has one finger. */
  readonly slide: number
  /** Times what a note away from home costs, and beginning there. */
  readonly away: number
  readonly start: number
  /**
   * What an open string costs more that has stopped neighbours under its bow, and elsewhere: it sounds of
   * another place.
   */
  readonly openSlurred: number
  readonly open: number
  /**
   * Times what the fourth finger pays that is stretched a half step up, in quick notes: a fiddler reaches and
   * stays.
   */
  readonly stretch: number
  /** Times what leaving the place costs that holds the whole phrase. */
  readonly lies: number
}

export const MANNERS: Readonly<Record<Manner, MannerWeights>> = {
  /** Cello and bass, whose hands have schools of their own. */
  plain: {
    stretch: 1,
    crossing: 1,
    crossingSlurred: 1,
    shift: 1,
    slide: 1,
    away: 1,
    start: 1,
    openSlurred: 0,
    open: 0,
    lies: 1,
  },
  home: {
    stretch: 0.6,
    crossing: 1,
    crossingSlurred: 1,
    shift: 1,
    slide: 1,
    away: 1,
    start: 1,
    openSlurred: 0,
    open: 0,
    lies: 1,
  },
  /** At home because the teacher asked: what is out of reach there is fetched, and the hand comes back. */
  stays: {
    stretch: 0.6,
    crossing: 1,
    crossingSlurred: 1,
    shift: 1,
    slide: 1,
    away: 1.5,
    start: 1.5,
    openSlurred: 0,
    open: 0,
    lies: 1.5,
  },
  position: {
    stretch: 1,
    crossing: 0.5,
    crossingSlurred: 3,
    shift: 1.1,
    slide: 4,
    away: 1,
    start: 0.3,
    openSlurred: 0.4,
    open: 0.02,
    lies: 1.5,
  },
}

/** Dances, by the words a tune's kind is told in. */
const DANCE =
  /reel|jig|hornpipe|polka|strathspey|march|slide|polska|waltz|mazurka|schottische|fling|bourr|rag|dance|quickstep|halling/i
const SUNG = /air|song|lullaby|hymn|lament|psalm|study|etude|étude|cantabile|carol|aria|slow|minuet/i

/**
 * A line whose tones last at least so long, in the mean, in seconds, is unhurried; so large a share of it
 * slurred is sung.
 */
const UNHURRIED = 0.3
const SLURRED = 0.4

/** @returns for each tone the manner of its phrase; "plain" on cello and bass */
export function mannersOf(
  instrument: InstrumentId,
  school: PlaceSchool,
  kind: string,
  tones: readonly Tone[],
  joined: readonly boolean[],
  phrases: readonly string[],
): Manner[] {
  if (isLow(instrument)) return tones.map(() => 'plain')
  if (school === 'home') return tones.map(() => 'stays')
  if (school === 'auto' && DANCE.test(kind)) return tones.map(() => 'home')
  const known = new Map<string, Manner>()
  return tones.map((_, i) => {
    const name = phrases[i]!
    const found =
      known.get(name) ?? mannerOfPhrase(tones, joined, i, phrases, school === 'position' || SUNG.test(kind))
    known.set(name, found)
    return found
  })
}

function mannerOfPhrase(
  tones: readonly Tone[],
  joined: readonly boolean[],
  from: number,
  phrases: readonly string[],
  sung: boolean,
): Manner {
  let [seconds, slurred, n] = [0, 0, 0]
  for (let i = from; i < tones.length && phrases[i] === phrases[from]; i++, n++) {
    seconds += Math.min(1, tones[i]!.seconds)
    if (joined[i]) slurred++
  }
  return seconds >= UNHURRIED * n && slurred >= (sung ? SLURRED / 2 : SLURRED) * n ? 'position' : 'home'
}

/** Stretches of one manner, by index of tone, first and last; none on cello and bass. */
export function mannerStretches(
  manners: readonly Manner[],
): { readonly manner: Manner; readonly from: number; readonly to: number }[] {
  const out: { manner: Manner; from: number; to: number }[] = []
  manners.forEach((manner, i) => {
    const last = out.at(-1)
    if (last?.manner === manner) last.to = i
    else out.push({ manner, from: i, to: i })
  })
  return out.filter(s => s.manner !== 'plain')
}

/**
 * The teacher's word for a stretch counts more, the earlier rule first; on cello and bass it says nothing.
 */
export function mannersByRule(manners: readonly Manner[], rules: readonly Ruled[]): Manner[] {
  const out = [...manners]
  for (const { rule, from, to } of [...rules].reverse())
    if (rule.kind === 'places')
      for (let i = from; i <= to; i++)
        if (out[i] !== 'plain') out[i] = rule.school === 'home' ? 'stays' : 'position'
  return out
}
