<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref } from 'vue'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import type { Finding } from '#core/findings/finding'
import type { Tune } from '#core/music/tune'
import FindingList from '../bench/FindingList.vue'
import { callCore } from '../worker/client'

const props = defineProps<{ given: { name: string; text: string } | null }>()
const emit = defineEmits<{ take: [tunes: readonly { tune: Tune; source: string }[]]; close: [] }>()

const text = ref(props.given?.text ?? '')
const read = ref<{
  tunes: readonly { tune: Tune; source: string; findings: readonly Finding[] }[]
  findings: readonly Finding[]
} | null>(null)
const problem = ref('')

watchDebounced(
  text,
  async typed => {
    try {
      const result = typed === '' ? null : await callCore(core => core.readBook(typed))
      if (typed === text.value) read.value = result
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    }
  },
  { debounce: 150, immediate: true },
)

async function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (file) text.value = await file.text()
}

const tunes = computed(() => read.value?.tunes ?? [])
const findings = computed(() => [
  ...(read.value?.findings ?? []),
  ...(tunes.value.length === 1 ? tunes.value[0]!.findings : []),
])
</script>

<template>
  <v-card class="add" data-test="add-dialog">
    <h2>Add a tune</h2>
    <p class="quiet">
      Paste ABC text or choose a file. <template v-if="given">Taken from {{ given.name }}.</template>
    </p>
    <v-textarea v-model="text" label="ABC" rows="10" class="abc" data-test="paste" spellcheck="false" />
    <label class="file">Or a file <input type="file" accept=".abc,.txt,text/plain" @change="choose" /></label>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <ul v-if="tunes.length" class="found">
      <li v-for="(t, i) in tunes.slice(0, 8)" :key="i">
        <b>{{ t.tune.title || 'Untitled' }}</b> · {{ keyName(t.tune.key) }} · {{ metreName(t.tune.metre) }} ·
        {{ t.tune.measures.length }} measures
        <template v-if="tunes.length > 1 && t.findings.length">
          · {{ t.findings.length }} to look at</template
        >
      </li>
      <li v-if="tunes.length > 8">and {{ tunes.length - 8 }} more</li>
    </ul>
    <FindingList v-if="findings.length" :findings="findings" class="findings" />
    <div class="actions">
      <v-btn @click="emit('close')">Cancel</v-btn>
      <v-btn
        variant="flat"
        color="primary"
        :disabled="tunes.length === 0"
        data-test="take"
        @click="emit('take', tunes)"
      >
        {{ tunes.length > 1 ? `Put ${tunes.length} tunes on the shelf` : 'Put it on the shelf' }}
      </v-btn>
    </div>
  </v-card>
</template>

<style scoped>
.add {
  padding: 22px 24px;
}
.abc :deep(textarea) {
  font-family: ui-monospace, monospace;
  font-size: 14px;
  line-height: 1.45;
}
.file {
  display: block;
  margin: 10px 0;
}
.found {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.findings {
  max-height: 180px;
  overflow: auto;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 14px;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
