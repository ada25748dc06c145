/** Booklets: sheets of several tunes in one. Kept in the studio's document; drawn a tune at a time. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Arrangement } from '#core/arrangement/recipe'
import { withShown } from '#core/arrangement/edits'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { bookletFoot, contentsPages, emptyPage, numbersOf } from '#core/paper/booklet'
import { MARGIN, PAPERS } from '#core/page/paper'
import {
  bookletSheet,
  bowMarksOf,
  MOST_BOOKLETS,
  newBooklet,
  withTunes,
  type Booklet,
} from '#core/styles/booklet'
import type { SheetStyle } from '#core/styles/sheetRecipe'
import type { TuneWithArrangements } from '#contract/documents'
import { api, ApiError } from '../api/client'
import { pageMeasurer } from '#drawing/measurer'
import { drawSheet } from '#drawing/sheet'
import { aboutOf, fileName, sheetSource, type NamedPdf } from '../paper/draw'
import { drawPlainPage, setFoot, type DrawnPage } from '#drawing/pages'
import { useStudio } from './studio'

/** A tune of the booklet in use; null when it is not on the shelf any more. */
export interface BookletTune {
  readonly tune: string
  readonly documents: TuneWithArrangements | null
  readonly arrangement: Arrangement | null
  /** The page it begins on, once it is drawn. */
  readonly page: number | null
}

type Look = Pick<Booklet, 'style' | 'paper'>

export const useBooklets = defineStore('booklets', () => {
  const studio = useStudio()
  const id = ref<string | null>(null)
  const list = computed(() => studio.studio.booklets)
  /** A studio keeps no more of them. */
  const full = computed(() => list.value.length >= MOST_BOOKLETS)
  const booklet = computed(() => list.value.find(b => b.id === id.value) ?? null)
  const known = shallowRef<ReadonlyMap<string, TuneWithArrangements | null>>(new Map())
  const starts = shallowRef<readonly (number | null)[]>([])
  const pages = shallowRef<readonly DrawnPage[]>([])
  const progress = shallowRef<{ readonly done: number; readonly of: number } | null>(null)
  const problem = ref('')

  const replace = (change: (b: Booklet) => Booklet) =>
    studio.edit(({ booklets }) => ({ booklets: booklets.map(b => (b.id === id.value ? change(b) : b)) }))
  const change = (part: Partial<Booklet>) => replace(b => ({ ...b, ...part }))
  async function make(tunes: readonly string[]): Promise<string> {
    const made = newBooklet(crypto.randomUUID(), tunes)
    await studio.edit(({ booklets }) => ({ booklets: [...booklets, made] }))
    return made.id
  }
  const add = (to: string, tunes: readonly string[]) =>
    studio.edit(({ booklets }) => ({ booklets: booklets.map(b => (b.id === to ? withTunes(b, tunes) : b)) }))
  const drop = (what: string) =>
    studio.edit(({ booklets }) => ({ booklets: booklets.filter(b => b.id !== what) }))

  const arrangementOf = (t: Booklet['tunes'][number]): Arrangement | null => {
    const own = known.value.get(t.tune)?.arrangements
    return (own?.find(a => a.id === t.arrangement) ?? own?.[0])?.arrangement ?? null
  }
  const tunes = computed<readonly BookletTune[]>(() =>
    (booklet.value?.tunes ?? []).map((t, i) => ({
      tune: t.tune,
      documents: known.value.get(t.tune) ?? null,
      arrangement: arrangementOf(t),
      page: starts.value[i] ?? null,
    })),
  )
  const anyProtected = computed(() => tunes.value.some(t => t.documents?.tune.rights === 'protected'))

  /** Reads the tunes that are not known yet; one that is gone is known to be gone. */
  async function read(which: readonly string[]) {
    const missing = [...new Set(which)].filter(t => !known.value.has(t))
    const found = await Promise.all(missing.map(async t => [t, await tuneOrNull(t)] as const))
    if (found.length > 0) known.value = new Map([...known.value, ...found])
  }
  const tuneOrNull = (which: string) =>
    api.tune(which).catch((e: unknown) => {
      if (e instanceof ApiError && e.code === 'notFound') return null
      throw e
    })

  const recipeFor = (r: Arrangement, look: Look) =>
    withShown(r, { sheet: bookletSheet(r.shown.sheet, look), bowMarks: bowMarksOf(r.shown.bowMarks, look) })
  const sourceOf = ({ tune, arrangements }: TuneWithArrangements, recipe: Arrangement) =>
    sheetSource({ tune, recipe, context: studio.context }, arrangements)
  /** Without page numbers of its own. */
  const drawTune = async (
    documents: TuneWithArrangements,
    recipe: Arrangement,
  ): Promise<readonly DrawnPage[]> =>
    drawSheet(await sourceOf(documents, recipe), studio.studio, () => []).pages

  /**
   * Sheets drawn for the booklet, by all that they are drawn from: a booklet that is put in another order
   * draws none of them again.
   */
  let drawn = new Map<string, readonly DrawnPage[]>()
  let turn = 0

  /** Draws the booklet in use; a newer call puts an older one out of work. */
  async function draw() {
    const b = booklet.value
    const mine = ++turn
    if (!b) return
    const fresh = new Map<string, readonly DrawnPage[]>()
    try {
      await read(b.tunes.map(t => t.tune))
      const parts: { title: string; about: string; sheets: readonly DrawnPage[]; pages: number }[] = []
      for (const [i, t] of b.tunes.entries()) {
        if (mine !== turn) return
        progress.value = { done: i, of: b.tunes.length }
        const documents = known.value.get(t.tune)
        const arrangement = arrangementOf(t)
        if (!documents || !arrangement) {
          parts.push({ title: '', about: '', sheets: [], pages: 0 })
          continue
        }
        const recipe = recipeFor(arrangement, b)
        const key = JSON.stringify([
          t.tune,
          documents.version,
          recipe,
          studio.studio.tapes,
          studio.studio.leftHanded,
          studio.studio.countWords,
        ])
        const sheets = drawn.get(key) ?? (await drawTune(documents, recipe))
        fresh.set(key, sheets)
        const about = [
          documents.tune.composer,
          `${INSTRUMENTS[recipe.played.instrument].name}, ${recipe.name}`,
        ]
        parts.push({
          title: documents.tune.title,
          about: about.filter(Boolean).join(' · '),
          sheets,
          pages: sheets.length,
        })
      }
      if (mine !== turn) return
      drawn = fresh
      bind(b, parts)
      problem.value = ''
    } catch (e) {
      if (mine === turn)
        problem.value = `The booklet can’t be drawn: ${e instanceof Error ? e.message : String(e)}`
    } finally {
      if (mine === turn) progress.value = null
    }
  }

  /** Contents, empty pages and sheets one after another, numbered through. */
  function bind(
    b: Booklet,
    all: readonly { title: string; about: string; sheets: readonly DrawnPage[]; pages: number }[],
  ) {
    const parts = all.filter(p => p.pages > 0)
    const o = { paper: b.paper, measurer: pageMeasurer }
    const contents = (at: readonly number[]) => (b.contents ? contentsPages(b, parts, at, o) : [])
    const numbers = numbersOf(parts, contents([]).length, b.facing)
    const out: DrawnPage[] = contents(numbers.starts).map(drawPlainPage)
    const width = PAPERS[b.paper].width - 2 * MARGIN
    const bound = new Set<DrawnPage>()
    parts.forEach((p, i) => {
      if (numbers.blankBefore[i]) out.push(drawPlainPage(emptyPage(b.title, out.length + 1, o)))
      for (const drawn of p.sheets) {
        // The same sheet twice is drawn once, but each has its own page number.
        const page = bound.has(drawn) ? { ...drawn, svg: drawn.svg.cloneNode(true) as SVGSVGElement } : drawn
        bound.add(page)
        setFoot(page.svg, b.paper, bookletFoot(b.title, out.length + 1, width, pageMeasurer))
        out.push(page)
      }
    })
    let at = 0
    starts.value = all.map(p => (p.pages > 0 ? numbers.starts[at++]! : null))
    pages.value = out
  }

  /** Opens a booklet, its tunes read anew. */
  async function open(which: string | null) {
    await studio.load()
    id.value = which
    known.value = new Map()
    pages.value = []
    starts.value = []
    await draw()
  }
  const close = () => {
    turn++
    id.value = null
    drawn = new Map()
    pages.value = []
  }

  /**
   * A PDF for each sheet of these tunes: the arrangement chosen or all of them, in the booklet's look or in
   * each of some styles.
   */
  function sheetsOf(all: boolean, styles: readonly SheetStyle[]): NamedPdf[] {
    const b = booklet.value!
    const looks: readonly Look[] = styles.length > 0 ? styles.map(style => ({ style, paper: b.paper })) : [b]
    return tunes.value.flatMap(({ documents, arrangement }) => {
      if (!documents || !arrangement) return []
      const chosen = all ? documents.arrangements.map(a => a.arrangement) : [arrangement]
      return chosen.flatMap(r =>
        looks.map((look): NamedPdf => ({
          name: fileName(
            documents.tune.title || 'tune',
            r.name || r.played.instrument,
            styles.length > 0 ? look.style!.sheet.style : '',
          ),
          paper: b.paper,
          about: aboutOf(documents.tune, r),
          pages: async () => drawSheet(await sourceOf(documents, recipeFor(r, look)), studio.studio).pages,
        })),
      )
    })
  }

  return {
    id,
    list,
    full,
    booklet,
    tunes,
    pages,
    progress,
    problem,
    anyProtected,
    change,
    replace,
    make,
    add,
    drop,
    draw,
    open,
    close,
    sheetsOf,
  }
})
