<script setup lang="ts">
/** The ladder: what the arrangement asks for, on the rung where it is learned. */
import { computed } from 'vue'
import { isOfTune, type Demand } from '#core/grading/demands'
import { skillById } from '#core/grading/catalogue'
import { LEVELS, type Level } from '#core/levels/levels'
import { demandTitle, gradeWords, skillTitle } from '#core/words/grading'
import { usePart } from '../stores/parts'
import TickRow from '../bench/TickRow.vue'
import { useLevels } from '../stores/levels'
import { useStudio } from '../stores/studio'

const part = usePart()
const store = useLevels()
const studio = useStudio()
/** Rungs above the highest that is asked for hold nothing: they are left out. */
const rungs = computed(() =>
  ([8, 7, 6, 5, 4, 3, 2, 1] as const)
    .filter(level => level <= (store.grade?.level ?? 8))
    .map(level => ({
      level,
      demands: store.grade?.demands.filter(d => d.level === level) ?? [],
    })),
)
function choose(d: Demand) {
  store.chosen = store.chosen === d ? null : d
  if (store.chosen) part.selectEvent(d.notes[0]!.note, false)
}
const RUNGS = LEVELS.map(value => ({ value, title: `level ${value}` }))
/** The skill that is chosen, its level in this studio and ours. */
const moving = computed(() => {
  const d = store.chosen
  if (d?.asked.kind !== 'skill') return null
  const { skill } = d.asked
  const { instrument } = part.recipe.played
  return {
    skill,
    level: studio.tableOf(instrument)[skill] ?? d.level,
    ours: skillById(skill)!.levels[instrument],
  }
})
const about = (d: Demand) => (d.asked.kind === 'skill' ? skillById(d.asked.skill)?.says : undefined)
</script>

<template>
  <div v-if="store.grade" data-test="ladder">
    <p class="said" data-test="grade">{{ gradeWords(store.grade) }}</p>
    <template v-if="store.grade.level > 1">
      <p class="quiet">Choose a lower rung to make an easier version.</p>

      <TickRow
        name="best-key"
        :model-value="store.key === 'best'"
        @update:model-value="v => (store.key = v ? 'best' : 'own')"
        >in the key where this level lies best</TickRow
      >
    </template>
    <ol class="rungs">
      <li v-for="r in rungs" :key="r.level" :class="{ top: r.level === store.grade.level }">
        <button
          v-if="r.level < store.grade.level"
          type="button"
          class="number make"
          :disabled="store.making"
          :title="`Make an easier version: level ${r.level}`"
          :aria-label="`Make a level ${r.level} version`"
          :data-test="`make-${r.level}`"
          @click="store.makeEasier(r.level)"
        >
          {{ r.level }}
        </button>
        <span v-else class="number">{{ r.level }}</span>
        <span class="demands">
          <small v-if="studio.levelName(r.level)" class="called">{{ studio.levelName(r.level) }}</small>
          <button
            v-for="(d, i) in r.demands"
            :key="i"
            type="button"
            :aria-pressed="store.chosen === d"
            :title="about(d)"
            data-test="demand"
            @click="choose(d)"
          >
            {{ demandTitle(d) }} <small v-if="!isOfTune(d)">{{ d.notes.length }}</small>
          </button>
        </span>
      </li>
    </ol>
    <div v-if="moving" class="moving" data-test="moving">
      <span>{{ skillTitle(moving.skill) }} comes at</span>
      <v-select
        :model-value="moving.level"
        :items="RUNGS"
        density="compact"
        hide-details
        aria-label="The level it comes at"
        data-test="move-skill"
        @update:model-value="(l: Level) => store.moveSkill(moving!.skill, l)"
      />
      <small v-if="moving.level !== moving.ours" class="quiet">ours: level {{ moving.ours }}</small>
    </div>
    <details class="names">
      <summary>Names of the levels</summary>
      <label v-for="l in RUNGS" :key="l.value"
        >{{ l.value }}
        <input
          type="text"
          maxlength="40"
          :value="studio.levelName(l.value)"
          :aria-label="`Name of level ${l.value}`"
          @change="store.nameLevel(l.value, ($event.target as HTMLInputElement).value)"
      /></label>
    </details>
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
.called {
  width: 100%;
}
.moving {
  display: grid;
  grid-template-columns: auto 120px 1fr;
  align-items: center;
  gap: 10px;
  margin-top: 10px;
  font-size: 14px;
}
.names {
  margin-top: 12px;
  font-size: 14px;
}
.names label {
  display: grid;
  grid-template-columns: 18px 1fr;
  align-items: center;
  margin-top: 4px;
}
.names input {
  padding: 3px 6px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  color: inherit;
  font: inherit;
}
</style>
