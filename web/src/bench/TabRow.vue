<script setup lang="ts" generic="T extends string">
/** A row of tabs; `name` is the prefix by which tests find one. */
defineProps<{ tabs: readonly { readonly value: T; readonly name: string }[]; name: string }>()
const open = defineModel<T>({ required: true })
</script>

<template>
  <div role="tablist" class="tabs">
    <button
      v-for="t in tabs"
      :key="t.value"
      type="button"
      role="tab"
      :aria-selected="open === t.value"
      :data-test="`${name}-${t.value}`"
      @click="open = t.value"
    >
      {{ t.name }}
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  gap: 18px;
  border-bottom: 1px solid var(--rule);
}
.tabs button {
  padding: 4px 0 6px;
  font-size: 14.5px;
  color: var(--faint);
  background: none;
  border: 0;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  font-weight: 700;
  color: inherit;
  box-shadow: 0 2px 0 rgb(var(--v-theme-primary));
}
</style>
