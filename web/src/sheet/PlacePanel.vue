<script setup lang="ts">
/** What was clicked on the page: where it is decided, and whether a line or a page begins there. */
import { computed } from 'vue'
import { brokenAt } from '#core/arrangement/edits'
import { digitText } from '#core/instruments/digits'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { capital, measureText } from '#core/words/places'

const docs = useDocuments()
const part = usePart()
const measure = computed(() => {
  const list = part.result!.tune.measures
  return list.find(m => m.events.some(e => e.id === part.caret)) ?? null
})
const note = computed(() => part.notes.find(n => n.event === part.caret) ?? null)
const now = computed(
  () => (measure.value ? part.recipe.shown.sheet.breaks[measure.value.id] : undefined) ?? null,
)
const WAYS = [
  { value: 'line', name: 'begin a line here' },
  { value: 'page', name: 'begin a page here' },
  { value: 'none', name: 'no line begins here' },
] as const
const set = (how: 'line' | 'page' | 'none') =>
  part.edit(r => brokenAt(r, measure.value!.id, now.value === how ? null : how))
</script>

<template>
  <section v-if="measure" class="place" aria-label="This place" data-test="place">
    <p v-if="note">
      {{ capital(measureText(note.measure)) }}, {{ note.pitch }}:
      {{ digitText(note.finger, note.mark, note.harmonic) }} on {{ part.result!.strings[note.string] }}.
      <router-link :to="`/tunes/${docs.tuneId}/hand`" class="link" data-test="to-hand">its finger</router-link
      >,
      <router-link :to="`/tunes/${docs.tuneId}/bow`" class="link" data-test="to-bow">its bow</router-link>
    </p>
    <p class="ways">
      <button
        v-for="w in WAYS"
        :key="w.value"
        type="button"
        class="link"
        :aria-pressed="now === w.value"
        :data-test="`break-${w.value}`"
        @click="set(w.value)"
      >
        {{ w.name }}
      </button>
    </p>
  </section>
</template>

<style scoped>
.place {
  padding: 8px 10px;
  border-left: 4px solid rgb(var(--v-theme-secondary));
  font-size: 14px;
}
p {
  margin: 0 0 4px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.ways button[aria-pressed='true'] {
  font-weight: 700;
}
</style>
