<script setup lang="ts">
/** A long book as a list: what each tune is called at once, what is wrong with it once it was looked at. */
import { computed, ref } from 'vue'
import type { BookEntry } from '#core/formats/abc/book'
import type { Looked } from './longBook'

const p = defineProps<{
  entries: readonly BookEntry[]
  chosen: ReadonlySet<number>
  looked: ReadonlyMap<number, Looked>
  looking: boolean
}>()
const emit = defineEmits<{ choose: [which: ReadonlySet<number>]; look: []; stop: [] }>()

const search = ref('')
const rows = computed(() => {
  const words = search.value.trim().toLowerCase().split(/\s+/).filter(Boolean)
  return [...p.entries.entries()]
    .map(([index, entry]) => ({ index, entry }))
    .filter(({ entry: e }) => words.every(w => `${e.title} ${e.kind} ${e.key}`.toLowerCase().includes(w)))
})
function toggle(i: number) {
  const next = new Set(p.chosen)
  if (!next.delete(i)) next.add(i)
  emit('choose', next)
}
/** All that are listed, or none of them. */
function toggleListed() {
  const next = new Set(p.chosen)
  const all = rows.value.every(r => next.has(r.index))
  for (const { index } of rows.value) {
    if (all) next.delete(index)
    else next.add(index)
  }
  emit('choose', next)
}
const facts = (e: BookEntry) => [e.kind, e.key, e.metre].filter(Boolean).join(', ')
const done = computed(() => p.looked.size)
</script>

<template>
  <div class="book">
    <div class="line">
      <v-text-field v-model="search" label="Find in this book" data-test="find-in-book" />
      <button type="button" class="link" data-test="toggle-listed" @click="toggleListed">
        {{ rows.every(r => chosen.has(r.index)) ? 'none' : 'all' }} of
        {{ rows.length === entries.length ? 'them' : `these ${rows.length}` }}
      </button>
      <span data-test="book-chosen">{{ chosen.size }} of {{ entries.length }} chosen</span>
    </div>
    <div class="line" role="status" data-test="looked-over">
      <template v-if="looking">
        <v-progress-linear
          :model-value="(done / entries.length) * 100"
          color="primary"
          height="8"
          aria-label="Looking the tunes over"
        />
        <span class="count">{{ done }} looked over</span>
        <button type="button" class="link" data-test="stop-looking" @click="emit('stop')">stop</button>
      </template>
      <template v-else-if="done < entries.length">
        <span>{{ done === 0 ? 'None' : done }} looked over yet.</span>
        <button type="button" class="link" data-test="look-over" @click="emit('look')">
          look over {{ done === 0 ? 'all' : 'the rest' }}: what is wrong, and what is on the shelf already
        </button>
      </template>
      <span v-else>All looked over; what is on the shelf already is not selected.</span>
    </div>
    <v-virtual-scroll :items="rows" height="300" item-height="36" class="rows" data-test="book-rows">
      <template #default="{ item }">
        <label class="row">
          <input
            type="checkbox"
            :checked="chosen.has(item.index)"
            :aria-label="`Take ${item.entry.title}`"
            @change="toggle(item.index)"
          />
          <b>{{ item.entry.title || 'Untitled' }}</b>
          <span class="quiet">{{ facts(item.entry) }}</span>
          <span class="quiet said">
            <template v-if="looked.get(item.index)?.measures === 0">no notes</template>
            <template v-else>{{ looked.get(item.index)?.said }}</template>
            <template v-if="looked.get(item.index)?.like">
              like “{{ looked.get(item.index)!.like!.title }}” ({{
                Math.round(looked.get(item.index)!.like!.likeness * 100)
              }}%)</template
            >
          </span>
        </label>
      </template>
    </v-virtual-scroll>
  </div>
</template>

<style scoped>
.book {
  display: grid;
  gap: 8px;
}
.line {
  display: flex;
  align-items: center;
  gap: 14px;
  font-size: 14px;
}
.line .v-input {
  max-width: 260px;
}
.count {
  flex: none;
}
.rows {
  border-top: 1px solid var(--rule);
}
.row {
  display: grid;
  grid-template-columns: 22px minmax(0, 1.2fr) minmax(0, 0.8fr) minmax(0, 1.4fr);
  align-items: center;
  gap: 8px;
  height: 36px;
  border-bottom: 1px solid var(--rule);
  font-size: 14px;
}
.row > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row input {
  justify-self: start;
}
.said {
  font-size: 13px;
}
</style>
