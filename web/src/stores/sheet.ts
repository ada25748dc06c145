/** The sheet of the arrangement in use: what stands on it, drawn as pages; styles; files of it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { styled, withoutChanges, withSheet } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { formatTuning } from '#core/instruments/tunings'
import type { SheetContent } from '#core/paper/content'
import { sectionsOf } from '#core/paper/sections'
import { AS_WRITTEN, STYLES, type SheetRecipe, type SheetStyle } from '#core/styles/sheetRecipe'
import { callCore, latestLane } from '../worker/client'
import { unpack, type Asked, type BenchResult } from '../worker/contract'
import { drawPages, type DrawnPage } from '../sheet/pages'
import { useBench } from './bench'
import { useStudio } from './studio'

/** All that a sheet is drawn from. */
export interface SheetSource {
  readonly recipe: Arrangement
  readonly result: BenchResult
  readonly content: SheetContent
  readonly under: BenchResult | null
}

export const useSheet = defineStore('sheet', () => {
  const bench = useBench()
  const studio = useStudio()
  const problem = ref('')
  const pages = shallowRef<readonly DrawnPage[]>([])

  /** Everything a sheet needs of one arrangement, asked of the worker. */
  async function source(asked: Asked): Promise<SheetSource> {
    const { under } = asked.recipe.shown.sheet
    const other = under === AS_WRITTEN ? withoutChanges(asked.recipe, () => true) : bench.arrangements.find(a => a.id === under)?.arrangement // prettier-ignore
    const [result, content, below] = await Promise.all([
      callCore(core => core.derive(asked)),
      callCore(core => core.sheet(asked)),
      other ? callCore(core => core.derive({ ...asked, recipe: other })) : null,
    ])
    return { recipe: asked.recipe, result: unpack(result), content: unpack(content), under: below === null ? null : unpack(below) } // prettier-ignore
  }

  function draw({ recipe, result, content, under }: SheetSource): DrawnPage[] {
    const shownOf = (r: BenchResult) => ({ tune: r.shown ?? r.tune, tab: r.tab })
    const { instrument, tuning } = recipe.played
    const board = { colours: studio.studio.tapes[instrument] ?? {}, leftHanded: studio.studio.leftHanded }
    const sections = sectionsOf(recipe.shown.sheet, content, { ...shownOf(result), under: under && shownOf(under), countWords: studio.studio.countWords, board }) // prettier-ignore
    const words = { arrangement: recipe.name, instrument: INSTRUMENTS[instrument].name, tuning: tuning && formatTuning(tuning) } // prettier-ignore
    return drawPages(sections, { sheet: recipe.shown.sheet, words, tempo: result.tempo })
  }

  const lane = latestLane(
    source,
    s => {
      try {
        pages.value = draw(s)
        problem.value = ''
      } catch (e) {
        problem.value = `The sheet can’t be drawn: ${e instanceof Error ? e.message : String(e)}`
      }
    },
    e => (problem.value = e.message),
  )
  /** Draws anew at every change, as long as the station is open. Stop with the function it returns. */
  const follow = () =>
    watch([() => bench.result, () => studio.studio], () => bench.asked && lane.ask(bench.asked), { immediate: true }) // prettier-ignore

  const recipe = computed(() => bench.recipe!.shown.sheet)
  const choose = (part: Partial<SheetRecipe>) => bench.edit(r => withSheet(r, part))

  const styles = computed<readonly SheetStyle[]>(() => [...STYLES, ...studio.studio.styles])
  const take = (style: SheetStyle) => bench.edit(r => styled(r, style))
  const isOwn = (style: SheetStyle) => !STYLES.includes(style)
  /** What is chosen now under a name of the studio's; a style of that name gives way. */
  async function keepStyle(name: string) {
    const style = name.trim().slice(0, 60)
    if (style === '' || STYLES.some(s => s.sheet.style === style)) return
    const { sheet, bowMarks } = bench.recipe!.shown
    const own: SheetStyle = { sheet: { ...sheet, style, breaks: {}, under: null }, bowMarks }
    await studio.edit(({ styles: list }) => ({ styles: [...list.filter(s => s.sheet.style !== style), own] }))
    take(own)
  }
  const dropStyle = (style: SheetStyle) =>
    studio.edit(({ styles: list }) => ({ styles: list.filter(s => s.sheet.style !== style.sheet.style) }))

  /** "brindlewick-bridge-violin": the name of a file of it. */
  const fileName = (r: Arrangement, title: string) =>
    [title || 'tune', r.name || r.played.instrument].map(t => t.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '').toLowerCase()).join('-') // prettier-ignore

  /** Every arrangement of the tune as a PDF, in one zip; null when it was stopped. */
  async function allAsZip(progress: (done: number, of: number) => void, stopped: () => boolean): Promise<Blob | null> {
    const { zipSync } = await import('fflate')
    const { makePdf } = await import('../sheet/pdf')
    const { tune } = bench.documents!
    const list = bench.arrangements
    const files: Record<string, Uint8Array> = {}
    for (const [i, { arrangement }] of list.entries()) {
      if (stopped()) return null
      const own = arrangement.shown.sheet
      const drawn = draw(await source({ ...bench.asked!, recipe: arrangement }))
      const pdf = await makePdf(drawn.map(p => p.svg), own.paper, about(arrangement))
      files[`${String(i + 1).padStart(2, '0')}-${fileName(arrangement, tune.title)}.pdf`] = new Uint8Array(await pdf.arrayBuffer())
      progress(i + 1, list.length)
    }
    // Nothing of the hour it was made: the same sheets give the same file.
    return new Blob([zipSync(files, { mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>], { type: 'application/zip' })
  } // prettier-ignore

  const about = (r: Arrangement) => ({ title: `${bench.documents!.tune.title || 'Untitled'}: ${r.name}`, author: bench.documents!.tune.composer }) // prettier-ignore

  return { pages, problem, follow, recipe, choose, styles, take, isOwn, keepStyle, dropStyle, fileName, about, allAsZip } // prettier-ignore
})

/** The first hour a zip can tell. */
const ZIP_TIME = new Date(1980, 0, 1, 12)
