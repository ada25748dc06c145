/**
 * The Arrangement: a recipe over a tune. It holds what the teacher chose and pinned; fingers, strokes, lanes, tab and findings are derived
 * from it each time ({@link derive}) and never stored.
 */
import { z } from 'zod'
import { passageRuleSchema } from '#core/fingering/passageRule'
import { ORDERS } from '#core/form/plan'
import { keySchema, INSTRUMENT_IDS, tempoSchema, type InstrumentId } from '#core/music/tune'

export const ARRANGEMENT_VERSION = 1
const id = z.string().min(1).max(60)

export const fingerPinSchema = z
  .object({
    string: z.int().min(0).max(4).optional(),
    finger: z.literal([0, 1, 2, 3, 4, 'T']).optional(),
  })
  .readonly()

/**
 * Places of fingers: unmarked at home (violin and viola in half and first position; elsewhere only half steps are marked), 2 always called high or
 * low, by the key (only what the key does not give is marked), or not at all.
 */
export const PLACE_NAMES = ['home', 'both', 'key', 'none'] as const
/** Positions: as is usual for the instrument (on the bass with halves), by numbers with lower and upper, by the first finger's note. */
export const POSITION_NAMES = ['usual', 'numbers', 'note'] as const

export const schoolsSchema = z
  .object({
    open: z.enum(['first', 'cost', 'fourth']),
    bow: z.enum(['down', 'as-it-comes']),
    bassHand: z.enum(['1-2-4', '1-2-3-4']),
    strings: z.enum(['letters', 'numbers']),
    /** Cello: rather shift, or rather open the hand. */
    reach: z.enum(['cost', 'shift', 'extend']).default('cost'),
    /** In a cross-tuning: strings keep their home names, or are named as they sound; notes likewise. */
    crossNames: z.enum(['home', 'sounding']).default('home'),
    crossNotes: z.enum(['sounding', 'fingered']).default('sounding'),
    /** How places of fingers are named. */
    places: z.enum(PLACE_NAMES).default('home'),
    positions: z.enum(POSITION_NAMES).default('usual'),
    /** Which tab line is on top: the highest string, or the lowest, as the player looks down on them. */
    tabLines: z.enum(['highest', 'lowest']).default('highest'),
  })
  .readonly()

export const arrangementSchema = z
  .object({
    version: z.literal(ARRANGEMENT_VERSION),
    name: z.string().max(120),
    instrument: z.enum(INSTRUMENT_IDS),
    /** Name of a size of that instrument. */
    size: z.string().max(20),
    /** Sounding pitch of each string, highest first; null is the home tuning. */
    tuning: z.array(z.int().min(0).max(127)).min(4).max(5).readonly().nullable(),
    /** The key to play in; null is the tune's own. */
    key: keySchema.nullable(),
    octave: z.union([z.literal('auto'), z.int().min(-4).max(4)]),
    level: z.literal([1, 2, 3, 4, 5, 6, 7, 8]).nullable(),
    tempo: tempoSchema.nullable(),
    /** Vibrating string length in mm as measured; null is the size's usual one. */
    measured: z.number().min(100).max(1500).nullable().default(null),
    /** The learner's reach from 1 to 4 in mm; null when nobody measured it. */
    span: z.number().min(20).max(260).nullable().default(null),
    schools: schoolsSchema,
    pins: z
      .object({
        /** By note id. */
        fingers: z.record(id, fingerPinSchema),
        /** By the id of the first event of a stroke. */
        strokes: z.record(id, z.enum(['down', 'up'])),
        /** By event id: slurred to the event before, or not, whatever the tune has. */
        joins: z.record(id, z.boolean()),
        /** By event id: a phrase begins here, or does not. */
        boundaries: z.record(id, z.boolean()),
        /** By the first event of a phrase: the first event of the phrase it is kin to; null, of none. */
        kin: z.record(id, id.nullable()).default({}),
      })
      .readonly(),
    /** Another fingering printed beside the first, where the two differ. */
    ossia: z.enum(['none', 'noFourth', 'noOpen', 'first']).default('none'),
    /** Rules for stretches of the tune, the earlier ones first in right. */
    passages: z.array(passageRuleSchema).max(200).readonly().default([]),
    /** The teacher's names for phrases, by the id of their first event. */
    phraseNames: z.record(id, z.string().max(80)),
    /** How the tune is taught: the order of its phrases, steps left out, a line to sing by the phrase's first event. */
    plan: z
      .object({
        order: z.enum(ORDERS),
        left: z.array(z.string().max(200)).max(500).readonly(),
        lines: z.record(id, z.string().max(300)),
      })
      .readonly()
      .default({ order: 'written', left: [], lines: {} }),
    /** Pitches the learner knows ("F#4"), so that new ones can be named; empty when nobody said. */
    known: z.array(z.string().max(6)).max(128).readonly().default([]),
  })
  .readonly()

export type Arrangement = z.infer<typeof arrangementSchema>
export type Schools = z.infer<typeof schoolsSchema>
export type Pins = Arrangement['pins']

export const DEFAULT_SCHOOLS: Schools = {
  open: 'cost',
  bow: 'down',
  bassHand: '1-2-4',
  strings: 'letters',
  reach: 'cost',
  crossNames: 'home',
  crossNotes: 'sounding',
  places: 'home',
  positions: 'usual',
  tabLines: 'highest',
}
export const NO_PINS: Pins = { fingers: {}, strokes: {}, joins: {}, boundaries: {}, kin: {} }

/** A recipe with every choice at its default. */
export function newArrangement(instrument: InstrumentId, size: string, name = ''): Arrangement {
  return {
    version: ARRANGEMENT_VERSION,
    name,
    instrument,
    size,
    tuning: null,
    key: null,
    octave: 'auto',
    level: null,
    tempo: null,
    measured: null,
    span: null,
    schools: DEFAULT_SCHOOLS,
    pins: NO_PINS,
    passages: [],
    ossia: 'none',
    phraseNames: {},
    plan: { order: 'written', left: [], lines: {} },
    known: [],
  }
}

/** Checks a stored recipe; the first fault comes back as data. */
export function readArrangement(
  json: unknown,
): { arrangement: Arrangement } | { error: { path: string; message: string } } {
  const result = arrangementSchema.safeParse(json)
  if (result.success) return { arrangement: result.data }
  const first = result.error.issues[0]!
  return { error: { path: first.path.join('.'), message: first.message } }
}
