<script setup lang="ts">
import { computed } from 'vue'
import { useDocuments } from '../stores/documents'

const docs = useDocuments()
const words = computed(
  () =>
    ({
      saved: 'Saved',
      unsaved: 'Saving soon…',
      saving: 'Saving…',
      offline: 'Kept in this browser: can’t reach the server',
      full: 'Kept in this browser: the server’s disk is full, make room there',
      clash: 'Changed elsewhere',
      unsafe: 'Not safe yet: this browser has no room to keep it',
    })[docs.saveState],
)
</script>

<template>
  <span
    class="save"
    :class="docs.saveState"
    role="status"
    data-test="save-state"
    :title="docs.saveState === 'offline' || docs.saveState === 'full' ? docs.saveProblem : ''"
  >
    <span class="dot" aria-hidden="true" />{{ words }}
  </span>
</template>

<style scoped>
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
  color: var(--faint);
  white-space: nowrap;
}
.dot {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  border: 1.5px solid currentColor;
}
.saved .dot {
  background: rgb(var(--v-theme-primary));
  border-color: rgb(var(--v-theme-primary));
}
.offline,
.full,
.clash,
.unsafe {
  color: rgb(var(--v-theme-error));
}
</style>
