<script setup lang="ts">
/** Choices under each other, each a list to choose from. */
import type { Choice } from './choice'

defineProps<{ choices: readonly Choice[] }>()
</script>

<template>
  <v-select
    v-for="c in choices"
    :key="c.test"
    :model-value="c.value"
    :items="c.items"
    :label="c.label"
    :data-test="c.test"
    @update:model-value="c.take"
  />
</template>
