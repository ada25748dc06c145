<script setup lang="ts">
/** For whom the version is, what is added to it, and the time through that is looked at. */
import { computed, onMounted, onUnmounted, shallowRef, watch } from 'vue'
import { forLearner, partLeft } from '#core/arrangement/edits'
import { FANCIER, SPICES, WITHOUT_WORDS, type SpiceKind } from '#core/arranging/spices'
import { SPICE_WORDS, TIME_WORDS } from '#core/words/arranging'
import { fitWords, skillTitle } from '#core/words/grading'
import { capital, spanText } from '#core/words/places'
import TickRow from '../bench/TickRow.vue'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useLevels } from '../stores/levels'
import type { TuneListItem } from '#contract/documents'
import { usePlayer } from '../stores/player'
import { useReach } from '../stores/reach'
import { useStudio } from '../stores/studio'

const docs = useDocuments()
const part = usePart()
const store = useLevels()
const studio = useStudio()
const reach = useReach()
const player = usePlayer()
onMounted(() => studio.load())
const played = computed(() => part.recipe.played)
const people = computed(() => [
  { value: '', title: 'nobody in particular' },
  ...studio.studio.learners.map(l => ({ value: l.id, title: `${l.name}, ${l.instrument}` })),
])
const choose = (id: string) =>
  part.edit(r => forLearner(r, studio.studio.learners.find(l => l.id === id) ?? null))
const fit = computed(() => (store.learner && store.fit ? fitWords(store.fit, store.learner.name) : []))
/** What has to come before, and a tune it could be learned with. */
const missing = computed(() => store.fit?.notYet.flatMap(n => n.first) ?? [])
const teacher = shallowRef<TuneListItem | null>()
watch([() => docs.tuneId, () => store.learner], () => (teacher.value = undefined))
async function find() {
  const [skill] = missing.value
  if (!skill || !store.learner) return
  teacher.value = await reach.firstOnShelf(store.learner, r => r.within && r.news.includes(skill))
}
onUnmounted(() => reach.cancel())
const level = computed(() => played.value.level ?? store.grade?.level ?? 8)
const toggle = (kind: SpiceKind, on: boolean) =>
  store.spice(SPICES.filter(s => (s === kind ? on : store.spices.includes(s))))
const onlyOne = computed(() => store.parts.filter(p => !p.left).length === 1)
const layered = computed(() => played.value.changes.some(c => c.accepted && c.layer !== undefined))
const TIMES = [1, 2, 3] as const
</script>

<template>
  <section class="version" aria-label="The version">
    <v-select
      v-if="people.length > 1"
      :model-value="store.learner?.id ?? ''"
      :items="people"
      label="Made for"
      density="compact"
      hide-details
      data-test="for-learner"
      @update:model-value="choose"
    />
    <p v-for="f in fit" :key="f" class="fit" data-test="fit">{{ f }}</p>
    <p v-if="missing.length" class="fit">
      <template v-if="teacher === undefined">
        <button type="button" class="link" data-test="find-teacher" @click="find">
          find a tune of the shelf that teaches {{ skillTitle(missing[0]!) }}
        </button>
        <span v-if="reach.progress" class="quiet"> {{ reach.progress.done }} of {{ reach.progress.of }}</span>
      </template>
      <template v-else-if="teacher"
        >First:
        <router-link :to="`/tunes/${teacher.id}/levels`" data-test="teacher">{{ teacher.title }}</router-link>
        teaches {{ skillTitle(missing[0]!) }}.</template
      >
      <template v-else>No tune of the shelf teaches {{ skillTitle(missing[0]!) }} and little else.</template>
    </p>
    <div v-if="store.parts.length" class="parts" role="group" aria-label="Parts that are played">
      <span class="quiet">Parts</span>
      <TickRow
        v-for="p in store.parts"
        :key="p.measures[0]"
        :name="`part-${p.label}`"
        :title="capital(spanText(p.from, p.to))"
        :model-value="!p.left"
        :disabled="!p.left && onlyOne"
        @update:model-value="on => part.edit(r => partLeft(r, p.measures, !on))"
        >{{ p.label }}</TickRow
      >
    </div>

    <details open>
      <summary data-test="more">More in it, as far as level {{ level }} goes</summary>
      <p class="presets">
        <button
          type="button"
          class="link"
          :disabled="store.making"
          data-test="fancier"
          @click="store.spice(FANCIER)"
        >
          fancier
        </button>
        <button
          type="button"
          class="link"
          :disabled="store.making"
          data-test="without-words"
          @click="store.spice(WITHOUT_WORDS)"
        >
          livelier without words
        </button>
        <button
          v-if="store.spices.length"
          type="button"
          class="link"
          :disabled="store.making"
          data-test="no-spice"
          @click="store.spice([])"
        >
          none
        </button>
      </p>

      <div class="kinds">
        <TickRow
          v-for="s in SPICES"
          :key="s"
          :name="`spice-${s}`"
          :title="SPICE_WORDS[s].says"
          :model-value="store.spices.includes(s)"
          @update:model-value="on => toggle(s, on)"
          ><span :class="{ vain: store.inVain.includes(s) }">{{ SPICE_WORDS[s].name }}</span></TickRow
        >
      </div>
      <p v-if="store.inVain.length" class="quiet">
        No place at this level: {{ store.inVain.map(s => SPICE_WORDS[s].name).join(', ') }}.
      </p>
    </details>
    <div v-if="layered" class="times" role="radiogroup" aria-label="Time through">
      <span class="quiet">Time through</span>
      <button
        v-for="t in TIMES"
        :key="t"
        type="button"
        role="radio"
        :aria-checked="played.through === t"
        :data-test="`through-${t}`"
        @click="part.editPlayed({ through: t })"
      >
        {{ TIME_WORDS[t] }}
      </button>
      <button v-if="player.turn" type="button" class="link" @click="player.stop()">stop</button>

      <button v-else type="button" class="link" data-test="hear-times" @click="store.hearTimes">
        hear them in turn
      </button>
    </div>
  </section>
</template>

<style scoped>
.version {
  display: grid;
  gap: 6px;
  margin-top: 4px;
}
.fit {
  margin: 0;
  font-size: 14px;
}
summary {
  cursor: pointer;
  font-size: 14px;
}
.presets {
  display: flex;
  gap: 14px;
  margin: 4px 0;
}
.kinds {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 10px;
}
.version .quiet {
  font-size: 14px;
}
.vain {
  color: var(--faint);
}
.parts {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 14px;
  font-size: 14px;
}
.times {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  font-size: 14px;
}
.times button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.times button[aria-checked='true'] {
  font-weight: 700;
  box-shadow: 0 2px 0 rgb(var(--v-theme-primary));
}
</style>
