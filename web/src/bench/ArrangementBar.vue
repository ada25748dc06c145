<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed } from 'vue'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { CROSS_TUNINGS, fiveStrings, formatTuning, homeTuning, parseTuning } from '#core/instruments/tunings'
import { keyName, keyOfSignature, type Key } from '#core/music/key'
import { frac } from '#core/music/fraction'
import { valueName } from '#core/music/valueName'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { useBench } from '../stores/bench'

const bench = useBench()

const instruments = INSTRUMENT_IDS.map(id => ({ value: id, title: INSTRUMENTS[id].name }))
const recipe = computed(() => bench.recipe!)
const sizes = computed(() => INSTRUMENTS[recipe.value.instrument].sizes.map(s => s.name))
const arrangementItems = computed(() =>
  bench.arrangements.map(a => ({
    value: a.id,
    title: a.arrangement.name || INSTRUMENTS[a.arrangement.instrument].name,
  })),
)

/** Keys of the tune's mode with at most six sharps or flats, from flats to sharps. */
const keys = computed(() => {
  const { mode } = bench.documents!.tune.key
  return Array.from({ length: 13 }, (_, i) => keyOfSignature(i - 6, mode)).filter(k => Math.abs(k.alter) <= 1)
})
const code = (k: Key) => `${k.step}${k.alter}`
const keyItems = computed(() => keys.value.map(k => ({ value: code(k), title: keyName(k) })))
const keyValue = computed(() => code(recipe.value.key ?? bench.documents!.tune.key))

function setKey(value: string) {
  const key = keys.value.find(k => code(k) === value)!
  bench.edit({ key: value === code(bench.documents!.tune.key) ? null : key })
}

const HOME = 'home'
const tunings = computed(() => {
  const id = recipe.value.instrument
  const list = [
    ...CROSS_TUNINGS[id].map(t => ({ value: t, title: t })),
    ...fiveStrings(id).map(t => ({ value: t, title: `five strings: ${t}` })),
  ]
  const own = recipe.value.tuning && formatTuning(recipe.value.tuning)
  return [
    { value: HOME, title: `home: ${formatTuning(homeTuning(id))}` },
    ...list,
    ...(own && !list.some(l => l.value === own) ? [{ value: own, title: own }] : []),
  ]
})
const tuningValue = computed(() => (recipe.value.tuning ? formatTuning(recipe.value.tuning) : HOME))

function setTuning(value: string) {
  const read = parseTuning(recipe.value.instrument, value)
  const tuning = value === HOME || 'error' in read ? null : read.tuning
  const count = (t: readonly number[] | null) => t?.length ?? 4
  // On another number of strings a string pinned is another one.
  const anew = count(tuning) !== count(recipe.value.tuning)
  bench.edit({
    tuning,
    ...(anew && {
      pins: { ...recipe.value.pins, fingers: {} },
      passages: recipe.value.passages.filter(p => p.rule.kind !== 'string'),
    }),
  })
}

function setInstrument(instrument: InstrumentId) {
  // Strings and fingers pinned for one instrument mean nothing on another.
  const pins = { ...recipe.value.pins, fingers: {} }
  // So do a string measured, a hand, and the strings and places of rules.
  const passages = recipe.value.passages.filter(p => p.rule.kind !== 'string' && p.rule.kind !== 'position')
  bench.edit({
    instrument,
    size: sizeOf(instrument).name,
    measured: null,
    span: null,
    tuning: null,
    octave: 'auto',
    pins,
    passages,
  })
}

const levels = [
  { value: 0, title: 'any' },
  ...[1, 2, 3, 4, 5, 6, 7, 8].map(n => ({ value: n, title: String(n) })),
]
const octaves = [
  { value: 'auto', title: 'best fit' },
  ...[2, 1, 0, -1, -2].map(n => ({
    value: n,
    title:
      n === 0 ? 'as written' : `${Math.abs(n)} octave${Math.abs(n) > 1 ? 's' : ''} ${n > 0 ? 'up' : 'down'}`,
  })),
]

const beat = computed(() => bench.result?.tempo.beat ?? frac(1))
const beatName = computed(() => valueName(beat.value))

function setTempo(text: string) {
  const perMinute = Number(text)
  if (Number.isFinite(perMinute) && perMinute >= 10 && perMinute <= 400)
    bench.edit({ tempo: { beat: beat.value, perMinute } }, 'tempo')
}
</script>

<template>
  <div class="bar" data-test="arrangement-bar">
    <v-select
      :model-value="bench.arrangementId"
      :items="arrangementItems"
      label="Arrangement"
      class="wide"
      @update:model-value="bench.choose"
    />
    <v-menu :close-on-content-click="false">
      <template #activator="{ props: menu }">
        <v-btn
          v-bind="menu"
          :icon="mdiPlus"
          size="small"
          class="more"
          aria-label="Name this arrangement, or make another"
          data-test="arrangement-menu"
        />
      </template>
      <v-card class="menu">
        <v-text-field
          :model-value="recipe.name"
          label="Name of this arrangement"
          data-test="arrangement-name"
          @update:model-value="name => bench.edit({ name: name.slice(0, 120) }, 'naming')"
        />
        <p>Another one of this tune, for</p>
        <v-btn
          v-for="i in instruments"
          :key="i.value"
          variant="outlined"
          size="small"
          @click="bench.addArrangement(i.value)"
          >{{ i.title }}</v-btn
        >
      </v-card>
    </v-menu>
    <v-select
      :model-value="recipe.instrument"
      :items="instruments"
      label="Instrument"
      data-test="instrument"
      @update:model-value="setInstrument"
    />
    <v-select
      :model-value="recipe.size"
      :items="sizes"
      label="Size"
      class="narrow"
      data-test="size"
      @update:model-value="size => bench.edit({ size, measured: null })"
    />
    <v-select
      :model-value="keyValue"
      :items="keyItems"
      label="Key"
      data-test="key"
      @update:model-value="setKey"
    />
    <v-select
      :model-value="tuningValue"
      :items="tunings"
      label="Tuning"
      class="wide"
      data-test="tuning"
      @update:model-value="setTuning"
    />
    <v-select
      :model-value="recipe.level ?? 0"
      :items="levels"
      label="Level"
      class="narrow"
      data-test="level"
      @update:model-value="n => bench.edit({ level: n === 0 ? null : (n as 1) })"
    />
    <v-select
      :model-value="recipe.octave"
      :items="octaves"
      label="Octave"
      @update:model-value="octave => bench.edit({ octave })"
    />
    <v-text-field
      :model-value="bench.result?.tempo.perMinute ?? ''"
      :label="`${beatName} =`"
      type="number"
      min="10"
      max="400"
      class="narrow"
      data-test="tempo"
      @update:model-value="setTempo"
    />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 8px;
  padding: 8px 18px 2px 4px;
  overflow-x: auto;
  align-items: center;
}
.bar > * {
  flex: 1 1 112px;
  min-width: 104px;
}
.bar > .narrow {
  flex: 0.7 1 92px;
  min-width: 92px;
}
.bar > .wide {
  flex: 1.4 1 150px;
  min-width: 140px;
}
.bar > .more {
  flex: none;
  min-width: 0;
}
.menu {
  padding: 16px;
  gap: 8px;
  max-width: 280px;
}
</style>
