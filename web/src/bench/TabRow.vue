<script setup lang="ts" generic="T extends string">
/**
 * A row of tabs; arrow keys go through them, unless one was clicked: then they go on walking through the notes.
 * `name` is the prefix by which tests find one, and with `address` the open one stands in the page's address
 * under it.
 */
import { ref } from 'vue'
import { useInAddress } from '../address/inAddress'

const props = defineProps<{
  tabs: readonly { readonly value: T; readonly name: string }[]
  name: string
  address?: boolean
}>()
const open = defineModel<T>({ required: true })
if (props.address) useInAddress(props.name, open, () => props.tabs.map(t => t.value))

const row = ref<HTMLElement | null>(null)
let pointed = false
const onPointer = () => void (pointed = true)
function onLeave(event: FocusEvent) {
  if (!row.value?.contains(event.relatedTarget as Node | null)) pointed = false
}
function onKey(event: KeyboardEvent) {
  if (pointed) return
  const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  const at = props.tabs.findIndex(t => t.value === open.value)
  const last = props.tabs.length - 1
  const to =
    event.key === 'Home' ? 0 : event.key === 'End' ? last : step && (at + step + last + 1) % (last + 1)
  if (to === undefined) return
  event.preventDefault()
  event.stopPropagation()
  open.value = props.tabs[to]!.value
  row.value?.querySelectorAll<HTMLElement>('[role="tab"]')[to]?.focus()
}
</script>

<template>
  <div ref="row" role="tablist" class="tabs" @keydown="onKey" @pointerdown="onPointer" @focusout="onLeave">
    <button
      v-for="t in tabs"
      :key="t.value"
      type="button"
      role="tab"
      :aria-selected="open === t.value"
      :tabindex="open === t.value ? 0 : -1"
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
