<script setup lang="ts">
import { computed, onUnmounted } from 'vue'
import BenchScore from '../bench/BenchScore.vue'
import { useBench } from '../stores/bench'
import { useLevels } from '../stores/levels'
import ChangesPanel from './ChangesPanel.vue'
import KeyTable from './KeyTable.vue'
import LadderPanel from './LadderPanel.vue'

const bench = useBench()
const store = useLevels()
onUnmounted(store.follow())
const lit = computed(() => store.chosen?.notes.map(n => n.note) ?? [])
</script>

<template>
  <div v-if="bench.result" class="levels station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore :marks="{ positions: false, chords: false }" :lit="lit" />
    </section>
    <section class="side" aria-label="What it asks for, level by level" tabindex="0">
      <LadderPanel />
      <ChangesPanel />
    </section>
    <section class="bottom" aria-label="Keys and instruments" tabindex="0"><KeyTable /></section>
  </div>
</template>

<style scoped>
.levels {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.bottom {
  border-top: 1px solid var(--rule);
  background: rgb(var(--v-theme-surface));
  overflow: auto;
}
</style>
