<script setup lang="ts">
/**
 * How it is bowed: the school, its groove, what Nokta may add, the part of the bow, and which marks stand in
 * the score.
 */
import { computed } from 'vue'
import { BOW_MARKS } from '#core/styles/sheetRecipe'
import { BOW_MARK_WORDS } from '#core/words/sheet'
import type { GrooveRecipe } from '#core/arrangement/bowRecipe'
import { PART_NAMES } from '#core/bowing/pins'
import { BOW_SCHOOLS, BOW_WAYS, POLICIES, type BowSchool } from '#core/bowing/schools'
import { HABIT_CHOICES, PART_WORDS, WAY_WORDS } from '#core/words/bow'
import { itemsOf, type Choice } from '../bench/choice'
import ChoiceRows from '../bench/ChoiceRows.vue'
import TickRow from '../bench/TickRow.vue'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import PatternPicker from './PatternPicker.vue'
import ScopeChoice from './ScopeChoice.vue'
import { counted } from '#core/counts'

const part = usePart()
const bow = useBow()
const played = computed(() => part.recipe.played)
const passage = computed(() => {
  const at = bow.stretch
  return at && played.value.bow.passages.findLast(p => p.from === at.from && p.to === at.to && p.school)
})
const school = computed<BowSchool>(() => passage.value?.school ?? played.value.schools.bow)
const groove = computed<GrooveRecipe | null>(() => passage.value?.groove ?? played.value.bow.groove)
const bowPart = computed(() => {
  const at = bow.stretch
  const ids = part.result!.events
  const [from, to] = at ? [at.from, at.to] : [ids[0], ids.at(-1)]
  return played.value.bow.passages.findLast(p => p.part && p.from === from && p.to === to)?.part ?? null
})
const parts = [
  { value: null, title: 'where it lies best' },
  ...PART_NAMES.map(value => ({ value, title: PART_WORDS[value] })),
]
const marks = BOW_MARKS.map(value => ({ value, title: BOW_MARK_WORDS[value] }))
const habits = computed(() =>
  (['dotted', 'triplets'] as const).map((name): Choice => {
    const { label, items } = HABIT_CHOICES[name]
    return {
      test: `habit-${name}`,
      label,
      value: played.value.bow.habits[name],
      items: itemsOf(items),
      take: value => bow.setHabit({ [name]: value }),
    }
  }),
)
const stretches = computed(() =>
  played.value.bow.passages
    .filter(p => p.school)
    .map(p => ({
      p,
      from: part.notes.find(n => n.event === p.from)?.measure,
      to: part.notes.find(n => n.event === p.to)?.measure,
    })),
)
</script>

<template>
  <ScopeChoice />
  <div role="radiogroup" aria-label="School of bowing" data-test="schools">
    <label v-for="s in BOW_SCHOOLS" :key="s" class="school">
      <input
        type="radio"
        name="bow-school"
        :value="s"
        :checked="school === s"
        :data-test="`school-${s}`"
        @change="bow.setSchool(s, s === 'pattern' ? groove : null)"
      />
      <span
        ><b>{{ POLICIES[s].title }}</b> <small v-if="school === s">{{ POLICIES[s].what }}</small></span
      >
    </label>
  </div>
  <PatternPicker v-if="school === 'pattern'" :groove="groove" @choose="g => bow.setSchool('pattern', g)" />
  <ul v-if="stretches.length" class="stretches">
    <li v-for="s in stretches" :key="`${s.p.from}${s.p.to}`">
      Measures {{ s.from }} to {{ s.to }}: {{ POLICIES[s.p.school!].title }}
    </li>
  </ul>
  <div v-if="POLICIES[school].slurs === 'none' && bow.stretch === null" class="selects">
    <ChoiceRows :choices="habits" />
  </div>
  <h2 class="minor">Nokta may add</h2>
  <TickRow
    v-for="w in BOW_WAYS"
    :key="w"
    :name="`may-${w}`"
    :model-value="played.bow.may[w]"
    @update:model-value="on => bow.allow(w, on)"
    >{{ WAY_WORDS[w] }}</TickRow
  >
  <v-btn
    v-if="bow.addedHere.length"
    class="keep"
    variant="outlined"
    size="small"
    data-test="take-added"
    @click="bow.take(bow.addedHere)"
    >Accept its {{ counted(bow.addedHere.length, 'mark') }}</v-btn
  >
  <div class="selects">
    <v-select
      :model-value="bowPart"
      :items="parts"
      label="Part of the bow"
      data-test="part"
      @update:model-value="bow.setPart"
    />

    <v-select
      :model-value="part.recipe.shown.bowMarks"
      :items="marks"
      label="Bow marks in score and sheet"
      data-test="bow-marks"
      @update:model-value="m => part.editShown({ bowMarks: m })"
    />
  </div>
</template>

<style scoped>
.school {
  display: grid;
  grid-template-columns: 20px 1fr;
  align-items: baseline;
  padding: 2px 0;
  cursor: pointer;
}
.school b {
  font-weight: 400;
}
.school:has(:checked) b {
  font-weight: 700;
}
.school small {
  display: block;
  font-size: 13px;
  color: var(--faint);
}
.minor {
  font-size: 14px;
  margin: 12px 0 4px;
}
.keep {
  margin-top: 8px;
}
.stretches {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
  font-size: 13.5px;
}
.selects {
  display: grid;
  gap: 10px;
  margin-top: 14px;
}
</style>
