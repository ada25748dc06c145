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
  /** What an arrangement asks for, at the level it had then. */
  const asked = shallowRef<{
    readonly part: string
    readonly for: Level | null
    readonly asks: Level
  } | null>(null)

  const lane = latestLane(
    async ({ documents, part: id }: { documents: PartDocuments; part: string }) => {
      const { instrument, level, learner: forId } = documents.recipe.played
      const learner = studio.studio.learners.find(l => l.id === forId)
      const own = studio.tableOf(instrument)
      const { grade } = await askPart('grade', documents, learner ? tableFor(learner, own) : own)
      return { part: id, for: level, asks: grade.level }
    },
    answer => (asked.value = answer),
    // The Levels station tells why; here nothing is said.
    () => (asked.value = null),
  )
  let followers = 0
  let stop = () => {}
  /** Asks anew at every change, as long as somebody looks; until what is given back is called. */
  function follow(): () => void {
    if (followers++ === 0)
      stop = watch(
        [() => part.result, () => studio.studio.levels],
        () => {
          const documents = part.asked
          if (documents?.recipe.played.level) lane.ask({ documents, part: part.id })
        },
        { immediate: true },
      )
    return () => {
      if (--followers === 0) stop()
    }
  }
  /** "The notes ask for level 5:" */
  const more = computed(() => {
    const level = part.recipe?.played.level ?? null
    const known = asked.value?.part === part.id && asked.value.for === level ? asked.value.asks : null
    return level !== null && known !== null && known > level ? `The notes ask for level ${known}:` : ''
  })
  return { more, follow }
})
