/**
 * The Tune: the music itself, as written, with nothing of hands or bows derived in it. The Zod schema is the
 * one definition; the types follow from it.
 */
import { z } from 'zod'
import type { EventId } from './ids'
import { text as limited } from '#core/documents/text'
import { versioned } from '#core/documents/versioned'
import { fractionSchema, LONGEST } from './fraction'
import { keySchema } from './key'
import { metreSchema, tempoSchema } from './metre'
import { pitchSchema } from './pitch'

export const TUNE_VERSION = 1

/** The most a tune holds of each kind of thing; texts in UTF-16 units. */
export const MOST = {
  line: 400,
  kind: 80,
  notes: 20_000,
  label: 40,
  syllable: 80,
  titles: 50,
  tags: 50,
  tag: 60,
  measures: 10_000,
  events: 4096,
  eventsInAll: 20_000,
  slurs: 20_000,
  heads: 64,
  grace: 32,
  marks: 16,
  verses: 30,
  remarks: 20,
} as const

/** A name every object has already ("constructor") names nothing here. */
const id = z
  .string()
  .min(1)
  .max(40)
  .refine(s => !(s in {}), 'a name that cannot be an id')
export const eventId = id as z.ZodType<EventId, EventId>
const text = (max: number = MOST.line) => limited(max)
export const MARKS = [
  'staccato',
  'tenuto',
  'accent',
  'fermata',
  'trill',
  'turn',
  'mordent',
  'upperMordent',
  'roll',
  'cut',
  'slide',
  'pizzicato',
  'comma',
  'lift',
  'upbow',
  'downbow',
  'open',
  'harmonic',
] as const
export type Mark = (typeof MARKS)[number]

const headSchema = z.strictObject({ pitch: pitchSchema, tied: z.boolean().optional() }).readonly()
const tupletSchema = z
  .strictObject({ group: id, actual: z.int().min(2).max(64), normal: z.int().min(1).max(64) })
  .readonly()
const syllableSchema = z
  .strictObject({ text: text(MOST.syllable), hyphen: z.boolean().optional() })
  .readonly()

const common = {
  /** Sounding length in quarters, tuplets applied. Grace notes are not events: they take no time. */
  duration: fractionSchema.refine(f => f.n > 0, 'a note or rest without a length'),
  tuplet: tupletSchema.optional(),
  chord: text(MOST.label).optional(),
  remarks: z.array(text()).max(MOST.remarks).readonly().optional(),
}
const noteShape = {
  kind: z.literal('note'),
  ...common,
  /** One pitch, or several from the lowest up: a double stop or chord. */
  heads: z.array(headSchema).min(1).max(MOST.heads).readonly(),
  grace: z.array(pitchSchema).max(MOST.grace).readonly().optional(),
  marks: z.array(z.enum(MARKS)).max(MOST.marks).readonly().optional(),
  dynamic: z.enum(['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff']).optional(),
  /**
   * The finger and the string (0 the highest) that the source gives; an arrangement takes them up as pins.
   */
  finger: z.int().min(0).max(5).optional(),
  string: z.int().min(0).max(4).optional(),
  syllables: z.array(syllableSchema.nullable()).max(MOST.verses).readonly().optional(),
  optional: z.boolean().optional(),
}
const restShape = { kind: z.literal('rest'), ...common, hidden: z.boolean().optional() }
export const eventSchema = z.discriminatedUnion('kind', [
  z.strictObject({ id: eventId, ...noteShape }).readonly(),
  z.strictObject({ id: eventId, ...restShape }).readonly(),
])
/** An event before it has an id: what an arrangement puts in the place of others. */
export const eventBodySchema = z.discriminatedUnion('kind', [
  z.strictObject(noteShape).readonly(),
  z.strictObject(restShape).readonly(),
])

export const measureSchema = z
  .strictObject({
    id,
    events: z.array(eventSchema).max(MOST.events).readonly(),
    key: keySchema.optional(),
    metre: metreSchema.optional(),
    repeatStart: z.boolean().optional(),
    repeatEnd: z.boolean().optional(),
    /** The endings this measure belongs to; an ending runs over neighbouring measures with the same list. */
    endings: z.array(z.int().min(1).max(20)).min(1).readonly().optional(),
    barline: z.enum(['double', 'final']).optional(),
    /** How often what ends here is played, when more than twice. */
    repeatTimes: z.int().min(3).max(9).optional(),
    /**
     * The way through: signs a jump comes back to; where it ends after the jump, or leaves for the coda; the
     * jump after this measure (da capo, dal segno).
     */
    segno: z.literal(true).optional(),
    coda: z.literal(true).optional(),
    fine: z.literal(true).optional(),
    toCoda: z.literal(true).optional(),
    jump: z.enum(['dc', 'ds']).optional(),
    label: text(MOST.label).optional(),
  })
  .readonly()

export const CLEFS = ['treble', 'alto', 'tenor', 'bass'] as const

export const INSTRUMENT_IDS = ['violin', 'viola', 'cello', 'bass'] as const
export type InstrumentId = (typeof INSTRUMENT_IDS)[number]

const schema = z
  .strictObject({
    version: z.literal(TUNE_VERSION),
    title: text(),
    otherTitles: z.array(text()).max(MOST.titles).readonly(),
    /** Tunes this one is taken for. */
    notToBeConfusedWith: z.array(text()).max(MOST.titles).readonly().default([]),
    composer: text(),
    learnedFrom: text(),
    kind: text(MOST.kind),
    rights: z.enum(['unknown', 'own', 'free', 'protected']),
    notes: text(MOST.notes),
    tags: z.array(text(MOST.tag)).max(MOST.tags).readonly(),
    instrument: z.enum(INSTRUMENT_IDS).optional(),
    clef: z.enum(CLEFS),
    key: keySchema,
    metre: metreSchema,
    tempo: tempoSchema.optional(),
    measures: z.array(measureSchema).max(MOST.measures).readonly(),
    /** How it is played: repeats struck out (ids of the measures that end them) and how often all of it. */
    play: z
      .strictObject({
        struck: z.array(id).max(10_000).readonly(),
        times: z.int().min(1).max(9),
        /** Labels of parts in the order they are played, where that is not the order they are written in. */
        parts: z.array(text(40)).min(1).max(100).readonly().optional(),
      })
      .readonly()
      .default({ struck: [], times: 1 }),
    /** Settings of one tune carry the same mark. */
    settings: z.string().max(60).optional(),
    /** Slurs as written, by the ids of their first and last event. */
    slurs: z
      .array(z.strictObject({ from: eventId, to: eventId }).readonly())
      .max(MOST.slurs)
      .readonly(),
    /** The highest number ever given to an id here, so that the id of a deleted note never comes back. */
    lastId: z.int().min(0),
  })
  .readonly()
type Parts = z.infer<typeof schema>

export const tuneSchema = versioned(schema.superRefine(holdsTogether), [])

/** What no part of a tune shows by itself: ids that are given once, and a size that can be worked out. */
function holdsTogether({ measures }: Parts, ctx: z.RefinementCtx) {
  const fault = (message: string, ...path: (string | number)[]) =>
    ctx.addIssue({ code: 'custom', path: ['measures', ...path], message })
  const given = new Set<string>()
  let events = 0
  let quarters = 0
  for (const [m, measure] of measures.entries()) {
    if (given.has(measure.id)) return fault(`the id ${measure.id} is given twice`, m, 'id')
    given.add(measure.id)
    for (const [e, event] of measure.events.entries()) {
      if (given.has(event.id)) return fault(`the id ${event.id} is given twice`, m, 'events', e, 'id')
      given.add(event.id)
      quarters += event.duration.n / event.duration.d
    }
    events += measure.events.length
    if (events > MOST.eventsInAll) return fault(`more than ${MOST.eventsInAll} notes and rests`, m)
    if (quarters > LONGEST) return fault(`longer than ${LONGEST} quarters`, m)
  }
}

export type Tune = z.infer<typeof tuneSchema>
export type Measure = z.infer<typeof measureSchema>
export type TuneEvent = z.infer<typeof eventSchema>
export type NoteEvent = Extract<TuneEvent, { kind: 'note' }>
export type RestEvent = Extract<TuneEvent, { kind: 'rest' }>
export type Head = NoteEvent['heads'][number]
export type Syllable = z.infer<typeof syllableSchema>
export type Clef = Tune['clef']
export type EventBody = z.infer<typeof eventBodySchema>
export type Dynamic = NonNullable<NoteEvent['dynamic']>

/** What is told about a tune and changes nothing of how it is played. */
const FACTS = [
  'title',
  'otherTitles',
  'notToBeConfusedWith',
  'composer',
  'learnedFrom',
  'rights',
  'notes',
  'tags',
  'settings',
] as const satisfies readonly (keyof Tune)[]

/** The music alone: two tunes that differ in their facts are the same music. */
export function withoutFacts(tune: Tune): Tune {
  const { settings: _, ...music } = tune
  const none = { title: '', otherTitles: [], notToBeConfusedWith: [], composer: '', learnedFrom: '' }
  return { ...music, ...none, rights: 'unknown', notes: '', tags: [] }
}

/** Music under the facts of another tune. Inverse: {@link withoutFacts}. */
export const withFactsOf = (music: Tune, told: Tune): Tune => ({
  ...music,
  ...Object.fromEntries(FACTS.filter(f => told[f] !== undefined).map(f => [f, told[f]])),
})

/** A tune with nothing in it yet. */
export function emptyTune(title = ''): Tune {
  return {
    version: TUNE_VERSION,
    title,
    otherTitles: [],
    notToBeConfusedWith: [],
    composer: '',
    learnedFrom: '',
    kind: '',
    rights: 'unknown',
    notes: '',
    tags: [],
    clef: 'treble',
    key: { step: 'D', alter: 0, mode: 'major' },
    metre: { beats: 4, unit: 4 },
    measures: [],
    play: { struck: [], times: 1 },
    slurs: [],
    lastId: 0,
  }
}
