<script setup lang="ts">
/**
 * The tunes of the booklet in their order: which arrangement of each, where it stands, what is gone; and more
 * of them from the shelf.
 */
import { mdiArrowDown, mdiArrowUp, mdiClose, mdiContentDuplicate } from '@mdi/js'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { again, MOST_TUNES, moved, withTunes } from '#core/styles/booklet'
import { api } from '../api/client'
import { useBooklets } from '../stores/booklets'

const store = useBooklets()
const choose = (place: number, arrangement: string) =>
  store.replace(b => ({ ...b, tunes: b.tunes.map((t, i) => (i === place ? { ...t, arrangement } : t)) }))
const leaveOut = (place: number) =>
  store.replace(b => ({ ...b, tunes: b.tunes.filter((_, i) => i !== place) }))
const arrangements = (i: number) =>
  store.tunes[i]?.documents?.arrangements.map(a => ({
    value: a.id,
    title: a.arrangement.name || a.arrangement.played.instrument,
  })) ?? []
const onceMore = (place: number) =>
  store.replace(b =>
    again(
      b,
      place,
      arrangements(place).map(a => a.value),
    ),
  )
/** A tune keeps its row, and the focus in it, when it moves; of one that stands there twice, each. */
const keys = computed(() => {
  const list = store.tunes.map(t => t.tune)
  return list.map((t, i) => `${t} ${list.slice(0, i).filter(o => o === t).length}`)
})
const chosen = (i: number) => store.booklet!.tunes[i]!.arrangement ?? arrangements(i)[0]?.value

const wanted = ref('')
const settled = refDebounced(wanted, 200)
const found = ref<readonly { value: string; title: string }[]>([])
const picked = ref<string | null>(null)
const problem = ref('')
watch(
  settled,
  async search => {
    try {
      const { tunes } = await api.shelf({ search: search.trim() || undefined, limit: 12 })
      const there = new Set(store.booklet?.tunes.map(t => t.tune))
      found.value = tunes
        .filter(t => !there.has(t.id))
        .map(t => ({ value: t.id, title: t.title || 'Untitled' }))
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    }
  },
  { immediate: true },
)
async function take(tune: string | null) {
  if (tune) await store.replace(b => withTunes(b, [tune]))
  picked.value = null
  wanted.value = ''
  found.value = found.value.filter(f => f.value !== tune)
}
</script>

<template>
  <ol class="tunes" aria-label="Tunes in their order">
    <li v-for="(t, i) in store.tunes" :key="keys[i]" data-test="booklet-tune">
      <span class="name">
        <router-link v-if="t.documents" :to="`/tunes/${t.tune}/sheet`">{{
          t.documents.tune.title || 'Untitled'
        }}</router-link>
        <span v-else class="quiet">{{ store.progress ? '…' : 'not on the shelf any more' }}</span>
        <small v-if="t.page" class="quiet">page {{ t.page }}</small>
      </span>
      <span class="tools">
        <v-btn
          :icon="mdiArrowUp"
          size="x-small"
          variant="text"
          :disabled="i === 0"
          :aria-label="`Up: ${t.documents?.tune.title}`"
          :title="`Up: ${t.documents?.tune.title}`"
          data-test="tune-up"
          @click="store.replace(b => moved(b, i, -1))"
        />
        <v-btn
          :icon="mdiArrowDown"
          size="x-small"
          variant="text"
          :disabled="i === store.tunes.length - 1"
          :aria-label="`Down: ${t.documents?.tune.title}`"
          :title="`Down: ${t.documents?.tune.title}`"
          data-test="tune-down"
          @click="store.replace(b => moved(b, i, 1))"
        />
        <v-btn
          v-if="arrangements(i).length > 1"
          :icon="mdiContentDuplicate"
          size="x-small"
          variant="text"
          :disabled="store.tunes.length >= MOST_TUNES"
          :aria-label="`Once more in another arrangement: ${t.documents?.tune.title}`"
          title="Once more in another arrangement"
          data-test="tune-again"
          @click="onceMore(i)"
        />
        <v-btn
          :icon="mdiClose"
          size="x-small"
          variant="text"
          :aria-label="`Leave out: ${t.documents?.tune.title}`"
          :title="`Leave out: ${t.documents?.tune.title}`"
          data-test="tune-out"
          @click="leaveOut(i)"
        />
      </span>
      <v-select
        v-if="arrangements(i).length > 1"
        :model-value="chosen(i)"
        :items="arrangements(i)"
        class="which"
        :aria-label="`Arrangement of ${t.documents?.tune.title}`"
        data-test="booklet-arrangement"
        @update:model-value="v => choose(i, v!)"
      />
    </li>
  </ol>
  <v-autocomplete
    v-model="picked"
    v-model:search="wanted"
    :items="found"
    no-filter
    label="Add a tune"
    no-data-text="No other tune matches."
    data-test="booklet-add"
    @update:model-value="take"
  />
  <p v-if="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.tunes {
  list-style-position: inside;
  padding: 0;
  margin: 0;
  counter-reset: tune;
}
.tunes li {
  list-style: none;
  counter-increment: tune;
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto;
  align-items: center;
  gap: 0 6px;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
.tunes li::before {
  content: counter(tune);
  color: var(--faint);
  font-variant-numeric: tabular-nums;
}
.name {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 8px;
}
.name a {
  color: inherit;
  font-weight: 700;
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name small {
  flex: none;
}
.which {
  grid-column: 2 / 4;
  margin-top: 2px;
}
</style>
