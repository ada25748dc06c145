<script setup lang="ts">
import { mdiArchiveArrowDownOutline, mdiPlus } from '@mdi/js'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { emptyTune, type Tune } from '#core/music/tune'
import type { TuneListItem } from '#contract/api'
import { useShelf } from '../stores/shelf'
import AddTune from './AddTune.vue'

const shelf = useShelf()
const router = useRouter()
const adding = ref(false)
const dropped = ref<{ name: string; text: string } | null>(null)
const sought = ref('')
const away = ref<{ id: string; title: string } | null>(null)
const problem = ref('')

onMounted(() => shelf.load())

const shown = computed(() => {
  const words = sought.value.toLowerCase().split(/\s+/).filter(Boolean)
  const matches = (t: TuneListItem) =>
    words.every(w => `${t.title} ${t.kind} ${keyName(t.key)}`.toLowerCase().includes(w))
  return shelf.tunes.filter(matches)
})

async function attempt(work: () => Promise<unknown>) {
  try {
    await work()
    problem.value = ''
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}

const startEmpty = () =>
  attempt(async () => {
    const id = await shelf.add(emptyTune('New tune'), 'X:1\nT:New tune\nM:4/4\nL:1/8\nK:D\n')
    await router.push(`/tunes/${id}/tune`)
  })

const take = (tunes: readonly { tune: Tune; source: string }[]) =>
  attempt(async () => {
    const ids: string[] = []
    for (const t of tunes) ids.push(await shelf.add(t.tune, t.source))
    adding.value = false
    if (ids.length === 1) await router.push(`/tunes/${ids[0]}/tune`)
    else await shelf.load()
  })

const putAway = (t: TuneListItem) =>
  attempt(async () => {
    await shelf.putAway(t.id)
    away.value = { id: t.id, title: t.title }
  })

const bringBack = (id: string) =>
  attempt(async () => {
    await shelf.bringBack(id)
    away.value = null
  })

async function onDrop(event: DragEvent) {
  const file = event.dataTransfer?.files[0]
  const text = file ? await file.text() : event.dataTransfer?.getData('text/plain')
  if (!text) return
  dropped.value = { name: file?.name ?? 'dropped text', text }
  adding.value = true
}

function paste() {
  dropped.value = null
  adding.value = true
}
</script>

<template>
  <section class="shelf" @dragover.prevent @drop.prevent="onDrop">
    <div class="head">
      <h1>Shelf</h1>
      <v-text-field v-model="sought" class="search" label="Find a tune" clearable data-test="search" />
      <v-btn variant="flat" color="primary" :prepend-icon="mdiPlus" data-test="add" @click="paste"
        >Add a tune</v-btn
      >
      <v-btn variant="outlined" data-test="empty" @click="startEmpty">Start with an empty page</v-btn>
    </div>

    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <v-progress-linear
      v-if="shelf.state === 'loading'"
      indeterminate
      color="primary"
      aria-label="Loading the shelf"
    />
    <div v-else-if="shelf.state === 'failed'" class="empty" role="alert">
      <h2>The shelf can’t be read</h2>
      <p>{{ shelf.problem }}</p>
      <v-btn variant="outlined" @click="shelf.load()">Try again</v-btn>
    </div>
    <div v-else-if="shelf.tunes.length === 0" class="empty">
      <h2>No tune yet</h2>
      <p>Paste a tune in ABC, drop a file anywhere on this page, or start with an empty page and type.</p>
    </div>
    <p v-else-if="shown.length === 0" class="empty">No tune matches “{{ sought }}”.</p>
    <table v-else class="plain tunes">
      <thead>
        <tr>
          <th>Title</th>
          <th>Kind</th>
          <th>Key</th>
          <th>Metre</th>
          <th class="number">Measures</th>
          <th>Arranged for</th>
          <th>Changed</th>
          <th><span class="sr">Put away</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="t in shown" :key="t.id" data-test="tune-row">
          <td>
            <router-link :to="`/tunes/${t.id}/tune`">{{ t.title || 'Untitled' }}</router-link>
          </td>
          <td>{{ t.kind }}</td>
          <td>{{ keyName(t.key) }}</td>
          <td>{{ metreName(t.metre) }}</td>
          <td class="number">{{ t.measures }}</td>
          <td>{{ t.instruments.join(', ') }}</td>
          <td class="quiet">{{ new Date(t.updatedAt).toLocaleDateString() }}</td>
          <td class="number">
            <v-btn
              :icon="mdiArchiveArrowDownOutline"
              size="x-small"
              :aria-label="`Put ${t.title} away`"
              @click="putAway(t)"
            />
          </td>
        </tr>
      </tbody>
    </table>

    <v-dialog v-model="adding" max-width="760">
      <AddTune v-if="adding" :given="dropped" @take="take" @close="adding = false" />
    </v-dialog>
    <v-snackbar
      :model-value="away !== null"
      :timeout="12000"
      location="bottom start"
      @update:model-value="away = null"
    >
      “{{ away?.title }}” was put away.
      <template #actions>
        <v-btn color="secondary" data-test="undo-away" @click="bringBack(away!.id)">Undo</v-btn>
      </template>
    </v-snackbar>
  </section>
</template>

<style scoped>
.shelf {
  max-width: 1180px;
  margin: 0 auto;
  padding: 26px 28px 60px;
  min-height: calc(100vh - 46px);
}
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 18px;
}
.head h1 {
  font-size: 26px;
  margin-right: auto;
}
.search {
  max-width: 280px;
}
.tunes td {
  padding-top: 9px;
  padding-bottom: 9px;
}
.tunes a {
  color: rgb(var(--v-theme-primary));
  font-weight: 700;
  font-size: 16px;
  text-decoration: none;
}
.tunes a:hover {
  text-decoration: underline;
}
.empty {
  margin-top: 60px;
  text-align: center;
}
.problem {
  color: rgb(var(--v-theme-error));
}
.sr {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
</style>
