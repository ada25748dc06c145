<script setup lang="ts">
import { mdiArchiveArrowDownOutline, mdiArrowDown, mdiArrowUp, mdiPlus } from '@mdi/js'
import { useAttempt } from '../stores/attempt'
import { useEventListener, useIntersectionObserver } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { emptyTune } from '#core/music/tune'
import type { TuneListItem } from '#contract/documents'
import { typing } from '../keyboard/typing'
import { BACKUP_PATH } from '#contract/api'
import { saveFile } from '../files/saveFile'
import { useIntake } from '../stores/intake'
import { useShelf, type Sort } from '../stores/shelf'
import ShelfFilters from './ShelfFilters.vue'
import ShelfUndo from './ShelfUndo.vue'
import { useShelfAddress } from './shelfAddress'
import { TRY_TUNE } from './tryTune'
import { useWithinReach } from './withinReach'

const AlikeTunes = defineAsyncComponent(() => import('./AlikeTunes.vue'))
const ChosenBar = defineAsyncComponent(() => import('./ChosenBar.vue'))
const PutAway = defineAsyncComponent(() => import('./PutAway.vue'))

const shelf = useShelf()
const intake = useIntake()
const router = useRouter()
const comparing = ref(false)
const looking = ref(false)
/** What was put away last, to undo it. */
const away = ref<{ ids: readonly string[]; title: string } | null>(null)
const { problem, attempt } = useAttempt()
/** Ids of tunes, in the order they were ticked. */
const ticked = ref<readonly string[]>([])
const tick = (id: string) =>
  (ticked.value = ticked.value.includes(id) ? ticked.value.filter(t => t !== id) : [...ticked.value, id])

useShelfAddress(shelf)
const searchBox = ref<HTMLElement | null>(null)
useEventListener(window, 'keydown', event => {
  if (event.key !== '/' || typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  searchBox.value?.querySelector('input')?.focus()
})
onMounted(() => shelf.load())
const { forId, people, learner, listed, teaches, reach } = useWithinReach(attempt)

const COLUMNS: readonly (readonly [Sort | null, string, string?])[] = [
  ['title', 'Title'],
  ['kind', 'Kind'],
  ['key', 'Key'],
  [null, 'Metre'],
  ['measures', 'Measures', 'number'],
  [null, 'Arranged for'],
  [null, 'Tags'],
  ['changed', 'Changed'],
]
const end = ref<HTMLElement | null>(null)
useIntersectionObserver(end, ([entry]) => {
  if (entry?.isIntersecting && shelf.tunes.length < shelf.total) void shelf.load(true)
})

const startEmpty = () =>
  attempt(async () => {
    const id = await shelf.add(emptyTune('New tune'), 'X:1\nT:New tune\nM:4/4\nL:1/8\nK:D\n')
    intake.begun = id
    await router.push(`/tunes/${id}/tune`)
  })

const asTable = () =>
  attempt(async () => {
    const { shelfTable } = await import('./shelfFiles')
    saveFile('shelf.csv', await shelfTable())
  })

const putAway = (ids: readonly string[], title: string) =>
  attempt(async () => {
    intake.takenIn = []
    await shelf.putAway(ids)
    ticked.value = ticked.value.filter(t => !ids.includes(t))
    away.value = { ids, title }
  })

const bringBack = (ids: readonly string[]) =>
  attempt(async () => {
    await shelf.bringBack(ids)
    away.value = null
  })

const title = (t: TuneListItem) => t.title || 'Untitled'
const lookedThrough = computed(() => (reach.progress ? `, ${reach.progress.done} looked through` : ''))
</script>

<template>
  <section class="shelf">
    <div class="head">
      <h1>Shelf</h1>
      <button class="link" data-test="put-away" @click="looking = true">archived tunes</button>
      <div ref="searchBox" class="search">
        <v-text-field
          v-model="shelf.search"
          label="Find a tune ( / )"
          clearable
          data-test="search"
          @click:clear="shelf.search = ''"
        />
      </div>
      <v-btn variant="flat" color="primary" :prepend-icon="mdiPlus" data-test="add" @click="intake.begin()"
        >Add tunes</v-btn
      >
      <v-btn variant="outlined" data-test="empty" @click="startEmpty">Start with an empty page</v-btn>
    </div>
    <p class="quiet purpose">
      Put a tune here and open it: Nokta proposes its phrases, fingers and bows for your pupils, makes easier
      versions, and prints the sheets. Paste or drop a tune anywhere.
    </p>
    <div v-if="shelf.shelf > 0" class="filters" role="group" aria-label="Filters">
      <ShelfFilters />
      <v-select
        v-if="people.length"
        v-model="forId"
        :items="people"
        label="Within reach of"
        clearable
        data-test="within-reach"
      />
      <span class="found" role="status" data-test="found">{{
        learner
          ? `${listed.length} of ${shelf.tunes.length}${lookedThrough}`
          : shelf.filtered
            ? `${shelf.total} of ${shelf.shelf}`
            : `${shelf.shelf} tunes`
      }}</span>
      <button v-if="shelf.filtered" class="link" @click="shelf.showAll">show all</button>
      <button class="link" data-test="alike" @click="comparing = true">tunes that sound alike</button>
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
    <div v-else-if="shelf.shelf === 0" class="empty">
      <h2>No tune yet</h2>
      <p>Drop a file anywhere on this page, paste a tune, or start with an empty page and write.</p>
      <v-btn variant="flat" color="primary" data-test="try" @click="intake.begin({ text: TRY_TUNE })"
        >Try it with a march</v-btn
      >
    </div>
    <p v-else-if="shelf.tunes.length === 0" class="empty">No tune matches what you are looking for.</p>
    <table v-else class="plain tunes">
      <thead>
        <tr>
          <th><span class="sr">Select</span></th>
          <th
            v-for="[by, name, look] in COLUMNS"
            :key="name"
            :class="look"
            :aria-sort="by === shelf.sort ? (shelf.order === 'up' ? 'ascending' : 'descending') : undefined"
          >
            <button v-if="by" class="sort" :data-test="`sort-${by}`" @click="shelf.sortBy(by)">
              {{ name
              }}<v-icon
                v-if="by === shelf.sort"
                :icon="shelf.order === 'up' ? mdiArrowUp : mdiArrowDown"
                size="14"
              />
            </button>
            <template v-else>{{ name }}</template>
          </th>
          <th><span class="sr">Archive</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="t in listed" :key="t.id" data-test="tune-row">
          <td>
            <input
              type="checkbox"
              :checked="ticked.includes(t.id)"
              :aria-label="`Select ${title(t)}`"
              data-test="tick"
              @change="tick(t.id)"
            />
          </td>
          <td>
            <router-link :to="`/tunes/${t.id}/tune`">{{ title(t) }}</router-link>
            <small v-if="t.otherTitles.length" class="quiet"> also {{ t.otherTitles.join(', ') }}</small>
            <small v-if="teaches(t)" class="quiet" data-test="teaches"> new: {{ teaches(t) }}</small>
          </td>
          <td>{{ t.kind }}</td>
          <td>{{ keyName(t.key) }}</td>
          <td>{{ metreName(t.metre) }}</td>
          <td class="number">{{ t.measures }}</td>
          <td>{{ t.instruments.join(', ') }}</td>
          <td>{{ t.tags.join(', ') }}</td>
          <td class="quiet">{{ new Date(t.updatedAt).toLocaleDateString() }}</td>
          <td class="number">
            <v-btn
              :icon="mdiArchiveArrowDownOutline"
              size="x-small"
              :aria-label="`Archive ${t.title}`"
              :title="`Archive ${t.title}`"
              @click="putAway([t.id], `“${t.title}”`)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <div ref="end" class="end" aria-hidden="true" />
    <ChosenBar
      v-if="ticked.length"
      :chosen="ticked"
      @away="putAway(ticked, ticked.length === 1 ? 'One tune' : `${ticked.length} tunes`)"
      @none="ticked = []"
    />
    <p class="foot">
      <button type="button" class="link" data-test="as-csv" @click="asTable">
        The shelf as a table (CSV)
      </button>
      <a :href="BACKUP_PATH" download="nokta-backup.json" data-test="backup">A backup of everything</a>
      <span class="quiet">(add it like a file to read it in again)</span>
      <router-link to="/about" data-test="about">About Nokta, and what ships with it</router-link>
    </p>

    <v-dialog v-model="looking" max-width="620" scrollable>
      <PutAway v-if="looking" @close="looking = false" />
    </v-dialog>
    <v-dialog v-model="comparing" max-width="760" scrollable>
      <AlikeTunes v-if="comparing" @away="t => putAway([t.id], `“${t.title}”`)" @close="comparing = false" />
    </v-dialog>
    <ShelfUndo
      :away="away"
      :taken-in="intake.takenIn"
      @bring-back="bringBack(away!.ids)"
      @put-back="putAway(intake.takenIn, `${intake.takenIn.length} tunes`)"
      @seen="what => (what === 'away' ? (away = null) : (intake.takenIn = []))"
    />
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
}
.head .link {
  margin-right: auto;
  padding-top: 6px;
}
.purpose {
  margin: -8px 0 14px;
  max-width: 78ch;
}
.search {
  flex: 0 1 280px;
}
.filters {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 10px;
  margin-bottom: 14px;
}
.filters > :deep(.v-input) {
  flex: 0 1 132px;
  min-width: 104px;
}
.found {
  margin-left: auto;
  color: var(--faint);
}
.link,
.sort {
  font: inherit;
  background: none;
  color: rgb(var(--v-theme-primary));
}
.sort {
  color: inherit;
  display: inline-flex;
  align-items: center;
  gap: 3px;
}
.end {
  height: 1px;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  margin-top: 28px;
  font-size: 13px;
}
.foot a,
.foot .link {
  color: var(--faint);
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
