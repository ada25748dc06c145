<script setup lang="ts">
/** The tune's title, edited where it stands. */
import { computed, nextTick, ref } from 'vue'
import { MOST } from '#core/music/tune'
import { useDocuments } from '../stores/documents'

const docs = useDocuments()
const title = computed(() => docs.documents?.tune.title ?? '')
const editing = ref(false)
const typed = ref('')
const box = ref<HTMLInputElement | null>(null)
const button = ref<HTMLButtonElement | null>(null)

async function begin() {
  typed.value = title.value
  editing.value = true
  await nextTick()
  box.value?.select()
}
/** By key the button has the focus again; by a click elsewhere it goes where that was. */
async function end(keep: boolean, byKey: boolean) {
  if (!editing.value) return
  editing.value = false
  if (keep && typed.value.trim() !== title.value) docs.editFacts({ title: typed.value.trim() })
  if (!byKey) return
  await nextTick()
  button.value?.focus()
}
</script>

<template>
  <input
    v-if="editing"
    ref="box"
    v-model="typed"
    class="box"
    aria-label="Title"
    :maxlength="MOST.line"
    data-test="title-box"
    @keydown.enter.prevent="end(true, true)"
    @keydown.esc.stop.prevent="end(false, true)"
    @blur="end(true, false)"
  />
  <h1 v-else data-test="title">
    <button ref="button" type="button" title="Change the title" @click="begin">
      {{ title || 'Untitled' }}
    </button>
  </h1>
</template>

<style scoped>
h1 {
  font-size: 18px;
  margin-right: 10px;
  min-width: 60px;
}
h1 button {
  font: inherit;
  color: inherit;
  background: none;
  padding: 0;
  max-width: 100%;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: text;
}
h1 button:hover {
  box-shadow: 0 1px 0 var(--rule);
}
.box {
  font: inherit;
  font-size: 18px;
  font-weight: 700;
  width: 280px;
  padding: 1px 6px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  color: inherit;
}
</style>
