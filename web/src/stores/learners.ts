/**
 * The learners of the studio: added, changed, erased. They are kept with the studio's own document and go
 * with it.
 */
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { newLearner, type Learner, type SkillState } from '#core/instruments/learner'
import { sizeOf } from '#core/instruments/instruments'
import { useStudio } from './studio'

export const useLearners = defineStore('learners', () => {
  const studio = useStudio()
  const list = computed(() => studio.studio.learners.toSorted((a, b) => a.name.localeCompare(b.name)))
  const chosenId = ref<string | null>(null)
  const chosen = computed(() => list.value.find(l => l.id === chosenId.value) ?? null)

  async function add(name: string) {
    const learner = newLearner(crypto.randomUUID(), name.trim().slice(0, 60), 'violin', sizeOf('violin').name)
    await studio.edit(({ learners }) => ({ learners: [...learners, learner] }))
    chosenId.value = learner.id
  }
  const change = (id: string, part: Partial<Learner>) =>
    studio.edit(({ learners }) => ({ learners: learners.map(l => (l.id === id ? { ...l, ...part } : l)) }))
  /** What follows from the level needs no word of its own. */
  const setSkill = (l: Learner, skill: string, state: SkillState | null) => {
    const { [skill]: _old, ...rest } = l.skills
    return change(l.id, { skills: state === null ? rest : { ...rest, [skill]: state } })
  }
  async function erase(id: string) {
    await studio.edit(({ learners }) => ({ learners: learners.filter(l => l.id !== id) }))
    if (chosenId.value === id) chosenId.value = null
  }

  return { list, chosenId, chosen, add, change, setSkill, erase }
})
