<script setup lang="ts">
/** What the bench has to say by itself: work brought back, a clash. */
import { useBench } from '../stores/bench'

const bench = useBench()
</script>

<template>
  <v-snackbar
    :model-value="bench.notice !== ''"
    :timeout="15000"
    location="bottom start"
    @update:model-value="bench.notice = ''"
  >
    {{ bench.notice }}
    <template #actions><v-btn @click="bench.notice = ''">Close</v-btn></template>
  </v-snackbar>
</template>
