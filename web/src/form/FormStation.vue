<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import TabRow from '../bench/TabRow.vue'
import BenchScore from '../bench/BenchScore.vue'
import { usePart } from '../stores/parts'
import { askPart, latestLane } from '../worker/client'
import type { Teaching } from '#core/desk/views'
import ChordPanel from './ChordPanel.vue'
import CompareView from './CompareView.vue'
import LearnPanel from './LearnPanel.vue'
import PhrasePanel from './PhrasePanel.vue'
import Quilt from './Quilt.vue'

const part = usePart()
const teaching = shallowRef<Teaching | null>(null)
const problem = ref('')
const asking = latestLane(
  () => askPart('teach', part.asked),
  t => (teaching.value = t),
  e => (problem.value = e.message),
)
watch(
  () => part.result,
  () => part.result && part.asked && asking.ask(undefined),
  { immediate: true },
)

const open = ref<'compare' | 'learn' | 'chords'>('compare')
const TABS = [
  { value: 'compare', name: 'Compare phrases' },
  { value: 'learn', name: 'Lesson plan' },
  { value: 'chords', name: 'Chords' },
] as const
/** Notes that differ between the two phrases laid over each other. */
const lit = ref<readonly string[]>([])
</script>

<template>
  <div class="form" tabindex="0">
    <Quilt />
    <PhrasePanel class="beside" :teaching="teaching" />
    <section aria-label="More about the phrases">
      <TabRow v-model="open" :tabs="TABS" name="form" address class="tabs" />
      <p v-if="problem" role="alert">{{ problem }}</p>
      <CompareView v-if="open === 'compare'" @differing="lit = $event" />
      <LearnPanel v-else-if="open === 'learn' && teaching" :teaching="teaching" />
      <ChordPanel v-else-if="open === 'chords' && teaching" :teaching="teaching" />
    </section>
    <section class="wide" aria-label="Score">
      <BenchScore
        :follow="false"
        :marks="{ fingers: false, bows: false, positions: false }"
        :lit="open === 'compare' ? lit : []"
      />
    </section>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 18px 30px;
  grid-template-rows: auto 1fr auto;
  align-content: start;
  overflow-y: auto;
  padding: 22px 18px 40px 4px;
}
.beside {
  grid-column: 2;
  grid-row: 1 / 3;
}
.wide {
  grid-column: 1 / -1;
}
.tabs {
  margin-bottom: 12px;
}
</style>
