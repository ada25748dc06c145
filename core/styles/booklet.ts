/**
 * A booklet: sheets of several tunes in one, in an order of the teacher's, with contents and page numbers.
 */
import { z } from 'zod'
import { text } from '#core/documents/text'
import { PAPER_SIZES, sheetStyleSchema, type SheetRecipe, type SheetStyle } from './sheetRecipe'

/** Tunes in one booklet, and booklets of a studio. */
export const MOST_TUNES = 200
export const MOST_BOOKLETS = 200

const id = z.string().min(1).max(60)

export const bookletSchema = z
  .strictObject({
    id,
    title: text(120),
    /** Under the title: for whom, which term. */
    about: text(200),
    /** In order; of each tune one arrangement by its id, its first one when null. */
    tunes: z
      .array(z.strictObject({ tune: id, arrangement: id.nullable() }).readonly())
      .max(MOST_TUNES)
      .readonly(),
    /** The style all of it is printed in; each tune as it is set itself when null. */
    style: sheetStyleSchema.nullable(),
    paper: z.enum(PAPER_SIZES),
    contents: z.boolean(),
    /** Every tune begins on a left page where it takes two, so that it is seen whole. */
    facing: z.boolean(),
  })
  .readonly()
export type Booklet = z.infer<typeof bookletSchema>

export const newBooklet = (bookletId: string, tunes: readonly string[]): Booklet => ({
  id: bookletId,
  title: '',
  about: '',
  tunes: tunes.map(tune => ({ tune, arrangement: null })),
  style: null,
  paper: 'A4',
  contents: true,
  facing: false,
})

/** A tune's own sheet as the booklet prints it: its breaks and what stands under it stay its own. */
export function bookletSheet(
  own: SheetRecipe,
  { style, paper }: Pick<Booklet, 'style' | 'paper'>,
): SheetRecipe {
  const look: SheetRecipe = style ? { ...style.sheet, breaks: own.breaks, under: own.under } : own
  return { ...look, paper }
}

export const bowMarksOf = (own: SheetStyle['bowMarks'], { style }: Pick<Booklet, 'style'>) =>
  style?.bowMarks ?? own

/** Those of a list that are not in a booklet yet, each once. */
function newTo({ tunes: own }: Pick<Booklet, 'tunes'>, tunes: readonly string[]): string[] {
  const there = new Set(own.map(t => t.tune))
  return [...new Set(tunes)].filter(t => !there.has(t))
}

/** A booklet has room for all of these that are not in it yet. */
export const hasRoomFor = (b: Pick<Booklet, 'tunes'>, tunes: readonly string[]): boolean =>
  b.tunes.length + newTo(b, tunes).length <= MOST_TUNES

/** One more tune at the end, or those of a list that are not in it yet. */
export const withTunes = (b: Booklet, tunes: readonly string[]): Booklet => {
  const more = newTo(b, tunes).map(tune => ({ tune, arrangement: null }))
  return { ...b, tunes: [...b.tunes, ...more].slice(0, MOST_TUNES) }
}

/**
 * The tune at a place once more right after it, in another of its arrangements: the first that is not in the
 * booklet yet, else the first other one.
 */
export function again(b: Booklet, place: number, arrangements: readonly string[]): Booklet {
  const own = b.tunes[place]
  if (!own || b.tunes.length >= MOST_TUNES) return b
  const used = b.tunes.filter(t => t.tune === own.tune).map(t => t.arrangement ?? arrangements[0])
  const other =
    arrangements.find(a => !used.includes(a)) ??
    arrangements.find(a => a !== (own.arrangement ?? arrangements[0]))
  return other ? { ...b, tunes: b.tunes.toSpliced(place + 1, 0, { tune: own.tune, arrangement: other }) } : b
}

/** The tune at a place, `by` places further down; it stays within the list. */
export function moved(b: Booklet, place: number, by: number): Booklet {
  const to = Math.max(0, Math.min(b.tunes.length - 1, place + by))
  const tunes = b.tunes.slice()
  const [t] = tunes.splice(place, 1)
  if (!t) return b
  tunes.splice(to, 0, t)
  return { ...b, tunes }
}

/** Tunes and arrangements by what they are called elsewhere; what has no name there is left as it is. */
export const withOtherIds = (
  b: Booklet,
  ids: ReadonlyMap<string, { readonly id: string; readonly arrangements: ReadonlyMap<string, string> }>,
): Booklet => ({
  ...b,
  tunes: b.tunes.map(({ tune, arrangement }) => {
    const now = ids.get(tune)
    return now
      ? { tune: now.id, arrangement: arrangement && (now.arrangements.get(arrangement) ?? null) }
      : { tune, arrangement }
  }),
})
