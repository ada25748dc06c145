<script setup lang="ts">
import { fingersPinned } from '#core/arrangement/edits'
import { mdiPin, mdiPinOff } from '@mdi/js'
import { computed } from 'vue'
import { fromNut } from '#core/instruments/geometry'
import { fingerText } from '#core/words/fingers'
import { lettersOf } from '#core/instruments/instruments'
import { digitText } from '#core/instruments/digits'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import type { AlternativeView } from '#core/desk/views'
import NoteExtras from './NoteExtras.vue'
import { COST_WORDS, heavier, signed, weighing } from './words'
import type { FingerPin } from '#core/fingering/fingerPin'
import { measureText } from '#core/words/places'

const props = defineProps<{ length: number }>()
const part = usePart()
const hand = useHand()
const note = computed(() => part.selectedNote)
const pinned = computed(
  () => note.value !== null && part.recipe.played.pins.fingers[note.value.id] !== undefined,
)
const letters = computed(() => lettersOf(part.recipe.played.instrument, part.recipe.played.tuning))
const report = computed(() => (part.report?.id === note.value?.id ? part.report : null))
const costs = computed(() => Object.entries(report.value?.cost ?? {}).filter(([name]) => name !== 'total'))

/** Pins and takes away: at this note, or at every note that repeats it. */
function pinAt(pin: FingerPin | undefined) {
  const id = note.value!.id
  const ids = hand.alsoInKin ? (report.value?.alike ?? [id]) : [id]
  const offsets = new Map(part.notes.map(n => [n.id, n.offset]))
  const at = ids.map(i => ({ id: i, up: (offsets.get(i) ?? 0) - note.value!.offset }))
  part.edit(r => fingersPinned(r, at, pin))
}
const take = (string: number, finger: AlternativeView['finger']) => pinAt({ string, finger })
const toggle = () =>
  pinAt(pinned.value ? undefined : { string: note.value!.string, finger: note.value!.finger })
const pinPlace = () =>
  pinAt({ string: note.value!.string, finger: note.value!.finger, anchor: note.value!.anchor })
const mm = computed(() => (note.value ? fromNut(props.length, note.value.offset).toFixed(1) : ''))
</script>

<template>
  <aside class="inspector" aria-label="The selected note" data-test="inspector">
    <template v-if="note">
      <h2>
        {{ note.pitch }}
        <small>{{ measureText(note.measure) }}</small>
      </h2>
      <p class="choice" data-test="choice">
        <b>{{
          note.finger === 0
            ? `Open ${letters[note.string]}`
            : `${digitText(note.finger, note.mark, note.harmonic)} on ${letters[note.string]}`
        }}</b>
        <span v-if="note.finger !== 0"> · {{ note.position }} position · {{ mm }} mm from the nut</span>
      </p>
      <p v-if="report" data-test="why">{{ report.why }}</p>
      <NoteExtras />
      <div class="pins">
        <v-btn
          variant="outlined"
          size="small"
          :prepend-icon="pinned ? mdiPinOff : mdiPin"
          data-test="pin"
          @click="toggle"
        >
          {{ pinned ? 'Take the pin off' : 'Pin it as it is' }}
        </v-btn>
        <v-btn
          v-if="!pinned && note.finger !== 0"
          variant="outlined"
          size="small"
          data-test="pin-place"
          @click="pinPlace"
          >Pin the hand position too</v-btn
        >
      </div>
      <label v-if="report && report.alike.length > 1" class="check" data-test="also-kin"
        ><input v-model="hand.alsoInKin" type="checkbox" /> Also where it comes again ({{
          report.alike.length - 1
        }}
        more {{ report.alike.length === 2 ? 'place' : 'places' }})</label
      >
      <template v-if="report">
        <h2 class="minor">Instead</h2>
        <table v-if="report.alternatives.length" class="plain" data-test="alternatives">
          <thead>
            <tr>
              <th>Finger</th>
              <th>Gains and loses</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="a in report.alternatives" :key="`${a.string}${a.finger}`">
              <td>
                <v-btn size="x-small" variant="outlined" @click="take(a.string, a.finger)">{{
                  fingerText(a.finger, letters[a.string]!)
                }}</v-btn>
              </td>
              <td class="because">
                {{ a.trade ?? `as many shifts and crossings; ${heavier(a.differences)}`
                }}<template v-if="a.changes > 1"> · {{ a.changes }} notes change</template>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="quiet">There is no other place for it here.</p>
        <details class="quiet cost" data-test="numbers">
          <summary>In numbers</summary>
          <p v-if="costs.length">
            This note costs {{ report.cost.total }}:
            {{ costs.map(([n, c]) => `${COST_WORDS[n] ?? n} ${c}`).join(', ') }}.
          </p>
          <p v-for="a in report.alternatives" :key="`${a.string}${a.finger}`">
            {{ fingerText(a.finger, letters[a.string]!) }} {{ signed(a.extra) }}:
            {{ weighing(a.differences) }}
          </p>
        </details>
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
.pins {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
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
