<script setup lang="ts">
/** One thing that is on or off, in a row of its own. */
defineProps<{ name: string; title?: string; disabled?: boolean }>()
const on = defineModel<boolean>({ required: true })
</script>

<template>
  <label class="tick" :title="title"
    ><input v-model="on" type="checkbox" :disabled="disabled" :data-test="name" /> <slot
  /></label>
</template>

<style scoped>
.tick {
  display: flex;
  align-items: baseline;
  gap: 6px;
  font-size: 14px;
  cursor: pointer;
}
</style>
