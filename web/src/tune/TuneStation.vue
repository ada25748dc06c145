<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Finding } from '#core/findings/finding'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import FindingList from '../bench/FindingList.vue'
import Score from '../engraving/Score.vue'
import { useBench } from '../stores/bench'
import SourcePane from './SourcePane.vue'

const bench = useBench()
const pane = ref<InstanceType<typeof SourcePane> | null>(null)
const written = ref('')

/** A tune that came without text gets it written. */
watch(
  () => bench.documents?.source,
  async source => {
    if (source === null && written.value === '') written.value = await bench.writeSource()
  },
  { immediate: true },
)
const text = computed(() => bench.documents?.source ?? written.value)
const findings = computed(() => bench.reading?.findings ?? [])
const fingerFindings = computed(() => (bench.result?.findings ?? []).filter(f => f.severity === 'error'))
const tune = computed(() => bench.documents!.tune)
const facts = computed(() => [
  ['Kind', tune.value.kind || '–'],
  ['Key', keyName(tune.value.key)],
  ['Metre', metreName(tune.value.metre)],
  ['Measures', String(tune.value.measures.length)],
  ['Composer', tune.value.composer || '–'],
  ['Learned from', tune.value.learnedFrom || '–'],
  ...(tune.value.notes ? [['Notes', tune.value.notes]] : []),
])

function go(f: Finding) {
  if (f.where.line !== undefined) pane.value?.goTo(f.where.line, f.where.column ?? 1)
  bench.goTo(f)
}

/** The note at the cursor is chosen in the score. */
function atCursor(offset: number) {
  const span = bench.reading?.spans.find(([, from, to]) => offset >= from && offset <= to)
  const note = span && bench.notes.find(n => n.event === span[0])
  if (note && note.id !== bench.selected) bench.select(note.id)
}
</script>

<template>
  <div class="tune">
    <section class="score-side" aria-label="Score" tabindex="0">
      <Score :marks="{ fingers: false, bows: false, positions: false }" />
    </section>
    <section class="source-side" aria-label="Source and facts" tabindex="0">
      <h2>Source</h2>
      <SourcePane ref="pane" :text="text" :findings="findings" @typed="bench.typed" @cursor="atCursor" />
      <h2>Problems</h2>
      <FindingList
        v-if="findings.length + fingerFindings.length"
        :findings="[...findings, ...fingerFindings]"
        class="problems"
        @go="go"
      />
      <p v-else class="quiet" data-test="no-problems">None found.</p>
      <h2>Facts</h2>
      <table class="plain facts">
        <tbody>
          <tr v-for="[name, value] in facts" :key="name">
            <th>{{ name }}</th>
            <td>{{ value }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.tune {
  display: grid;
  grid-template-columns: minmax(0, 1.55fr) minmax(320px, 1fr);
  grid-template-rows: minmax(0, 1fr);
  gap: 20px;
  padding-left: 4px;
}
.score-side,
.source-side {
  overflow-y: auto;
  padding: 14px 0 40px;
}
.source-side {
  padding-right: 18px;
}
h2 {
  font-size: 15px;
  margin: 14px 0 6px;
}
h2:first-child {
  margin-top: 0;
}
.facts th {
  width: 104px;
}
.problems {
  max-height: 220px;
  overflow: auto;
}
</style>
