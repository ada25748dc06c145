<script setup lang="ts">
/** The mixer: for each track how loud it is, where it stands, and whether it is heard at all. */
import { mixOf, type Mix, type TrackMix } from '#core/playback/mixer'
import type { TrackId } from '#core/playback/program'

defineProps<{ tracks: readonly { readonly id: TrackId; readonly label: string }[] }>()
const mix = defineModel<Mix>({ required: true })

const RANGES = [
  { key: 'volume', min: 0, step: 0.05, label: (track: string) => `Volume of ${track}` },
  { key: 'pan', min: -1, step: 0.1, label: (track: string) => `${track}, left to right` },
] as const
const BUTTONS = [
  { key: 'mute', label: 'off' },
  { key: 'solo', label: 'alone' },
] as const

const say = (id: TrackId, said: Partial<TrackMix>) =>
  (mix.value = { ...mix.value, [id]: { ...mix.value[id], ...said } })
const numberOf = (event: Event) => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <table class="mixer" data-test="mixer">
    <thead>
      <tr class="quiet">
        <th scope="col">Track</th>
        <th scope="col">Volume</th>
        <th scope="col">Left, right</th>
        <th scope="col" colspan="2">Heard</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="t in tracks" :key="t.id" :data-test="`track-${t.id}`">
        <th scope="row">{{ t.label }}</th>
        <td v-for="r in RANGES" :key="r.key">
          <input
            type="range"
            :min="r.min"
            max="1"
            :step="r.step"
            :value="mixOf(mix, t.id)[r.key]"
            :aria-label="r.label(t.label)"
            :data-test="`track-${r.key}`"
            @input="say(t.id, { [r.key]: numberOf($event) })"
          />
        </td>
        <td v-for="b in BUTTONS" :key="b.key">
          <button
            type="button"
            class="tick"
            :aria-pressed="mixOf(mix, t.id)[b.key]"
            :aria-label="`${t.label} ${b.label}`"
            :data-test="`track-${b.key}`"
            @click="say(t.id, { [b.key]: !mixOf(mix, t.id)[b.key] })"
          >
            {{ b.label }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.mixer {
  width: 100%;
  border-collapse: collapse;
  font-size: 14px;
}
.mixer th {
  font-weight: 400;
  text-align: left;
}
.mixer thead th {
  font-size: 12.5px;
}
.mixer td {
  padding: 2px 4px;
}
.mixer input {
  width: 72px;
  accent-color: rgb(var(--v-theme-primary));
}
.tick {
  padding: 1px 7px;
  border: 1px solid var(--faint);
  border-radius: 4px;
  background: transparent;
  color: inherit;
  font: inherit;
  font-size: 12.5px;
  cursor: pointer;
}
.tick[aria-pressed='true'] {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 45%, transparent);
}
</style>
