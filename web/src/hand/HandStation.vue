<script setup lang="ts">
import { computed } from 'vue'
import { framesOf } from '#core/instruments/hands'
import { sizeOf } from '#core/instruments/instruments'
import FindingList from '../bench/FindingList.vue'
import Score from '../engraving/Score.vue'
import { useBench } from '../stores/bench'
import Fingerboard from './Fingerboard.vue'
import HandLane from './HandLane.vue'
import NoteInspector from './NoteInspector.vue'

const bench = useBench()
const recipe = computed(() => bench.recipe!)
const length = computed(() => sizeOf(recipe.value.instrument, recipe.value.size).string)
/** From the first to the last finger of the hand at rest, in semitones. */
const span = computed(() => {
  const reaches = framesOf(recipe.value.instrument, { bassHand: recipe.value.schools.bassHand })[0]!.reaches
  return Math.max(...reaches.filter(r => r.mark === 'home').map(r => r.from))
})
const findings = computed(() =>
  (bench.result?.findings ?? []).filter(f => f.code.startsWith('finger.') || f.code.startsWith('tuning.')),
)

const schools = [
  { value: 'cost', title: 'fourth finger where it saves a crossing' },
  { value: 'first', title: 'open strings first' },
  { value: 'fourth', title: 'fourth finger always' },
]
const hands = ['1-2-4', '1-2-3-4']
const setOpen = (open: 'cost' | 'first' | 'fourth') =>
  bench.edit({ schools: { ...recipe.value.schools, open } })
const setHand = (bassHand: '1-2-4' | '1-2-3-4') =>
  bench.edit({ schools: { ...recipe.value.schools, bassHand } })
</script>

<template>
  <div v-if="bench.result" class="hand station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <Score :marks="{ bows: false, chords: false }" />
    </section>
    <section class="side" aria-label="The chosen note and what to look at" tabindex="0">
      <NoteInspector :length="length" />
      <h2 class="minor">Notes in use <small>tapes in mm from the nut</small></h2>
      <Fingerboard :instrument="recipe.instrument" :length="length" />
      <v-select
        :model-value="recipe.schools.open"
        :items="schools"
        label="Open string or fourth finger"
        class="school"
        data-test="open-school"
        @update:model-value="setOpen"
      />
      <v-select
        v-if="recipe.instrument === 'bass'"
        :model-value="recipe.schools.bassHand"
        :items="hands"
        label="Hand"
        class="school"
        @update:model-value="setHand"
      />
      <template v-if="findings.length">
        <h2 class="minor">To look at</h2>
        <FindingList :findings="findings" mends @go="bench.goTo" @mend="bench.mend" />
      </template>
    </section>
    <section class="bottom"><HandLane :length="length" :span="span" /></section>
  </div>
</template>

<style scoped>
.hand {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.side .minor {
  font-size: 14px;
  margin: 14px 0 4px;
}
.side .minor small {
  font-weight: 400;
  color: var(--faint);
}
.school {
  margin-top: 12px;
}
</style>
