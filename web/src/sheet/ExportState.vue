<script setup lang="ts">
/** How far a file is, the question before protected music leaves, and what went wrong. */
import type { useExport } from '../paper/useExport'

defineProps<{
  of: ReturnType<typeof useExport>
  /** "This tune is protected." */
  said: string
}>()
</script>

<template>
  <p v-if="of.progress.value">
    <progress :value="of.progress.value.done" :max="of.progress.value.of" aria-label="Done so far" />
    <button type="button" class="link" data-test="stop-export" @click="of.stop">stop</button>
  </p>
  <p v-if="of.waiting.value" role="alert">
    {{ said }} Make the file only if its rights allow it.
    <v-btn
      size="small"
      variant="flat"
      color="primary"
      data-test="export-sure"
      @click="of.run(of.waiting.value)"
      >They do</v-btn
    >
    <v-btn size="small" variant="text" @click="of.leave">Leave it</v-btn>
  </p>
  <p v-if="of.problem.value" role="alert" class="problem">{{ of.problem.value }}</p>
</template>

<style scoped>
p {
  margin: 0;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
