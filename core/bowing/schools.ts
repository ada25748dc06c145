/** Schools of bowing: each a documented policy over the same solver. */
import { z } from 'zod'

export const BOW_SCHOOLS = ['down', 'as-it-comes', 'syllable', 'pattern', 'phrase', 'separate'] as const
export type BowSchool = (typeof BOW_SCHOOLS)[number]

export const BOW_WAYS = ['slur', 'hook', 'lift', 'part'] as const
/**
 * What may be added to the written marks: slur to the note before, the same bow again stopped (hook), the bow
 * set anew (lift), a slur parted.
 */
export type BowWay = (typeof BOW_WAYS)[number]
export type May = Readonly<Record<BowWay, boolean>>

export const maySchema = z
  .strictObject({ slur: z.boolean(), hook: z.boolean(), lift: z.boolean(), part: z.boolean() })
  .readonly()
export const MAY_NOTHING: May = { slur: false, hook: false, lift: false, part: false }
export const MAY_ALL: May = { slur: true, hook: true, lift: true, part: true }

/** How a school feels about directions and joins, as factors and costs on the table of weights. */
export interface Policy {
  /** How much a first beat that comes up costs, as a share of the full weight. */
  readonly firstBeat: number
  /** The same for the beginning of a phrase, and for the last stroke of all. */
  readonly phraseStart: number
  readonly lastStroke: number
  /** What may be added at all, whatever the recipe allows. */
  readonly may: May
  /** Slurs are the school's own: by syllable, by a pattern, by the hair. */
  readonly slurs: 'none' | 'syllable' | 'pattern' | 'phrase'
  /** A rest lets the bow be set anew only when it lasts so many seconds. */
  readonly liftRest: number
  readonly title: string
  readonly what: string
}

const may = (...ways: BowWay[]): May =>
  Object.fromEntries(BOW_WAYS.map(w => [w, ways.includes(w)])) as unknown as May

export const POLICIES: Readonly<Record<BowSchool, Policy>> = {
  down: {
    firstBeat: 1,
    phraseStart: 0.3,
    lastStroke: 1,
    may: may('slur', 'hook', 'lift', 'part'),
    slurs: 'none',
    liftRest: 0.2,
    title: 'down on the beat',
    what: 'The first beat of every measure comes down, pickups come up; a measure that would turn the bow is mended.',
  },
  'as-it-comes': {
    firstBeat: 0,
    phraseStart: 0,
    lastStroke: 0,
    may: may(),
    slurs: 'none',
    liftRest: Infinity,
    title: 'as it comes',
    what: 'One bow a note after the start, whatever comes of it; the written slurs count as one.',
  },
  syllable: {
    firstBeat: 0.14,
    phraseStart: 0.1,
    lastStroke: 0.2,
    may: may('hook', 'lift', 'part'),
    slurs: 'syllable',
    liftRest: 0.4,
    title: 'by syllable',
    what: 'One bow to a sung syllable: notes that share one are slurred.',
  },
  pattern: {
    firstBeat: 0.22,
    phraseStart: 0.05,
    lastStroke: 0.1,
    may: may('slur', 'hook', 'lift', 'part'),
    slurs: 'pattern',
    liftRest: 0.4,
    title: 'in a pattern',
    what: 'A groove of slurred and separate notes, over and over; longer notes stand for what they cover.',
  },
  phrase: {
    firstBeat: 0.02,
    phraseStart: 0.9,
    lastStroke: 0.5,
    may: may('slur', 'hook', 'lift', 'part'),
    slurs: 'phrase',
    liftRest: 0.4,
    title: 'by the phrase',
    what: 'As many notes to a bow as the hair bears, parted where the music breathes: for airs.',
  },
  separate: {
    firstBeat: 0.1,
    phraseStart: 0.05,
    lastStroke: 0,
    may: may('lift', 'part'),
    slurs: 'none',
    liftRest: 0.9,
    title: 'separate',
    what: 'For beginners: every note its own bow, in turn; a long rest sets the bow anew.',
  },
}
