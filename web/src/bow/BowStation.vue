<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue'
import TabRow from '../bench/TabRow.vue'
import BenchScore from '../bench/BenchScore.vue'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import BowFacts from './BowFacts.vue'
import BowFindings from './BowFindings.vue'
import BowLane from './BowLane.vue'
import SchoolPanel from './SchoolPanel.vue'
import StrokePanel from './StrokePanel.vue'

const part = usePart()
const bow = useBow()
onUnmounted(bow.follow())

type Panel = 'look' | 'stroke' | 'school' | 'facts'
const panel = ref<Panel>('look')
const count = computed(() => bow.report?.findings.length ?? 0)
const PANELS = computed<{ value: Panel; name: string }[]>(() => [
  { value: 'look', name: count.value > 0 ? `Check (${count.value})` : 'Check' },
  { value: 'stroke', name: 'Stroke' },
  { value: 'school', name: 'Bowing style' },
  { value: 'facts', name: 'Bow travel' },
])
/** Notes whose bow the mend that is pointed at would change. */
const lit = computed(() => {
  if (!bow.tried) return []
  const now = new Map(part.result!.strokes.map(s => [s.notes[0]!, s]))
  return bow.tried.flatMap(s => (now.get(s.notes[0]!)?.direction === s.direction ? [] : [s.notes[0]!]))
})
</script>

<template>
  <div v-if="part.result" class="bow station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore :marks="{ fingers: false, positions: false, chords: false }" :lit="lit" />
    </section>
    <section class="side" aria-label="How it is bowed and what to look at" tabindex="0">
      <TabRow v-model="panel" :tabs="PANELS" name="bow" address class="tabs" />
      <p v-if="bow.problem" role="alert">{{ bow.problem }}</p>
      <BowFindings v-if="panel === 'look'" />
      <StrokePanel v-else-if="panel === 'stroke'" />
      <SchoolPanel v-else-if="panel === 'school'" />
      <BowFacts v-else />
    </section>
    <section class="bottom">
      <BowLane />
      <span class="zoom">
        <button type="button" aria-label="Lane narrower" @click="bow.zoom = Math.max(0.5, bow.zoom / 1.4)">
          −
        </button>
        <button type="button" aria-label="Lane wider" @click="bow.zoom = Math.min(4, bow.zoom * 1.4)">
          +
        </button>
      </span>
    </section>
  </div>
</template>

<style scoped>
.bow {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.tabs {
  margin-bottom: 10px;
}
.bottom {
  position: relative;
}
.zoom {
  position: absolute;
  right: 12px;
  top: 6px;
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: rgb(var(--v-theme-surface));
}
.zoom button {
  width: 28px;
  height: 24px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 16px;
  cursor: pointer;
}
</style>
