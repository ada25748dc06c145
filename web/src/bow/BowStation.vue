<script setup lang="ts">
import { computed } from 'vue'
import { sizeOf } from '#core/instruments/instruments'
import FindingList from '../bench/FindingList.vue'
import { strokeStart } from '../bench/keys'
import BenchScore from '../bench/BenchScore.vue'
import { useBench } from '../stores/bench'
import { withSchools } from '#core/arrangement/edits'
import { whyStroke } from '#core/words/bow'
import BowLane from './BowLane.vue'

const bench = useBench()
const recipe = computed(() => bench.recipe!)
const findings = computed(() => (bench.result?.findings ?? []).filter(f => f.code.startsWith('bow.')))
const event = computed(() => bench.selectedNote?.event ?? null)
const stroke = computed(() =>
  event.value ? (bench.result!.strokes.find(s => s.notes.includes(event.value!)) ?? null) : null,
)
const pin = computed(() =>
  event.value ? recipe.value.played.pins.strokes[strokeStart(bench, event.value)] : undefined,
)
const slurred = computed(() => event.value !== null && bench.result!.joined.includes(event.value))
const hair = computed(() => sizeOf(recipe.value.played.instrument, recipe.value.played.size).bow)
const travel = computed(() =>
  stroke.value ? (Math.abs(stroke.value.to - stroke.value.from) * hair.value) / 10 : 0,
)

const schools = [
  { value: 'down', title: 'down on the beat' },
  { value: 'as-it-comes', title: 'as it comes' },
]
const setDirection = (d: 'down' | 'up') =>
  bench.pin('strokes', strokeStart(bench, event.value!), pin.value === d ? undefined : d)
const toggleSlur = () => bench.pin('joins', event.value!, !slurred.value)
</script>

<template>
  <div v-if="bench.result" class="bow station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore :marks="{ fingers: false, positions: false, chords: false }" />
    </section>
    <section class="side" aria-label="The chosen note and what to look at" tabindex="0">
      <div data-test="stroke">
        <template v-if="bench.selectedNote && stroke">
          <h2>
            {{ stroke.direction === 'down' ? 'Down bow' : 'Up bow' }}
            <small>measure {{ stroke.measure }}</small>
          </h2>
          <p>
            {{ stroke.notes.length === 1 ? 'One note' : `${stroke.notes.length} notes` }},
            {{ travel.toFixed(0) }} cm of hair.
            {{ whyStroke(stroke, recipe.played.schools.bow) }}
          </p>
          <div class="buttons">
            <v-btn
              variant="outlined"
              size="small"
              :active="pin === 'down'"
              data-test="pin-down"
              @click="setDirection('down')"
              >{{ pin === 'down' ? 'Let go of down' : 'Pin down' }}</v-btn
            >
            <v-btn
              variant="outlined"
              size="small"
              :active="pin === 'up'"
              data-test="pin-up"
              @click="setDirection('up')"
              >{{ pin === 'up' ? 'Let go of up' : 'Pin up' }}</v-btn
            >
            <v-btn variant="outlined" size="small" data-test="slur" @click="toggleSlur">{{
              slurred ? 'Part from the note before' : 'Slur to the note before'
            }}</v-btn>
          </div>
        </template>
        <p v-else class="quiet">Choose a note: pin its bow, or slur it to the note before.</p>
      </div>
      <v-select
        :model-value="recipe.played.schools.bow"
        :items="schools"
        label="School"
        data-test="bow-school"
        @update:model-value="bow => bench.edit(r => withSchools(r, { bow }))"
      />
      <h2 class="minor">To look at</h2>
      <FindingList v-if="findings.length" :findings="findings" mends @go="bench.goTo" @mend="bench.mend" />
      <p v-else class="quiet" data-test="no-bow-findings">
        The bowing comes out: every part starts on the same bow each time.
      </p>
    </section>
    <section class="bottom"><BowLane /></section>
  </div>
</template>

<style scoped>
.bow {
  grid-template-columns: minmax(0, 1fr) 320px;
}
.side h2 {
  font-size: 18px;
}
.side h2 small {
  font-size: 13px;
  font-weight: 400;
  color: var(--faint);
}
.side .minor {
  font-size: 14px;
  margin: 16px 0 4px;
}
.side p {
  margin-bottom: 8px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 16px;
}
</style>
