<script setup lang="ts">
/** The ladder: what the arrangement asks for, on the rung where it is learned. */
import { computed } from 'vue'
import type { Demand } from '#core/grading/demands'
import { skillById } from '#core/grading/catalogue'
import { demandTitle, gradeWords } from '#core/words/grading'
import { useBench } from '../stores/bench'
import { useLevels } from '../stores/levels'

const bench = useBench()
const store = useLevels()
const rungs = computed(() =>
  ([8, 7, 6, 5, 4, 3, 2, 1] as const).map(level => ({
    level,
    demands: store.grade?.demands.filter(d => d.level === level) ?? [],
  })),
)
function choose(d: Demand) {
  store.chosen = store.chosen === d ? null : d
  if (store.chosen) bench.selectEvent(d.notes[0]!.note, false)
}
const about = (d: Demand) => (d.asked.kind === 'skill' ? skillById.get(d.asked.skill)?.says : undefined)
</script>

<template>
  <div v-if="store.grade" data-test="ladder">
    <p class="said" data-test="grade">{{ gradeWords(store.grade) }}</p>
    <p v-if="store.problem" role="alert">{{ store.problem }}</p>
    <p v-if="store.grade.level > 1" class="quiet">Choose a lower rung to make an easier version.</p>
    <ol class="rungs">
      <li
        v-for="r in rungs"
        :key="r.level"
        :class="{ top: r.level === store.grade.level, over: r.level > store.grade.level }"
      >
        <button
          v-if="r.level < store.grade.level"
          type="button"
          class="number make"
          :disabled="store.easing !== null"
          :title="`Make an easier version: level ${r.level}`"
          :aria-label="`Make a level ${r.level} version`"
          :data-test="`make-${r.level}`"
          @click="store.makeEasier(r.level)"
        >
          {{ r.level }}
        </button>
        <span v-else class="number">{{ r.level }}</span>
        <span class="demands">
          <button
            v-for="(d, i) in r.demands"
            :key="i"
            type="button"
            :aria-pressed="store.chosen === d"
            :title="about(d)"
            data-test="demand"
            @click="choose(d)"
          >
            {{ demandTitle(d) }} <small>{{ d.notes.length }}</small>
          </button>
        </span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.said {
  font-size: 15px;
  margin-bottom: 10px;
}
.rungs {
  list-style: none;
  margin: 0;
  padding: 0 0 0 4px;
  border-left: 2px solid var(--rule);
  border-right: 2px solid var(--rule);
}
.rungs li {
  display: grid;
  grid-template-columns: 26px 1fr;
  align-items: baseline;
  min-height: 30px;
  padding: 3px 6px 3px 4px;
  border-bottom: 2px solid var(--rule);
}
.rungs .over {
  color: var(--faint);
}
.rungs .top {
  border-bottom-color: rgb(var(--v-theme-primary));
  border-bottom-width: 4px;
}
.number {
  font-weight: 700;
  font-size: 17px;
  text-align: left !important;
}
.make {
  width: 24px;
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  color: rgb(var(--v-theme-primary));
  font-family: inherit;
  cursor: pointer;
}
.make:hover {
  border-color: rgb(var(--v-theme-primary));
}
.demands {
  display: flex;
  flex-wrap: wrap;
  gap: 3px 10px;
}
.demands button {
  padding: 1px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  text-align: left;
  cursor: pointer;
}
.demands button[aria-pressed='true'] {
  font-weight: 700;
  box-shadow: 0 2px 0 rgb(var(--v-theme-secondary));
}
.demands small {
  color: var(--faint);
  font-variant-numeric: tabular-nums;
}
</style>
