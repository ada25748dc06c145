<script setup lang="ts" generic="T">
/**
 * A line of text that means something: taken when it is read, and told when it is not; what was typed stays
 * to be mended.
 */
import { ref, watch } from 'vue'

const props = defineProps<{
  text: string
  label: string
  /** Null where nothing can be made of it. */
  read: (text: string) => T | null
  problem: string
  hint?: string
  test?: string
}>()
const emit = defineEmits<{ read: [value: T] }>()
const unread = ref(false)

function take(e: Event) {
  const value = props.read((e.target as HTMLInputElement).value)
  unread.value = value === null
  if (value !== null) emit('read', value)
}
watch(
  () => props.text,
  () => (unread.value = false),
)
</script>

<template>
  <v-text-field
    :model-value="text"
    :label="label"
    :hint="hint"
    :persistent-hint="hint !== undefined"
    :error-messages="unread ? [problem] : []"
    :data-test="test"
    @change="take"
  />
</template>
