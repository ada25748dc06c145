<script setup lang="ts">
/** What can be done with the tunes that are ticked on the shelf. */
import { computed, onMounted } from 'vue'
import { useRouter } from 'vue-router'
import { hasRoomFor, MOST_BOOKLETS, MOST_TUNES } from '#core/styles/booklet'
import { saveFile } from '../files/saveFile'
import { useExport } from '../paper/useExport'
import { useBooklets } from '../stores/booklets'
import { useStudio } from '../stores/studio'
import { counted } from '#core/counts'

const p = defineProps<{ chosen: readonly string[] }>()
const emit = defineEmits<{ away: []; none: [] }>()
const booklets = useBooklets()
const studio = useStudio()
const router = useRouter()
onMounted(() => studio.load())
/** Why no new booklet can be made of them. */
const hindered = computed(() => {
  if (booklets.full) return `A studio keeps ${MOST_BOOKLETS} booklets.`
  return hasRoomFor({ tunes: [] }, p.chosen) ? '' : `A booklet holds ${MOST_TUNES} tunes.`
})
const work = useExport(() => false)
async function asBook() {
  const { abcBookOf } = await import('./shelfFiles')
  saveFile('tunes.abc', await abcBookOf(p.chosen, studio.context, work.told))
}
const toNew = async () => router.push(`/booklets/${await booklets.make(p.chosen)}`)
async function addTo(id: string) {
  await booklets.add(id, p.chosen)
  await router.push(`/booklets/${id}`)
}
</script>

<template>
  <div class="bar" role="region" aria-label="Selected tunes" data-test="chosen-bar">
    <b>{{ counted(chosen.length, 'tune') }}</b>
    <v-btn
      size="small"
      variant="flat"
      color="primary"
      data-test="to-booklet"
      :disabled="hindered !== ''"
      @click="toNew"
      >A new booklet of {{ chosen.length === 1 ? 'it' : 'them' }}</v-btn
    >
    <v-menu v-if="booklets.list.length">
      <template #activator="{ props }">
        <v-btn size="small" variant="outlined" v-bind="props">Add to a booklet</v-btn>
      </template>
      <v-list density="compact">
        <v-list-item
          v-for="b in booklets.list"
          :key="b.id"
          :title="b.title || 'Booklet without a title'"
          :disabled="!hasRoomFor(b, chosen)"
          :subtitle="hasRoomFor(b, chosen) ? undefined : `No room: it would be more than ${MOST_TUNES} tunes`"
          @click="addTo(b.id)"
        />
      </v-list>
    </v-menu>
    <v-btn
      size="small"
      variant="outlined"
      :loading="work.busy.value"
      data-test="chosen-abc"
      @click="work.run(asBook)"
      >As one ABC book</v-btn
    >
    <span v-if="work.problem.value" role="alert">{{ work.problem.value }}</span>
    <span v-if="hindered" role="note" data-test="hindered">{{ hindered }}</span>
    <v-btn size="small" variant="outlined" data-test="chosen-away" @click="emit('away')">Archive</v-btn>
    <v-btn size="small" variant="text" @click="emit('none')">Clear selection</v-btn>
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: 0;
  z-index: 5;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 14px;
  border-top: 2px solid rgb(var(--v-theme-primary));
  background: rgb(var(--v-theme-surface));
}
</style>
