/** The sheet of the arrangement in use: what stands on it, drawn as pages; styles; files of it. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { styled, withSheet } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { aligned } from '#core/page/systems'
import { STYLES, type SheetRecipe, type SheetStyle } from '#core/styles/sheetRecipe'
import { latestLane } from '../worker/client'
import type { PartDocuments } from '#core/desk/part'
import { drawSheet, type SheetSource } from '#drawing/sheet'
import { aboutOf, fileName, sheetSource, zipOf } from '../paper/draw'
import type { DrawnPage } from '#drawing/pages'
import type { Told } from '../paper/useExport'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { useStudio } from './studio'

export const useSheet = defineStore('sheet', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const studio = useStudio()
  const problem = ref('')
  const pages = shallowRef<readonly DrawnPage[]>([])
  /** What was chosen to stand under it can't. */
  const apart = ref(false)

  const source = (asked: PartDocuments) => sheetSource(asked, docs.arrangements)
  const draw = (s: SheetSource) => drawSheet(s, studio.studio).pages

  const lane = latestLane(
    source,
    s => {
      try {
        pages.value = draw(s)
        apart.value = s.under !== null && aligned([s, s.under]).apart.length > 0
        problem.value = ''
      } catch (e) {
        problem.value = `The sheet can’t be drawn: ${e instanceof Error ? e.message : String(e)}`
      }
    },
    e => (problem.value = e.message),
  )
  /** Draws anew at every change, as long as the station is open. Stop with the function it returns. */
  const follow = () =>
    watch([() => part.result, () => studio.studio], () => part.asked && lane.ask(part.asked), {
      immediate: true,
    })

  const recipe = computed(() => part.recipe!.shown.sheet)
  const choose = (change: Partial<SheetRecipe>) => part.edit(r => withSheet(r, change))

  const styles = computed<readonly SheetStyle[]>(() => [...STYLES, ...studio.studio.styles])
  const take = (style: SheetStyle) => part.edit(r => styled(r, style))
  const isOwn = (style: SheetStyle) => !STYLES.includes(style)
  /** What is chosen now under a name of the studio's; a style of that name gives way. */
  async function keepStyle(name: string) {
    const style = name.trim().slice(0, 60)
    if (style === '' || STYLES.some(s => s.sheet.style === style)) return
    const { sheet, bowMarks } = part.recipe!.shown
    const own: SheetStyle = { sheet: { ...sheet, style, breaks: {}, under: null }, bowMarks }
    await studio.edit(({ styles: list }) => ({ styles: [...list.filter(s => s.sheet.style !== style), own] }))
    take(own)
  }
  const dropStyle = (style: SheetStyle) =>
    studio.edit(({ styles: list }) => ({ styles: list.filter(s => s.sheet.style !== style.sheet.style) }))

  /** Every arrangement of the tune as a PDF, in one zip. */
  function allAsZip(told: Told): Promise<Blob> {
    const { tune } = docs.documents!
    const list = docs.arrangements.map(({ arrangement }) => ({
      name: nameOf(arrangement),
      paper: arrangement.shown.sheet.paper,
      about: aboutOf(tune, arrangement),
      pages: async () => draw(await source({ ...part.asked!, recipe: arrangement })),
    }))
    return zipOf(list, told)
  }

  const nameOf = (r: Arrangement) =>
    fileName(docs.documents!.tune.title || 'tune', r.name || r.played.instrument)
  const about = (r: Arrangement) => aboutOf(docs.documents!.tune, r)

  return {
    pages,
    apart,
    problem,
    follow,
    recipe,
    choose,
    styles,
    take,
    isOwn,
    keepStyle,
    dropStyle,
    nameOf,
    about,
    allAsZip,
  }
})
