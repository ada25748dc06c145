<script setup lang="ts">
import { mendWords, placeText, sentence } from '#core/words/findings'
import type { Finding, Mend } from '#core/findings/finding'

defineProps<{ findings: readonly Finding[]; mends?: boolean }>()
const emit = defineEmits<{ go: [finding: Finding]; mend: [mend: Mend] }>()

const WORD = { error: 'Wrong', warning: 'Look', note: 'Note' }
</script>

<template>
  <ul class="list" data-test="findings">
    <li v-for="(f, i) in findings" :key="i" :class="f.severity">
      <button type="button" class="line" @click="emit('go', f)">
        <span class="word">{{ WORD[f.severity] }}</span>
        <span>
          <b v-if="placeText(f)" class="place">{{ placeText(f) }}: </b>{{ sentence(f) }}
        </span>
      </button>
      <span v-if="mends && f.mends" class="mends">
        <v-btn
          v-for="m in f.mends"
          :key="mendWords(m)"
          size="x-small"
          variant="outlined"
          data-test="mend"
          @click="emit('mend', m)"
        >
          {{ mendWords(m) }}
        </v-btn>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: 14px;
}
.line {
  display: grid;
  grid-template-columns: 48px 1fr;
  gap: 6px;
  width: 100%;
  text-align: left;
  padding: 5px 0;
  color: inherit;
  background: none;
  border: 0;
  font: inherit;
  cursor: pointer;
}
.word {
  font-weight: 700;
  font-size: 12.5px;
}
.error .word {
  color: rgb(var(--v-theme-error));
}
.warning .word {
  color: rgb(var(--v-theme-warning));
}
.note .word {
  color: var(--faint);
}
.mends {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 0 0 6px 54px;
}
.mends :deep(.v-btn) {
  height: auto;
  min-height: 24px;
  padding-block: 3px;
}
.mends :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
}
</style>
