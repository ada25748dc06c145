<script setup lang="ts">
/** The chosen stroke: why it is so, and every mark a teacher can set on it. */
import { computed } from 'vue'
import { bowEdited, strokePinned } from '#core/arrangement/edits'
import { PART_NAMES, type StrokePin } from '#core/bowing/pins'
import { sizeOf } from '#core/instruments/instruments'
import { lettersOf } from '#core/instruments/instruments'
import { costWords, PART_WORDS, placeWords, whyStroke } from '#core/words/bow'
import { strokeStart } from '../bench/keys'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import { measureText } from '#core/words/places'

const part = usePart()
const bow = useBow()
const recipe = computed(() => part.recipe)
const event = computed(() => part.selectedNote?.event ?? null)
const stroke = computed(() =>
  event.value ? (part.result!.strokes.find(s => s.notes.includes(event.value!)) ?? null) : null,
)
const start = computed(() => strokeStart(part, event.value ?? ''))
const pin = computed<StrokePin>(() => recipe.value.played.pins.strokes[start.value] ?? {})
const slurred = computed(() => event.value !== null && part.result!.joined.includes(event.value))
const first = computed(() => part.result!.strokes[0]?.notes[0] === event.value)
const hair = computed(() => sizeOf(recipe.value.played.instrument, recipe.value.played.size).bow)
const cm = computed(() =>
  stroke.value ? (Math.abs(stroke.value.to - stroke.value.from) * hair.value) / 10 : 0,
)
const letters = computed(() => lettersOf(recipe.value.played.instrument, recipe.value.played.tuning))
const strings = computed(() => stroke.value?.strings.map(s => letters.value[s]).join(' and '))
const own = computed(() => stroke.value?.added.filter(a => stroke.value!.notes.includes(a.note)) ?? [])

function say(change: Partial<Record<keyof StrokePin, unknown>>) {
  // A hook or lift begins with the note itself.
  const at = 'way' in change ? event.value! : start.value
  part.edit(r => strokePinned(r, at, change))
}
const direction = (d: 'down' | 'up') => say({ direction: pin.value.direction === d ? undefined : d })
const way = (w: 'hook' | 'lift') =>
  pinnedWay.value === w
    ? say({ way: undefined })
    : part.edit(r => bowEdited(r, [{ note: event.value!, way: w }]))
const pinnedWay = computed(() => recipe.value.played.pins.strokes[event.value ?? '']?.way)
const bowPart = (p: StrokePin['part'] | null) => say({ part: p ?? undefined, at: undefined })
const parts = [
  { value: null, title: 'where it lies best' },
  ...PART_NAMES.map(value => ({ value, title: PART_WORDS[value] })),
]
</script>

<template>
  <div data-test="stroke">
    <template v-if="part.selectedNote && stroke">
      <h2>
        {{ stroke.direction === 'down' ? 'Down bow' : 'Up bow' }}
        <small>{{ measureText(stroke.measure) }}, {{ strings }}</small>
      </h2>
      <p>{{ whyStroke(stroke, recipe.played.schools.bow) }}</p>
      <p class="quiet">
        {{ cm.toFixed(0) }} cm of hair in {{ stroke.seconds.toFixed(1) }} s; begins
        {{ placeWords(stroke.from) }}.
      </p>
      <div class="buttons">
        <v-btn
          variant="outlined"
          size="small"
          :active="pin.direction === 'down'"
          data-test="pin-down"
          @click="direction('down')"
          >{{ pin.direction === 'down' ? 'Clear down-bow' : 'Set down-bow' }}</v-btn
        >

        <v-btn
          variant="outlined"
          size="small"
          :active="pin.direction === 'up'"
          data-test="pin-up"
          @click="direction('up')"
          >{{ pin.direction === 'up' ? 'Clear up-bow' : 'Set up-bow' }}</v-btn
        >

        <template v-if="!first">
          <v-btn
            variant="outlined"
            size="small"
            data-test="slur"
            @click="part.pin('joins', event!, !slurred)"
            >{{ slurred ? 'Separate from the note before' : 'Slur to the note before' }}</v-btn
          >
          <v-btn
            variant="outlined"
            size="small"
            :active="pinnedWay === 'hook'"
            data-test="hook"
            @click="way('hook')"
            >{{ pinnedWay === 'hook' ? 'No hook' : 'Hook' }}</v-btn
          >
          <v-btn
            variant="outlined"
            size="small"
            :active="pinnedWay === 'lift'"
            data-test="lift"
            @click="way('lift')"
            >{{ pinnedWay === 'lift' ? 'No lift' : 'Lift before' }}</v-btn
          >
        </template>
        <v-btn v-if="own.length" variant="tonal" size="small" data-test="take-own" @click="bow.take(own)"
          >Accept Nokta’s mark</v-btn
        >
      </div>
      <v-select
        :model-value="pin.part ?? null"
        :items="parts"
        label="Part of the bow"
        data-test="stroke-part"
        @update:model-value="bowPart"
      />
      <p v-if="pin.at !== undefined" class="quiet">
        Begins {{ placeWords(pin.at) }}, as you pulled it.
        <button type="button" class="link" @click="say({ at: undefined })">Let go</button>
      </p>
      <details v-if="Object.keys(stroke.cost).length" class="quiet">
        <summary>Drawbacks</summary>
        {{
          Object.entries(stroke.cost)
            .map(([name, n]) => `${costWords(name)} ${n}`)
            .join(', ')
        }}
      </details>
    </template>
    <p v-else class="quiet">
      Choose a note in the score or a stroke in the lane: pin its bow, slur, hook or lift it, or pull its
      beginning to another place on the bow.
    </p>
  </div>
</template>

<style scoped>
h2 {
  font-size: 18px;
}
h2 small {
  font-size: 13px;
  font-weight: 400;
  color: var(--faint);
}
p {
  margin-bottom: 8px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 14px;
}
details {
  margin-top: 10px;
  font-size: 13px;
}
</style>
