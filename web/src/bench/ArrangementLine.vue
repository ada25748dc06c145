<script setup lang="ts">
/**
 * The arrangement said as one quiet line; each word opens its own choice in place. What a choice lists is
 * made when it is opened.
 */
import { mdiChevronDown } from '@mdi/js'
import { computed, defineAsyncComponent, nextTick, ref } from 'vue'
import {
  arrangementWord,
  ARRANGEMENT_WORDS,
  leftOutText,
  type ArrangementWord,
  type SaidOf,
} from '#core/words/arrangement'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'

const ArrangementChoice = defineAsyncComponent(() => import('./ArrangementChoice.vue'))
const LevelNote = defineAsyncComponent(() => import('./LevelNote.vue'))
type Opened = ArrangementWord | 'arrangement'

const docs = useDocuments()
const part = usePart()
const of = computed<SaidOf>(() => ({
  recipe: part.recipe,
  key: docs.documents!.tune.key,
  octave: part.result?.octave ?? null,
  tempo: part.result?.tempo ?? null,
}))
/** What is not played of it is said where the rest is, and taken back in Levels. */
const left = computed(() => leftOutText(docs.documents!.tune, part.recipe.played))
const open = ref<Opened | null>(null)
const opener = ref<HTMLElement | null>(null)

async function toggle(word: Opened, event: MouseEvent) {
  const same = open.value === word
  open.value = null
  if (same) return
  opener.value = event.currentTarget as HTMLElement
  // Another word's choice is put away first: each stands at its own place.
  await nextTick()
  open.value = word
}
function close() {
  open.value = null
  opener.value?.focus()
}
</script>

<template>
  <p class="line" data-test="arrangement-line">
    <button
      type="button"
      class="name"
      aria-haspopup="dialog"
      :aria-expanded="open === 'arrangement'"
      data-test="arrangement"
      @click="toggle('arrangement', $event)"
    >
      {{ part.recipe.name || 'Arrangement'
      }}<span v-if="docs.arrangements.length > 1" class="count"> · one of {{ docs.arrangements.length }}</span
      ><v-icon :icon="mdiChevronDown" size="16" /></button
    ><span class="colon">:</span>
    <template v-for="(w, i) in ARRANGEMENT_WORDS" :key="w">
      <span class="said"
        ><button
          type="button"
          class="word"
          :class="{ open: open === w }"
          aria-haspopup="dialog"
          :aria-expanded="open === w"
          :data-test="w"
          @click="toggle(w, $event)"
        >
          {{ arrangementWord(w, of) }}</button
        ><template v-if="left || i < ARRANGEMENT_WORDS.length - 1">,</template></span
      >{{ ' ' }}
    </template>
    <router-link v-if="left" :to="`/tunes/${docs.tuneId}/levels`" class="word" data-test="left-out">{{
      left
    }}</router-link>
    <LevelNote v-if="part.recipe.played.level !== null" class="level" />
    <ArrangementChoice v-if="open && opener" :word="open" :target="opener" @close="close" />
  </p>
</template>

<style scoped>
.line {
  padding: 7px 18px 3px 4px;
  line-height: 1.6;
  font-size: 15px;
}
button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0 1px;
  cursor: pointer;
  text-align: left;
}
.level {
  margin-left: 8px;
}
.name {
  font-weight: 700;
}
.name .count {
  font-weight: 400;
  color: var(--faint);
}
.colon {
  margin-right: 6px;
}
.said {
  white-space: nowrap;
}
.word {
  border-bottom: 1px dotted var(--faint);
}
a.word {
  color: inherit;
  text-decoration: none;
}
.word:hover,
.name:hover,
.word.open {
  color: rgb(var(--v-theme-primary));
  border-bottom-color: currentColor;
}
</style>
