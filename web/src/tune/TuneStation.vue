<script setup lang="ts">
import { eventOf } from '#core/music/ids'
import { computed, defineAsyncComponent, onMounted, onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { Finding } from '#core/findings/finding'
import { compareTunes, type Comparison } from '#core/music/compareTunes'
import type { Tune } from '#core/music/tune'
import { writeOutRepeats } from '#core/music/unfold'
import { api } from '../api/client'
import TabRow from '../bench/TabRow.vue'
import FindingList from '../bench/FindingList.vue'
import BenchScore from '../bench/BenchScore.vue'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useSource } from '../stores/source'
import { useEntry } from '../stores/entry'
import { derivedOf, latestLane } from '../worker/client'
import type { DerivedView } from '#core/desk/views'
import ComparisonTable from './ComparisonTable.vue'
import EntryBar from './EntryBar.vue'
import ExportMenu from './ExportMenu.vue'

const docs = useDocuments()
const part = usePart()
const source = useSource()
const entry = useEntry()
const SourcePane = defineAsyncComponent(() => import('./SourcePane.vue'))
const pane = ref<{ goTo(line: number, column: number): void } | null>(null)
const written = ref('')

const PANES = {
  source: { name: 'ABC', view: null },
  spoken: { name: 'Strings and fingers', view: defineAsyncComponent(() => import('./SpokenPane.vue')) },
  note: { name: 'Note', view: defineAsyncComponent(() => import('./NotePanel.vue')) },
  watch: { name: 'Watch out for', view: defineAsyncComponent(() => import('./WatchPanel.vue')) },
  facts: { name: 'Facts', view: defineAsyncComponent(() => import('./FactsPanel.vue')) },
  versions: { name: 'History', view: defineAsyncComponent(() => import('./VersionsPanel.vue')) },
}
type Pane = keyof typeof PANES
const TABS = (Object.keys(PANES) as Pane[]).map(value => ({ value, name: PANES[value].name }))
const open = ref<Pane>('source')
const TapBoard = defineAsyncComponent(() => import('./TapBoard.vue'))
const board = ref(false)

onScopeDispose(source.follow())

/** A tune that came without text gets it written. */
watch(
  () => docs.documents?.source,
  async text => {
    if (text === null && written.value === '') written.value = await source.write()
  },
  { immediate: true },
)
const text = computed(() => docs.documents?.source ?? written.value)
/** Nothing is missing of a page nobody has written on. */
const untouched = computed(() => docs.documents?.tune.measures.length === 0 && !docs.canUndo)
const findings = computed(() =>
  (source.reading?.findings ?? []).filter(f => !untouched.value || f.code !== 'abc.noNotes'),
)
const fingerFindings = computed(() => (part.result?.findings ?? []).filter(f => f.severity === 'error'))
/** Notes with a problem, for the score. */
const wrong = computed(() =>
  [...findings.value, ...fingerFindings.value]
    .filter(f => f.severity !== 'note')
    .flatMap(f => (f.where.note === undefined ? eventAt(f) : eventOf(f.where.note))),
)
function eventAt(f: Finding): string[] {
  const { line, column } = f.where
  if (line === undefined) return []
  const offset =
    text.value
      .split('\n')
      .slice(0, line - 1)
      .join('\n').length +
    (line > 1 ? 1 : 0) +
    (column ?? 1) -
    1
  const after = source.reading?.spans.find(([, , to]) => to >= offset)
  return after ? [after[0]] : []
}
const repeats = computed(() => docs.documents!.tune.measures.some(m => m.repeatEnd || m.endings))
const moved = computed(() => entry.shift.semitones !== 0)

function go(f: Finding) {
  if (f.where.line !== undefined && open.value === 'source')
    pane.value?.goTo(f.where.line, f.where.column ?? 1)
  part.goTo(f)
}

/** The note at the cursor is chosen in the score. */
function atCursor(offset: number) {
  const span = source.reading?.spans.find(([, from, to]) => offset >= from && offset <= to)
  if (span && span[0] !== part.caret) part.selectEvent(span[0])
}

/** The tune as it is played, repeats written out: to look at, not to write in. */
const unfolded = ref(false)
const played = shallowRef<DerivedView | null>(null)
const unfolding = latestLane(
  (tune: Tune) => derivedOf({ ...part.asked, tune }),
  r => (played.value = unfolded.value ? r : null),
  () => (played.value = null),
)
watch([unfolded, () => part.result], ([on]) => {
  if (on) unfolding.ask(writeOutRepeats(docs.documents!.tune).tune)
  else played.value = null
})

const beside = ref<{ title: string; comparison: Comparison } | null>(null)
async function compare(id: string, title: string) {
  const other = await api.tune(id)
  beside.value = { title, comparison: compareTunes(docs.documents!.tune, other.tune) }
}
// A new tune is written at once.
onMounted(() => {
  if (docs.documents?.tune.measures.length === 0) entry.writing = true
})
</script>

<template>
  <div class="tune">
    <div class="left">
      <EntryBar />
      <section class="score-side" aria-label="Score" tabindex="0">
        <p v-if="moved" class="quiet moved">
          The score shows this arrangement in its own key and octave; what you write is read as you see it.
        </p>
        <BenchScore
          :marks="{ fingers: false, bows: false, positions: false }"
          :problems="wrong"
          :shown="played"
        />
      </section>
      <div class="under">
        <div class="folds">
          <button class="fold" :aria-expanded="board" data-test="board" @click="board = !board">
            {{ board ? 'Put the fingerboard away' : 'Write on a fingerboard' }}
          </button>
          <button
            v-if="repeats"
            class="fold"
            :aria-pressed="unfolded"
            data-test="unfolded"
            @click="unfolded = !unfolded"
          >
            {{ unfolded ? 'Fold the repeats again' : 'Look at it as it is played' }}
          </button>
        </div>
        <TapBoard v-if="board && part.result" />
      </div>
    </div>
    <section class="right" aria-label="Source and facts">
      <div class="top">
        <TabRow v-model="open" :tabs="TABS" name="pane" address class="tabs" />
        <ExportMenu />
      </div>
      <div class="pane" role="tabpanel" tabindex="0">
        <SourcePane
          v-if="open === 'source'"
          ref="pane"
          :text="text"
          :findings="findings"
          kind="abc"
          @typed="source.typed"
          @cursor="atCursor"
        />
        <component :is="PANES[open].view" v-else @compare="compare" />
        <div v-if="beside" class="beside">
          <h2>This tune and “{{ beside.title }}”</h2>
          <ComparisonTable :comparison="beside.comparison" was="this one" is="the other" />
          <v-btn size="small" @click="beside = null">Close</v-btn>
        </div>
        <template v-if="open === 'source' || open === 'spoken'">
          <h2>Problems</h2>
          <FindingList
            v-if="findings.length + fingerFindings.length"
            :findings="[...findings, ...fingerFindings]"
            class="problems"
            @go="go"
          />
          <p v-else class="quiet" data-test="no-problems">None found.</p>
        </template>
      </div>
    </section>
  </div>
</template>

<style scoped>
.tune {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(390px, 1fr);
  grid-template-rows: minmax(0, 1fr);
  gap: 20px;
  padding-left: 4px;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.score-side {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding-bottom: 24px;
}
.moved {
  margin: 0 0 8px;
  font-size: 13px;
}
.under {
  flex: none;
}
.folds {
  display: flex;
  border-top: 1px solid var(--rule);
}
.fold {
  flex: 1;
  padding: 5px;
  font: inherit;
  font-size: 13px;
  color: rgb(var(--v-theme-primary));
  background: none;
}
.right {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding-right: 14px;
}
.top {
  display: flex;
  align-items: center;
  padding-top: 8px;
  border-bottom: 1px solid var(--rule);
}
.tabs {
  flex: 1;
  min-width: 0;
  border: 0;
  column-gap: clamp(8px, 1.1vw, 14px);
}
.pane {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 12px 2px 40px;
}
h2 {
  font-size: 15px;
  margin: 14px 0 6px;
}
.problems {
  max-height: 220px;
  overflow: auto;
}
.beside {
  border: 1px solid var(--rule);
  border-radius: 4px;
  padding: 2px 12px 12px;
  margin-top: 12px;
}
</style>
