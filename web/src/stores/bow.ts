/**
 * What the Bow station shows beside the strokes: the worker's report, a mend that is being tried, and the
 * stretch a choice is for.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import {
  bowedBy,
  bowEdited,
  mended,
  partOfBow,
  withBow,
  type RecipeMend,
  type Stretch,
} from '#core/arrangement/edits'
import type { GrooveRecipe } from '#core/arrangement/bowRecipe'
import type { Habits } from '#core/bowing/habits'
import type { PartName } from '#core/bowing/pins'
import type { BowSchool, BowWay } from '#core/bowing/schools'
import type { BowEdit, Mend } from '#core/findings/finding'
import { askPart, latestLane } from '../worker/client'
import type { PartDocuments } from '#core/desk/part'
import type { BowView, StrokeView } from '#core/desk/views'
import { useParts } from './parts'

export type Scope = 'all' | 'phrase' | 'chosen'

export const useBow = defineStore('bow', () => {
  const part = useParts().inUse
  const report = shallowRef<BowView | null>(null)
  const problem = ref('')
  /** Strokes as they would be with the mend that is pointed at. */
  const tried = shallowRef<readonly StrokeView[] | null>(null)
  const scope = ref<Scope>('all')
  /** How far the lane is drawn out. */
  const zoom = ref(1)
  const showDrift = ref(true)

  const lane = latestLane(
    (asked: PartDocuments) => askPart('bow', asked),
    r => {
      report.value = r
      problem.value = ''
    },
    e => (problem.value = e.message),
  )
  /** Asks anew at every change, as long as the station is open. Stop with the function it returns. */
  function follow() {
    return watch(
      () => part.result,
      () => {
        tried.value = null
        if (part.asked) lane.ask(part.asked)
      },
      { immediate: true },
    )
  }

  const trying = latestLane(
    (asked: PartDocuments) => askPart('strokes', asked),
    strokes => (tried.value = strokes),
    () => (tried.value = null),
  )
  function tryMend(m: Mend | null) {
    if (!m || m.kind === 'moveNote' || !part.asked) {
      trying.cancel()
      tried.value = null
      return
    }
    trying.ask({ ...part.asked, recipe: mended(part.asked.recipe, m as RecipeMend) })
  }

  /** Where a choice goes: all of the tune, the phrase in view, or the chosen notes. */
  const stretch = computed<Stretch>(() => {
    const events =
      scope.value === 'phrase' ? (part.phrases.find(p => p.id === part.focus)?.events ?? []) : part.selection
    return scope.value === 'all' || events.length === 0 ? null : { from: events[0]!, to: events.at(-1)! }
  })
  watch([() => part.focus, () => part.selection.length], ([focus, chosen]) => {
    if ((scope.value === 'phrase' && focus === null) || (scope.value === 'chosen' && chosen < 2))
      scope.value = 'all'
  })
  const inStretch = computed<ReadonlySet<string> | null>(() => {
    if (stretch.value === null) return null
    const ids = part.result?.events ?? []
    return new Set(ids.slice(ids.indexOf(stretch.value.from), ids.indexOf(stretch.value.to) + 1))
  })
  const here = (edits: readonly BowEdit[]) =>
    edits.filter(e => inStretch.value === null || inStretch.value.has(e.note))

  /** Marks Nokta added by leave of the recipe, and marks it would add: in the stretch. */
  const addedHere = computed(() => here(part.result?.strokes.flatMap(s => s.added) ?? []))
  const offeredHere = computed(() => here(report.value?.edits ?? []))
  const take = (edits: readonly BowEdit[]) => part.edit(r => bowEdited(r, edits))

  const setSchool = (school: BowSchool, groove: GrooveRecipe | null) =>
    part.edit(r => bowedBy(r, stretch.value, school, groove))
  const setPart = (bowPart: PartName | null) => {
    const ids = part.result?.events ?? []
    const at = stretch.value ?? (ids.length > 0 ? { from: ids[0]!, to: ids.at(-1)! } : null)
    if (at) part.edit(r => partOfBow(r, at, bowPart))
  }
  const setHabit = (change: Partial<Habits>) =>
    part.edit(r => withBow(r, { habits: { ...r.played.bow.habits, ...change } }))
  const allow = (way: BowWay, on: boolean) =>
    part.edit(r => withBow(r, { may: { ...r.played.bow.may, [way]: on } }))

  return {
    report,
    problem,
    tried,
    scope,
    zoom,
    showDrift,
    follow,
    tryMend,
    stretch,
    addedHere,
    offeredHere,
    take,
    setSchool,
    setPart,
    setHabit,
    allow,
  }
})
