/** What the paper of an arrangement holds and how it looks; three styles ship, a studio names its own. */
import { text } from '#core/documents/text'
import { z } from 'zod'

/** What a sheet is put together of, in the order they come. */
export const SHEET_KINDS = ['music', 'board', 'cards', 'words', 'warmUps', 'text', 'outline', 'grid'] as const
export type SheetKind = (typeof SHEET_KINDS)[number]
export const MUSIC_KINDS = ['both', 'staff', 'tab'] as const
/** As large as the page has room for, as notes on a stand are, and three sizes of large print. */
export const SHEET_SIZES = ['fit', 'stand', 'large', 'larger', 'largest'] as const
export const FINGER_MARKS = ['all', 'changes', 'needed', 'none'] as const
export const NOTE_NAMES = ['none', 'letters', 'syllables'] as const
export const COUNTINGS = ['none', 'numbers', 'syllables'] as const
export const PAPER_SIZES = ['A4', 'Letter'] as const
/** What a reader may want to see beside the notes, each on or off. */
export const SHOWN_MARKS = ['positions', 'hand', 'phrases', 'chords', 'signs', 'numbers', 'legend'] as const

const id = z.string().min(1).max(60)

export const sheetSchema = z
  .strictObject({
    /** The style it was set by; empty once something else was chosen. */
    style: text(60),
    kinds: z.array(z.enum(SHEET_KINDS)).min(1).max(8).readonly(),
    music: z.enum(MUSIC_KINDS),
    size: z.enum(SHEET_SIZES),
    /** Thicker lines and digits, nothing grey. */
    contrast: z.boolean(),
    /** Fingers over the staff: every one, where something changes, where they are not obvious. */
    fingers: z.enum(FINGER_MARKS),
    names: z.enum(NOTE_NAMES),
    counting: z.enum(COUNTINGS),
    show: z
      .strictObject(
        Object.fromEntries(SHOWN_MARKS.map(m => [m, z.boolean()])) as Record<
          (typeof SHOWN_MARKS)[number],
          z.ZodBoolean
        >,
      )
      .readonly(),
    paper: z.enum(PAPER_SIZES),
    /**
     * What stands under every line: the tune as it is written for the instrument, another arrangement by its
     * id, or nothing.
     */
    under: id.nullable(),
    /** By id of a measure: a line or a page begins with it, or no line does, whatever looks best. */
    breaks: z.record(id, z.enum(['line', 'page', 'none'])),
  })
  .readonly()
export type SheetRecipe = z.infer<typeof sheetSchema>
export type MusicKind = SheetRecipe['music']

/** The tune without its changes, under its version. */
export const AS_WRITTEN = 'written'

const SHOW_LITTLE: SheetRecipe['show'] = {
  positions: true,
  hand: false,
  phrases: false,
  chords: false,
  signs: true,
  numbers: false,
  legend: true,
}

export const FIRST_YEAR: SheetRecipe = {
  style: 'First year',
  kinds: ['music', 'board'],
  music: 'both',
  size: 'fit',
  contrast: false,
  fingers: 'all',
  names: 'letters',
  counting: 'numbers',
  show: { ...SHOW_LITTLE, phrases: true },
  paper: 'A4',
  under: null,
  breaks: {},
}

/**
 * Bow marks on the page: every one, where they do not follow from the one before, the first of each phrase,
 * none.
 */
export const BOW_MARKS = ['all', 'needed', 'phrases', 'none'] as const

/** A style: the paper, and how much of the bow is marked with it. */
export const sheetStyleSchema = z.strictObject({ sheet: sheetSchema, bowMarks: z.enum(BOW_MARKS) }).readonly()
export type SheetStyle = z.infer<typeof sheetStyleSchema>

/**
 * Those that ship: what a beginner reads, what lies on an orchestra's stand, what a fiddle club hands round.
 */
export const STYLES: readonly SheetStyle[] = [
  { sheet: FIRST_YEAR, bowMarks: 'phrases' },
  {
    sheet: {
      ...FIRST_YEAR,
      style: 'Orchestra stand',
      kinds: ['music'],
      music: 'staff',
      fingers: 'needed',
      names: 'none',
      counting: 'none',
      show: { ...SHOW_LITTLE, numbers: true, legend: false },
    },
    bowMarks: 'all',
  },
  {
    sheet: {
      ...FIRST_YEAR,
      style: 'Fiddle club',
      kinds: ['music'],
      fingers: 'none',
      names: 'none',
      counting: 'none',
      show: { ...SHOW_LITTLE, phrases: true, chords: true },
    },
    bowMarks: 'needed',
  },
]

/** What a recipe begins with: both lines, all that was marked before there were styles. */
export const DEFAULT_SHEET: SheetRecipe = {
  ...FIRST_YEAR,
  style: '',
  kinds: ['music'],
  names: 'none',
  counting: 'none',
  show: { ...SHOW_LITTLE, phrases: true, chords: true },
}
