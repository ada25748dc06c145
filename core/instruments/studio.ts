/** What a studio knows of its own instruments and learners' hands: one document, for every tune. */
import { text } from '#core/documents/text'
import { z } from 'zod'
import { isObject, versioned, type Step } from '#core/documents/versioned'
import { HAND_MODEL, handModelSchema } from '#core/instruments/handModel'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { bookletSchema, MOST_BOOKLETS } from '#core/styles/booklet'
import { sheetStyleSchema } from '#core/styles/sheetRecipe'
import { learnerSchema } from './learner'
import { bowTasteDocumentSchema, NO_TASTE, tasteSchema } from './taste'
import { LEVELS } from './level'

export const STUDIO_VERSION = 3

const byInstrument = <T extends z.ZodType>(of: T) => z.partialRecord(z.enum(INSTRUMENT_IDS), of).default({})

const fields = {
  /** Tension of each home string in newtons, highest string first; null where nobody entered it. */
  tensions: byInstrument(z.array(z.number().min(5).max(600).nullable()).max(5).readonly()),
  /** Colours of the tapes that are really on the instruments, by semitones above the open string. */
  tapes: byInstrument(z.record(z.string().regex(/^\d{1,2}$/), z.string().regex(/^#[0-9a-f]{6}$/i))),
  learners: z.array(learnerSchema).max(500).readonly().default([]),
  handModel: handModelSchema.default(HAND_MODEL),
  /** What the teacher's own decisions tell of taste. */
  taste: tasteSchema.default(NO_TASTE),
  bowTaste: bowTasteDocumentSchema.default(NO_TASTE),
  /** Skills that come at another level than ours, by instrument and skill. */
  levels: byInstrument(z.record(z.string().regex(/^[a-zA-Z0-9]{1,30}$/), z.literal(LEVELS))),
  /** Styles of paper the studio named. */
  styles: z.array(sheetStyleSchema).max(60).readonly().default([]),
  booklets: z.array(bookletSchema).max(MOST_BOOKLETS).readonly().default([]),
  /** Fingerboards are drawn as a left-handed player sees them. */
  leftHanded: z.boolean().default(false),
  /** What is said between the beats when beats are counted in four: "1 e and a". */
  countWords: z.array(text(6)).length(3).readonly().default(['e', 'and', 'a']),
  /** What the studio calls its levels, the first first; empty where it has no name of its own. */
  levelNames: z.array(text(40)).max(LEVELS.length).readonly().default([]),
}

const schema = z.strictObject({ version: z.literal(STUDIO_VERSION), ...fields }).readonly()

/** Version 2: a measured hand is a learner's, of whom more is known. */
const handsAreLearners: Step = ({ hands, ...old }) => ({
  ...old,
  version: 2,
  learners: (Array.isArray(hands) ? hands : []).map((h: unknown) => ({
    ...(isObject(h) ? h : {}),
    level: 1,
    skills: {},
    fastest: null,
    notes: '',
  })),
})

/** Version 3: booklets. */
const bookletsCome: Step = old => ({ ...old, version: 3 })

export const studioSchema = versioned(schema, [handsAreLearners, bookletsCome])
export type Studio = z.infer<typeof studioSchema>

export const newStudio = (): Studio => studioSchema.parse({ version: STUDIO_VERSION })

type Field = keyof typeof fields

/**
 * What is stored by itself, with a version of its own, so that who names a level does not stand in the way of
 * who erases a learner.
 */
export const PART_FIELDS = {
  learners: ['learners'],
  booklets: ['booklets'],
  styles: ['styles'],
  ladder: ['levels', 'levelNames'],
  tapes: ['tapes', 'tensions', 'leftHanded'],
  hands: ['handModel'],
  taste: ['taste', 'bowTaste'],
  words: ['countWords'],
} as const satisfies Readonly<Record<string, readonly Field[]>>
export type StudioPart = keyof typeof PART_FIELDS
export const STUDIO_PARTS = Object.keys(PART_FIELDS) as StudioPart[]

const pick = <K extends Field>(...names: readonly K[]) =>
  Object.fromEntries(names.map(n => [n, fields[n]])) as Pick<typeof fields, K>
const partSchema = <P extends StudioPart>(part: P) =>
  z.strictObject({
    part: z.literal(part),
    ...pick(...(PART_FIELDS[part] as readonly (typeof PART_FIELDS)[P][number][])),
  })

/** One part with what it holds: a whole answer to "which part, and what is in it now". */
export const studioPartSchema = z.discriminatedUnion('part', [
  partSchema('learners'),
  partSchema('booklets'),
  partSchema('styles'),
  partSchema('ladder'),
  partSchema('tapes'),
  partSchema('hands'),
  partSchema('taste'),
  partSchema('words'),
])
export type StudioPartDocument = z.infer<typeof studioPartSchema>

/** A part out of the whole. */
export const partOf = (studio: Studio, part: StudioPart): StudioPartDocument =>
  ({ part, ...Object.fromEntries(PART_FIELDS[part].map(f => [f, studio[f]])) }) as StudioPartDocument
