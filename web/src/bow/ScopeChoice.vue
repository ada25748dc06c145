<script setup lang="ts">
/** What a choice is for: all of the tune, the phrase in view, the chosen notes. */
import { computed } from 'vue'
import { usePart } from '../stores/parts'
import { useBow, type Scope } from '../stores/bow'

const part = usePart()
const bow = useBow()
const scopes = computed<{ value: Scope; title: string; off: boolean }[]>(() => [
  { value: 'all', title: 'All of it', off: false },
  { value: 'phrase', title: 'This phrase', off: part.focus === null },
  { value: 'chosen', title: 'Chosen notes', off: part.selection.length < 2 },
])
</script>

<template>
  <div class="scopes" role="group" aria-label="What the choice is for">
    <button
      v-for="s in scopes"
      :key="s.value"
      type="button"
      :disabled="s.off"
      :aria-pressed="bow.scope === s.value"
      :data-test="`scope-${s.value}`"
      @click="bow.scope = s.value"
    >
      {{ s.title }}
    </button>
  </div>
</template>

<style scoped>
.scopes {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 6px;
  overflow: hidden;
  margin-bottom: 8px;
}
.scopes button {
  flex: 1;
  padding: 5px 4px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}
.scopes button + button {
  border-left: 1px solid var(--rule);
}
.scopes button:disabled {
  color: var(--faint);
  cursor: default;
}
.scopes [aria-pressed='true'] {
  font-weight: 700;
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 14%, transparent);
}
</style>
