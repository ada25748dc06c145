<script setup lang="ts">
/** What the shelf is narrowed down by: only facts that some tune has. */
import { computed } from 'vue'
import { useShelf } from '../stores/shelf'

const shelf = useShelf()
type Facet = 'kind' | 'key' | 'metre' | 'instrument' | 'level' | 'tag'
const FILTERS: readonly (readonly [Facet, string])[] = [
  ['kind', 'Kind'],
  ['key', 'Key'],
  ['metre', 'Metre'],
  ['instrument', 'Instrument'],
  ['level', 'Level'],
  ['tag', 'Tag'],
]
const items = (f: Facet) =>
  (shelf.facets?.[f] ?? []).map(({ value, count }) => ({ value, title: `${value} (${count})` }))
const useful = computed(() => FILTERS.filter(([f]) => items(f).length > 0))
const tunings = [
  { value: 'home', title: 'standard tuning' },
  { value: 'cross', title: 'cross-tuned' },
]
function setFilter(facet: Facet, value: string | null) {
  Object.assign(shelf.filters, {
    [facet]: value === null ? undefined : facet === 'level' ? Number(value) : value,
  })
}
</script>

<template>
  <v-select
    v-for="[facet, name] in useful"
    :key="facet"
    :model-value="shelf.filters[facet] === undefined ? null : String(shelf.filters[facet])"
    :items="items(facet)"
    :label="name"
    clearable
    :data-test="`filter-${facet}`"
    @update:model-value="v => setFilter(facet, v)"
  />
  <v-select
    :model-value="shelf.filters.tuning ?? null"
    :items="tunings"
    label="Tuning"
    clearable
    @update:model-value="v => (shelf.filters.tuning = (v as 'home') ?? undefined)"
  />
</template>
