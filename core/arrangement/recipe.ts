/**
 * The Arrangement: a recipe over a tune. It holds what the teacher chose and pinned, in three parts: what is
 * played, what is shown of it, and how it is taught. Fingers, strokes, lanes, tab and findings are derived
 * from it each time ({@link derive}) and never stored.
 */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { versioned } from '#core/documents/versioned'
import { fingerPinSchema } from '#core/fingering/fingerPin'
import { passageRuleSchema } from '#core/fingering/passageRule'
import { PLACE_SCHOOLS } from '#core/fingering/places'
import { ORDERS } from '#core/form/plan'
import { keySchema } from '#core/music/key'
import { tempoSchema } from '#core/music/metre'
import { CLEFS, INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { BOW_MARKS, DEFAULT_SHEET, sheetSchema } from '#core/styles/sheetRecipe'
import { changeSchema, LAYERS } from './change'
import { ARRANGEMENT_LADDER } from './migrations'
import { bowSchema, DEFAULT_BOW } from './bowRecipe'
import { strokePinSchema } from '#core/bowing/pins'
import { BOW_SCHOOLS, maySchema } from '#core/bowing/schools'
import { LEVELS } from '#core/levels/levels'

/** Letters the name of an arrangement has room for. */
export const MOST_NAME = 120
export const ARRANGEMENT_VERSION = 6
const id = z.string().min(1).max(60)

/**
 * Places of fingers: unmarked at home (violin and viola in half and first position; elsewhere only half steps
 * are marked), 2 always called high or low, by the key (only what the key does not give is marked), or not at
 * all.
 */
export const PLACE_NAMES = ['home', 'both', 'key', 'none'] as const
/**
 * Positions: as is usual for the instrument (on the bass with halves), by numbers with lower and upper, by
 * the first finger's note.
 */
export const POSITION_NAMES = ['usual', 'numbers', 'note'] as const

const schoolsSchema = z
  .strictObject({
    open: z.enum(['first', 'cost', 'fourth']),
    bow: z.enum(BOW_SCHOOLS),
    bassHand: z.enum(['1-2-4', '1-2-3-4']),
    /** Cello: rather shift, or rather open the hand. */
    reach: z.enum(['cost', 'shift', 'extend']),
    /** Long tones as they lie, an open string too, or rather stopped. */
    long: z.enum(['open', 'stopped']),
    /** Natural harmonics only where the hand is anyway, or wherever they help. */
    harmonics: z.enum(['no', 'yes']),
    /**
     * Violin and viola: rather at home, or a sung phrase in one position; by the kind of tune where nobody
     * says.
     */
    position: z.enum(PLACE_SCHOOLS).optional(),
  })
  .readonly()

const pinsSchema = z
  .strictObject({
    /** By note id. */
    fingers: z.record(id, fingerPinSchema),
    /** By the id of the first event of a stroke. */
    strokes: z.record(id, strokePinSchema),
    /** By event id: slurred to the event before, or not, whatever the tune has. */
    joins: z.record(id, z.boolean()),
  })
  .readonly()

/** What is played: everything the notes, the hand and the bow depend on. */
const playedSchema = z
  .strictObject({
    instrument: z.enum(INSTRUMENT_IDS),
    /** Name of a size of that instrument. */
    size: z.string().max(20),
    /** Sounding pitch of each string, highest first; null is the home tuning. */
    tuning: z.array(z.int().min(0).max(127)).min(4).max(5).readonly().nullable(),
    /** The key to play in; null is the tune's own. */
    key: keySchema.nullable(),
    octave: z.union([z.literal('auto'), z.int().min(-4).max(4)]),
    level: z.literal(LEVELS).nullable(),
    /** Id of the learner it is made for; null is nobody in particular. */
    learner: id.nullable(),
    tempo: tempoSchema.nullable(),
    /** Vibrating string length in mm as measured; null is the size's usual one. */
    measured: z.number().min(100).max(1500).nullable(),
    /**
     * The reach from 1 to 4 in mm this arrangement is made for; null leaves it to the learner, if there is
     * one.
     */
    span: z.number().min(20).max(260).nullable(),
    schools: schoolsSchema,
    bow: bowSchema,
    pins: pinsSchema,
    /** Rules for stretches of the tune, the earlier ones first in right. */
    passages: z.array(passageRuleSchema).max(200).readonly(),
    /** What is changed of the notes, in the order it is done. */
    changes: z.array(changeSchema).max(5000).readonly(),
    /** The time through that is looked at: changes of later ones wait. */
    through: z.literal([1, ...LAYERS]),
    /**
     * What an easier version set beside its changes: its tempo, its octave (null where it set none), the
     * notes whose slurs it parted. It goes with the changes.
     */
    eased: z
      .strictObject({
        tempo: tempoSchema.nullable(),
        octave: z.int().min(-4).max(4).nullable(),
        parted: z.array(id).max(5000).readonly(),
        /** Notes it takes in the bow of the one before. */
        slurred: z.array(id).max(5000).readonly().optional(),
        /** It is written in the instrument's usual clef, since the level does not read the tune's. */
        clef: z.literal(true).optional(),
        /** It lets the bow be set anew, so that first beats come down. */
        bowed: z.literal(true).optional(),
        /** … and what might be added to the bow before. */
        may: maySchema.optional(),
        /** So many different versions were had before this one. */
        another: z.int().min(1).max(99).optional(),
        /** What the teacher chose for a group of notes, by the id of its first: the name of a filling. */
        wanted: z.record(id, z.string().max(400)).optional(),
      })
      .readonly()
      .optional(),
  })
  .readonly()

/** What is shown: names and the page. Nothing here moves a finger. */
const shownSchema = z
  .strictObject({
    strings: z.enum(['letters', 'numbers']),
    /** In a cross-tuning: strings keep their home names, or are named as they sound; notes likewise. */
    crossNames: z.enum(['home', 'sounding']),
    crossNotes: z.enum(['sounding', 'fingered']),
    /** How places of fingers are named. */
    places: z.enum(PLACE_NAMES),
    positions: z.enum(POSITION_NAMES),
    /** Which tab line is on top: the highest string, or the lowest, as the player looks down on them. */
    tabLines: z.enum(['highest', 'lowest']),
    /** Another fingering printed beside the first, where the two differ. */
    ossia: z.enum(['none', 'noFourth', 'noOpen', 'first']),
    bowMarks: z.enum(BOW_MARKS),
    /**
     * A clef the instrument reads too; null is the tune’s where it is the instrument’s, else the instrument’s
     * usual one.
     */
    clef: z.enum(CLEFS).nullable(),
    sheet: sheetSchema,
  })
  .readonly()

/** How it is taught: the teacher's word on the form, and the way to learn it. */
const taughtSchema = z
  .strictObject({
    /** By event id: a phrase begins here, or does not. */
    boundaries: z.record(id, z.boolean()),
    /** By the first event of a phrase: the first event of the phrase it is kin to; null, of none. */
    kin: z.record(id, id.nullable()),
    /** The teacher's names for phrases, by the id of their first event. */
    names: z.record(id, text(80)),
    /** The order of the phrases, steps left out, a line to sing by the phrase's first event. */
    order: z.enum(ORDERS),
    left: z.array(z.string().max(200)).max(500).readonly(),
    lines: z.record(id, text(300)),
    /** What is remarked on a phrase, by its first event, or on a measure, by its id. */
    remarks: z.record(id, text(300)),
    /** Pitches the learner knows ("F#4"), so that new ones can be named; empty when nobody said. */
    known: z.array(z.string().max(6)).max(128).readonly(),
  })
  .readonly()

const schema = z
  .strictObject({
    version: z.literal(ARRANGEMENT_VERSION),
    name: text(MOST_NAME),
    played: playedSchema,
    shown: shownSchema,
    taught: taughtSchema,
  })
  .readonly()

export const arrangementSchema = versioned(schema, ARRANGEMENT_LADDER)

export type Arrangement = z.infer<typeof arrangementSchema>
export type Played = Arrangement['played']
export type Shown = Arrangement['shown']
export type Taught = Arrangement['taught']
export type Schools = Played['schools']
export type Pins = Played['pins']

export const DEFAULT_SCHOOLS: Schools = {
  open: 'cost',
  bow: 'down',
  bassHand: '1-2-4',
  reach: 'cost',
  long: 'open',
  harmonics: 'no',
}
export const NO_PINS: Pins = { fingers: {}, strokes: {}, joins: {} }
export const DEFAULT_SHOWN: Shown = {
  strings: 'letters',
  crossNames: 'home',
  crossNotes: 'sounding',
  places: 'home',
  positions: 'usual',
  tabLines: 'highest',
  ossia: 'none',
  bowMarks: 'all',
  clef: null,
  sheet: DEFAULT_SHEET,
}
export const NOTHING_TAUGHT: Taught = {
  boundaries: {},
  kin: {},
  names: {},
  order: 'written',
  left: [],
  lines: {},
  remarks: {},
  known: [],
}

/** A recipe with every choice at its default. */
export function newArrangement(instrument: InstrumentId, size: string, name = ''): Arrangement {
  return {
    version: ARRANGEMENT_VERSION,
    name,
    played: {
      instrument,
      size,
      tuning: null,
      key: null,
      octave: 'auto',
      level: null,
      learner: null,
      tempo: null,
      measured: null,
      span: null,
      schools: DEFAULT_SCHOOLS,
      bow: DEFAULT_BOW,
      pins: NO_PINS,
      passages: [],
      changes: [],
      through: 3,
    },
    shown: DEFAULT_SHOWN,
    taught: NOTHING_TAUGHT,
  }
}
