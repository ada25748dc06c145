<script setup lang="ts">
import { mdiPin, mdiPinOff } from '@mdi/js'
import { computed } from 'vue'
import { fromNut } from '#core/instruments/geometry'
import { fingerText } from '#core/fingering/explain'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { digitText } from '#core/tablature/tabModel'
import { useBench } from '../stores/bench'
import type { AlternativeView } from '../worker/contract'

const props = defineProps<{ length: number }>()
const bench = useBench()
const note = computed(() => bench.selectedNote)
const pinned = computed(() => note.value !== null && bench.recipe!.pins.fingers[note.value.id] !== undefined)
const letters = computed(() => INSTRUMENTS[bench.recipe!.instrument].letters)
const report = computed(() => (bench.report?.id === note.value?.id ? bench.report : null))
const costs = computed(() => Object.entries(report.value?.cost ?? {}).filter(([name]) => name !== 'total'))

/** Components in words a teacher uses. */
const WORDS: Record<string, string> = {
  place: 'away from home', finger: 'finger', open: 'open string', sustained: 'long and open', shift: 'shift', crossing: 'crossing',
  hop: 'hop or block', slide: 'slide', stretch: 'stretch', handShape: 'hand opens', substitution: 'change of finger',
} // prettier-ignore
const signed = (x: number) => (x > 0 ? `+${x.toFixed(1)}` : x.toFixed(1).replace('-', '−'))
const gains = (a: AlternativeView) =>
  [...a.differences]
    .sort((p, q) => Math.abs(q.amount) - Math.abs(p.amount))
    .slice(0, 3)
    .map(d => `${WORDS[d.name] ?? d.name} ${signed(d.amount)}`)
    .join(', ')

const take = (string: number, finger: AlternativeView['finger']) =>
  bench.pin('fingers', note.value!.id, { string, finger })
const toggle = () =>
  pinned.value
    ? bench.pin('fingers', note.value!.id, undefined)
    : take(note.value!.string, note.value!.finger)
const mm = computed(() => (note.value ? fromNut(props.length, note.value.offset).toFixed(1) : ''))
</script>

<template>
  <aside class="inspector" aria-label="The selected note" data-test="inspector">
    <template v-if="note">
      <h2>
        {{ note.pitch }}
        <small>measure {{ note.measure }}</small>
      </h2>
      <p class="choice" data-test="choice">
        <b>{{
          note.finger === 0
            ? `Open ${letters[note.string]}`
            : `${digitText(note.finger, note.mark)} on ${letters[note.string]}`
        }}</b>
        <span v-if="note.finger !== 0"> · {{ note.position }} position · {{ mm }} mm from the nut</span>
      </p>
      <p v-if="report" data-test="why">{{ report.why }}</p>
      <v-btn
        variant="outlined"
        size="small"
        :prepend-icon="pinned ? mdiPinOff : mdiPin"
        data-test="pin"
        @click="toggle"
      >
        {{ pinned ? 'Take the pin off' : 'Pin it as it is' }}
      </v-btn>
      <template v-if="report">
        <h2 class="minor">Instead</h2>
        <table v-if="report.alternatives.length" class="plain" data-test="alternatives">
          <thead>
            <tr>
              <th>Finger</th>
              <th class="number">Costs</th>
              <th>Because of</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="a in report.alternatives" :key="`${a.string}${a.finger}`">
              <td>
                <v-btn size="x-small" variant="outlined" @click="take(a.string, a.finger)">{{
                  fingerText(a.finger, letters[a.string]!)
                }}</v-btn>
              </td>
              <td class="number">{{ signed(a.extra) }}</td>
              <td class="because">
                {{ gains(a) }}<template v-if="a.changes > 1"> · {{ a.changes }} notes change</template>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="quiet">There is no other place for it here.</p>
        <p v-if="costs.length" class="quiet cost">
          This note costs {{ report.cost.total }}:
          {{ costs.map(([n, c]) => `${WORDS[n] ?? n} ${c}`).join(', ') }}.
        </p>
      </template>
    </template>
    <p v-else class="quiet">
      Choose a note in the score, the lane or on the fingerboard: here is why it got its finger, and what else
      would do.
    </p>
  </aside>
</template>

<style scoped>
.inspector h2 {
  font-size: 19px;
}
.inspector h2 small {
  font-size: 13px;
  font-weight: 400;
  color: var(--faint);
}
.inspector .minor {
  font-size: 14px;
  margin: 14px 0 2px;
}
.choice {
  margin: 4px 0 6px;
}
.inspector p {
  margin-bottom: 8px;
}
.because,
.cost {
  font-size: 13px;
}
</style>
