/** The shelf looked through for a learner: which of its tunes are within reach, and what each would teach. */
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import type { TuneListItem } from '#contract/documents'
import { skillTitle } from '#core/words/grading'
import type { Attempt } from '../stores/attempt'
import { useReach } from '../stores/reach'
import { useShelf } from '../stores/shelf'
import { useStudio } from '../stores/studio'

export function useWithinReach(attempt: Attempt) {
  const shelf = useShelf()
  const studio = useStudio()
  const reach = useReach()
  onMounted(() => studio.load())
  onUnmounted(() => reach.cancel())
  /** For whom the tunes are looked through. */
  const forId = ref<string | null>(null)
  const people = computed(() => studio.studio.learners.map(l => ({ value: l.id, title: l.name })))
  const learner = computed(() => studio.studio.learners.find(l => l.id === forId.value) ?? null)
  watch([learner, () => shelf.tunes], () => {
    if (learner.value) void attempt(() => reach.scan(shelf.tunes, learner.value!))
    else reach.cancel()
  })
  const listed = computed(() =>
    learner.value ? shelf.tunes.filter(t => reach.found.get(t.id)?.within) : shelf.tunes,
  )
  const teaches = (t: TuneListItem) =>
    (learner.value && reach.found.get(t.id)?.news.map(skillTitle).join(', ')) || ''
  return { forId, people, learner, listed, teaches, reach }
}
