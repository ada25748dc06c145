<script setup lang="ts">
/** Over which open string thirds and sixths are told. */
import { computed } from 'vue'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'

const part = usePart()
const hand = useHand()
const drones = computed(() => [
  { value: -1, title: 'no drone' },
  ...part.result!.strings.map((l, i) => ({ value: i, title: `over the open ${l}` })),
])
</script>

<template>
  <v-select
    :model-value="hand.droneString ?? -1"
    :items="drones"
    label="Thirds and sixths"
    @update:model-value="v => (hand.droneString = v < 0 ? null : v)"
  />
</template>
