<script setup lang="ts">
/**
 * Another arrangement of the tune for this instrument, laid beside the one in use: what each asks of the
 * hand, and what changes.
 */
import { computed } from 'vue'
import type { HandFacts } from '#core/teach/compareHands'
import { useHand } from '../stores/hand'
import ChangedNotes from './ChangedNotes.vue'

const hand = useHand()
const items = computed(() => [
  { value: '', title: 'none' },
  ...hand.others.map(a => ({ value: a.id, title: a.arrangement.name || 'without a name' })),
])
const FACTS: readonly { key: keyof HandFacts; label: string; unit?: string }[] = [
  { key: 'shifts', label: 'Shifts' },
  { key: 'way', label: 'Way of the hand', unit: 'mm' },
  { key: 'crossings', label: 'String crossings' },
  { key: 'open', label: 'Open strings' },
  { key: 'fourth', label: 'Fourth finger' },
  { key: 'reached', label: 'Reached out of the hand' },
  { key: 'holdsTo', label: 'Playable up to' },
]
const shown = (f: HandFacts, { key, unit }: (typeof FACTS)[number]) =>
  f[key] === null ? 'any tempo' : `${f[key]}${unit ? ` ${unit}` : ''}`
</script>

<template>
  <section
    v-if="hand.others.length"
    aria-label="Another arrangement beside this one"
    data-test="other-arrangement"
  >
    <h2 class="minor">Another arrangement beside this one</h2>
    <v-select
      :model-value="hand.otherId ?? ''"
      :items="items"
      label="Compare with"
      data-test="compare-with"
      @update:model-value="v => (hand.otherId = v || null)"
    />
    <template v-if="hand.comparison">
      <table class="plain" data-test="facts">
        <thead>
          <tr>
            <th />
            <th class="number">This</th>
            <th class="number">Other</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in FACTS" :key="f.key">
            <td>{{ f.label }}</td>
            <td class="number">{{ shown(hand.comparison.now, f) }}</td>
            <td class="number">{{ shown(hand.comparison.then, f) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="hand.comparison.changed.length === 0">Both have the same fingers.</p>
      <template v-else>
        <ChangedNotes :notes="hand.comparison.changed" />
        <v-btn
          size="small"
          variant="outlined"
          data-test="use-other"
          @click="hand.pinAll(hand.comparison.changed)"
          >Use its fingers</v-btn
        >
      </template>
    </template>
  </section>
</template>

<style scoped>
.minor {
  font-size: 14px;
  margin: 16px 0 6px;
}
.plain {
  font-size: 13.5px;
  margin: 8px 0;
}
</style>
