/** Whether the notes of the arrangement in use ask for more than its level. */
import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import type { PartDocuments } from '#core/desk/part'
import { tableFor } from '#core/grading/fit'
import type { Level } from '#core/levels/levels'
import { askPart, latestLane } from '../worker/client'
import { useParts } from './parts'
import { useStudio } from './studio'

export const useLevelAsked = defineStore('levelAsked', () => {
  const part = useParts().inUse
  const studio = useStudio()
  const asked = shallowRef<Level | null>(null)

  const lane = latestLane(
    (q: PartDocuments) => {
      const { instrument, learner: id } = q.recipe.played
      const learner = studio.studio.learners.find(l => l.id === id)
      const own = studio.tableOf(instrument)
      return askPart('grade', q, learner ? tableFor(learner, own) : own)
    },
    g => (asked.value = g.grade.level),
    // The Levels station tells why; here nothing is said.
    () => (asked.value = null),
  )
  /** Asks anew at every change; stop with the function it returns. */
  const follow = () =>
    watch(
      [() => part.result, () => studio.studio.levels],
      () => {
        if (part.asked?.recipe.played.level) lane.ask(part.asked)
      },
      { immediate: true },
    )
  /** "The notes ask for level 5:" */
  const more = computed(() => {
    const level = part.recipe?.played.level ?? null
    return level !== null && asked.value !== null && asked.value > level
      ? `The notes ask for level ${asked.value}:`
      : ''
  })
  return { more, follow }
})
