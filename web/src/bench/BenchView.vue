<script setup lang="ts">
import { useEventListener, useTitle } from '@vueuse/core'
import {
  mdiArrowLeft,
  mdiArrowRight,
  mdiFileDocumentOutline,
  mdiHandBackLeftOutline,
  mdiKeyboardOutline,
  mdiMusicNoteOutline,
  mdiRedo,
  mdiStairs,
  mdiSwapVertical,
  mdiUndo,
  mdiViewGridOutline,
} from '@mdi/js'
import { onUnmounted, computed, defineAsyncComponent, ref, watch, type Component } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { pageTitle, STATIONS, type Station } from '../address/stations'
import PlayBar from './PlayBar.vue'
import { useDocuments } from '../stores/documents'
import { useParts } from '../stores/parts'
import { useIntake } from '../stores/intake'
import { useShelf } from '../stores/shelf'
import { useStudio } from '../stores/studio'
import { useTaste } from '../stores/taste'
import { useEntry } from '../stores/entry'
import { usePlayer } from '../stores/player'
import ArrangementLine from './ArrangementLine.vue'
import FormRibbon from './FormRibbon.vue'
import { typing } from '../keyboard/typing'
import { runKey, runPlayKey, runWriteKey, undoesInList } from './keys'
import SaveMark from './SaveMark.vue'
import TitleField from './TitleField.vue'
import { useBenchAddress } from './useBenchAddress'

const props = defineProps<{ id: string; station: Station }>()
onUnmounted(useTaste().follow())
const docs = useDocuments()
const shelf = useShelf()
const intake = useIntake()
const part = useParts().inUse
const studio = useStudio()
const entry = useEntry()
const player = usePlayer()
const { stationAt } = useBenchAddress(docs, part)
const help = ref(false)
const KeysHelp = defineAsyncComponent(() => import('./KeysHelp.vue'))
const NextLine = defineAsyncComponent(() => import('./NextLine.vue'))
const UndoNote = defineAsyncComponent(() => import('./UndoNote.vue'))
const NoticeBar = defineAsyncComponent(() => import('./NoticeBar.vue'))

const LOADERS = {
  tune: () => import('../tune/TuneStation.vue'),
  form: () => import('../form/FormStation.vue'),
  hand: () => import('../hand/HandStation.vue'),
  bow: () => import('../bow/BowStation.vue'),
  levels: () => import('../levels/LevelsStation.vue'),
  sheet: () => import('../sheet/SheetStation.vue'),
}
const VIEWS = Object.fromEntries(
  STATIONS.map(s => [s, defineAsyncComponent(LOADERS[s] as () => Promise<Component>)]),
) as Record<Station, Component>
// The station comes over the wire while the tune does.
void LOADERS[props.station]()
const ICONS = {
  tune: mdiMusicNoteOutline,
  form: mdiViewGridOutline,
  hand: mdiHandBackLeftOutline,
  bow: mdiSwapVertical,
  levels: mdiStairs,
  sheet: mdiFileDocumentOutline,
}
const NAMES = { tune: 'Tune', form: 'Form', hand: 'Hand', bow: 'Bow', levels: 'Levels', sheet: 'Sheet' }

useTitle(computed(() => pageTitle(docs.documents?.tune.title ?? '', NAMES[props.station])))

watch(
  () => props.id,
  id => {
    void docs.open(id)
    void studio.load()
  },
  { immediate: true },
)
onBeforeRouteLeave(() => {
  player.stop()
  if (docs.saveState !== 'saved') void docs.save()
  // Begun as an empty page, and nobody wrote a thing.
  if (intake.begun === docs.tuneId && !docs.canUndo && !docs.canRedo)
    return shelf.throwAway(docs.tuneId).catch(() => {})
})

useEventListener(window, 'keydown', event => {
  if (help.value || (typing(event.target) && !undoesInList(event))) return
  const writing = entry.writing && props.station === 'tune'
  if (event.key === '?') help.value = true
  else if (runPlayKey(player, event)) void 0
  else if (writing && runWriteKey({ docs, part }, entry, event)) void 0
  else if (props.station === 'tune' && event.key === 'w') entry.writing = true
  else if (!runKey({ docs, part }, event)) return
  event.preventDefault()
})
useEventListener(window, 'pagehide', () => {
  docs.keepOverReload()
  void docs.save()
})
</script>

<template>
  <Teleport to="#bench-title">
    <div v-if="docs.loading === 'ready'" class="title">
      <TitleField />
      <SaveMark />
      <v-btn
        :icon="mdiUndo"
        size="small"
        :disabled="!docs.canUndo"
        aria-label="Undo"
        title="Undo"
        data-test="undo"
        @click="docs.undo()"
      />
      <v-btn
        :icon="mdiRedo"
        size="small"
        :disabled="!docs.canRedo"
        aria-label="Redo"
        title="Redo"
        data-test="redo"
        @click="docs.redo()"
      />
      <v-btn
        :icon="mdiArrowLeft"
        size="small"
        aria-label="Note before"
        title="Note before"
        @click="part.walk(-1)"
      />
      <v-btn
        :icon="mdiArrowRight"
        size="small"
        aria-label="Next note"
        title="Next note"
        @click="part.walk(1)"
      />
      <PlayBar v-if="part.recipe" />
      <v-btn
        :icon="mdiKeyboardOutline"
        size="small"
        aria-label="Keyboard shortcuts"
        title="Keyboard shortcuts"
        @click="help = true"
      />
    </div>
  </Teleport>
  <div class="bench">
    <nav class="rail no-print" aria-label="Stations">
      <router-link
        v-for="s in STATIONS"
        :key="s"
        :to="stationAt(`/tunes/${id}/${s}`)"
        class="station"
        :class="{ here: s === station }"
        :aria-current="s === station ? 'page' : undefined"
        :data-test="`station-${s}`"
      >
        <v-icon :icon="ICONS[s]" size="22" />
        {{ NAMES[s] }}
      </router-link>
    </nav>
    <div class="work">
      <p v-if="docs.loading === 'loading'" class="opening quiet" role="status">Opening the tune…</p>
      <div v-else-if="docs.loading === 'failed'" class="failed" role="alert">
        <h2>The tune can’t be opened</h2>
        <p>{{ docs.problem }}</p>
        <v-btn variant="outlined" @click="docs.open(id)">Try again</v-btn>
        <v-btn to="/">Back to the shelf</v-btn>
      </div>
      <template v-else-if="docs.documents && part.recipe">
        <div class="no-print above">
          <ArrangementLine />
          <NextLine v-if="intake.fresh?.id === docs.tuneId" />
          <FormRibbon />
          <p v-if="part.problem" class="problem" role="alert">{{ part.problem }}</p>
        </div>
        <component :is="VIEWS[station]" />
      </template>
    </div>
    <KeysHelp v-if="help" @close="help = false" />
    <NoticeBar v-if="docs.notice" />
    <UndoNote v-else-if="docs.stepped" />
  </div>
</template>

<style scoped>
.bench {
  display: flex;
}
.rail {
  display: flex;
  flex-direction: column;
  gap: 2px;
  width: 78px;
  flex: none;
  padding: 12px 8px;
  height: calc(100vh - 46px);
}
.station {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 3px;
  padding: 9px 4px 7px;
  border-radius: 4px;
  color: inherit;
  font-size: 13px;
  text-decoration: none;
}
.station:hover {
  background: rgb(var(--v-theme-surface-variant));
}
.station.here {
  background: rgb(var(--v-theme-primary));
  color: rgb(var(--v-theme-on-primary));
  font-weight: 700;
}
.work {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
  height: calc(100vh - 46px);
}
.work > :last-child {
  flex: 1;
  min-height: 0;
}
@media print {
  .work {
    display: block;
    height: auto;
  }
}
.above {
  border-bottom: 1px solid var(--rule);
}
.title {
  display: flex;
  align-items: center;
  gap: 6px;
}
.title .save {
  margin-right: auto;
}
.failed {
  max-width: 560px;
  margin: 80px auto;
  text-align: center;
}
.problem {
  color: rgb(var(--v-theme-error));
  padding: 0 4px 8px;
}
.opening {
  padding: 60px 0;
  text-align: center;
}
</style>
