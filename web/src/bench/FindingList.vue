<script setup lang="ts">
/**
 * Findings, a line each: what, where, and the mends that answer it. Findings that are said together come as
 * groups.
 */
import { computed } from 'vue'
import { effectWords, groupedFindings } from '#core/words/bow'
import { mendWords, placeText, sentence } from '#core/words/findings'
import type { Finding, Mend } from '#core/findings/finding'

const p = defineProps<{ findings: readonly Finding[]; mends?: boolean }>()
/** `try` while a mend is pointed at: what it would make of the music. */
const emit = defineEmits<{ go: [finding: Finding]; mend: [mend: Mend]; try: [mend: Mend | null] }>()

const WORD = { error: 'Wrong', warning: 'Check', note: 'Note' }
const groups = computed(() => groupedFindings(p.findings))
const shows = (m: Mend | null) => emit('try', m)
</script>

<template>
  <ul class="list" data-test="findings">
    <li v-for="(g, i) in groups" :key="i" :class="g.findings[0]!.severity">
      <button type="button" class="line" @click="emit('go', g.findings[0]!)">
        <span class="word">{{ WORD[g.findings[0]!.severity] }}</span>
        <span v-if="g.sentence">{{ g.sentence }}</span>
        <span v-else>
          <b v-if="placeText(g.findings[0]!)" class="place">{{ placeText(g.findings[0]!) }}: </b
          >{{ sentence(g.findings[0]!) }}
        </span>
      </button>
      <span v-if="mends && g.mends.length" class="mends">
        <span v-for="m in g.mends" :key="mendWords(m)">
          <v-btn
            size="x-small"
            variant="outlined"
            data-test="mend"
            @mouseenter="shows(m)"
            @mouseleave="shows(null)"
            @focus="shows(m)"
            @blur="shows(null)"
            @click="emit('mend', m)"
          >
            {{ mendWords(m) }}
          </v-btn>
          <small v-if="m.kind === 'bow' && m.effect">{{ effectWords(m.effect) }}</small>
        </span>
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
.mends small {
  display: block;
  color: var(--faint);
  margin-top: 2px;
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
