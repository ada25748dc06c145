<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue'
import TabRow from '../bench/TabRow.vue'
import BenchScore from '../bench/BenchScore.vue'
import { usePart } from '../stores/parts'
import { useLevels } from '../stores/levels'
import ChangesPanel from './ChangesPanel.vue'
import KeyTable from './KeyTable.vue'
import LadderPanel from './LadderPanel.vue'
import VersionPanel from './VersionPanel.vue'

const part = usePart()
const store = useLevels()
onUnmounted(store.follow())
const TABS = [
  { value: 'asks', name: 'Skills needed' },
  { value: 'version', name: 'The version' },
] as const
/** The tune as it is stands under the version. */
const under = ref(false)
/** What a chosen demand asks of; else what changes made, where the two stand side by side. */
const lit = computed(() =>
  store.chosen
    ? store.chosen.notes.map(n => n.note)
    : under.value
      ? Object.keys(part.result?.origin ?? {})
      : [],
)
</script>

<template>
  <div v-if="part.result" class="levels station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore
        :marks="{ positions: false, chords: false }"
        :lit="lit"
        :under="under ? store.plain : null"
      />
    </section>
    <section class="side" aria-label="What it asks for, level by level" tabindex="0">
      <TabRow v-model="store.side" :tabs="TABS" name="levels" address class="tabs" />
      <p v-if="store.problem" role="alert">{{ store.problem }}</p>
      <LadderPanel v-if="store.side === 'asks'" />
      <template v-else>
        <VersionPanel />
        <ChangesPanel v-model:under="under" />
      </template>
    </section>
    <section class="bottom" aria-label="Keys and instruments" tabindex="0"><KeyTable /></section>
  </div>
</template>

<style scoped>
.levels {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.tabs {
  margin-bottom: 10px;
}
.bottom {
  border-top: 1px solid var(--rule);
  background: rgb(var(--v-theme-surface));
  overflow: auto;
  /* The score and what it asks stay in sight, however many tunings there are. */
  max-height: 46vh;
}
</style>
