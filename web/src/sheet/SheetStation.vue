<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { mdiFilePdfBox, mdiPrinterOutline } from '@mdi/js'
import { computed, nextTick, reactive, ref, shallowRef, watch } from 'vue'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { formatTuning } from '#core/instruments/tunings'
import { PAPERS, type Paper } from '#core/page/paper'
import FindingList from '../bench/FindingList.vue'
import type { Ossia } from '#core/fingering/ossia'
import { notate } from '#core/page/notation'
import { OSSIA_WORDS } from '#core/words/ways'
import { ALL_MARKS } from '../engraving/marks'
import { useBench } from '../stores/bench'
import { drawPages } from './pages'

const bench = useBench()
const recipe = computed(() => bench.recipe!)
const options = reactive({
  paper: useStorage<Paper>('nokta.paper', 'A4'),
  tab: true,
  marks: { ...ALL_MARKS },
})
const pages = shallowRef<readonly SVGSVGElement[]>([])
const problem = ref('')
const busy = ref(false)
const holders = ref<HTMLElement[]>([])

const cautions = computed(() =>
  (bench.result?.findings ?? []).filter(f => f.code.startsWith('tuning.') || f.severity === 'error'),
)

function draw() {
  if (!bench.result) return
  try {
    const { tune, shown, tab, tempo } = bench.result
    pages.value = drawPages({ notated: notate(shown ?? tune), tab }, tempo, {
      ...options,
      words: {
        arrangement: recipe.value.name,
        instrument: INSTRUMENTS[recipe.value.played.instrument].name,
        tuning: recipe.value.played.tuning && formatTuning(recipe.value.played.tuning),
      },
    })
    problem.value = ''
  } catch (e) {
    problem.value = `The sheet can’t be drawn: ${e instanceof Error ? e.message : e}`
  }
}
watch([() => bench.result, options], draw, { immediate: true })
watch(pages, async list => {
  await nextTick()
  list.forEach((svg, i) => holders.value[i]?.replaceChildren(svg))
}, { flush: 'post', immediate: true }) // prettier-ignore

const fileName = computed(
  () =>
    `${(bench.result?.tune.title || 'tune').replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-${recipe.value.played.instrument}.pdf`,
)

async function download() {
  busy.value = true
  problem.value = ''
  try {
    const { makePdf } = await import('./pdf')
    const blob = await makePdf(pages.value, options.paper, bench.result!.tune.title)
    const link = document.createElement('a')
    link.href = URL.createObjectURL(blob)
    link.download = fileName.value
    link.click()
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  } catch (e) {
    problem.value = `The PDF could not be made: ${e instanceof Error ? e.message : e}`
  } finally {
    busy.value = false
  }
}

const print = () => window.print()
const papers = Object.keys(PAPERS) as Paper[]
const strings = [
  { value: 'letters', title: 'letters' },
  { value: 'numbers', title: 'numbers, I the highest' },
]
/** For learners who cannot reach, or have not got, what the line asks for. */
const ossias = [{ value: 'none' as const, title: 'none' }, ...(Object.entries(OSSIA_WORDS) as [Ossia, string][]).map(([value, title]) => ({ value, title }))] // prettier-ignore
const pageSize = computed(
  () => `@page { size: ${options.paper === 'Letter' ? 'letter' : options.paper} portrait; margin: 0 }`,
)
</script>

<template>
  <div v-if="bench.result" class="sheet">
    <component :is="'style'">{{ pageSize }}</component>
    <section tabindex="0" class="pages" aria-label="The page as it prints" data-test="pages">
      <div v-for="(_, i) in pages" :key="i" ref="holders" class="paper" />
    </section>
    <aside tabindex="0" class="options no-print" aria-label="Options of the sheet">
      <div class="buttons">
        <v-btn
          variant="flat"
          color="primary"
          :prepend-icon="mdiFilePdfBox"
          :loading="busy"
          data-test="pdf"
          @click="download"
          >Download PDF</v-btn
        >
        <v-btn variant="outlined" :prepend-icon="mdiPrinterOutline" data-test="print" @click="print"
          >Print</v-btn
        >
      </div>
      <p v-if="bench.documents!.tune.rights === 'protected'" role="note" data-test="protected">
        This tune is protected: share the sheet only as far as its rights allow.
      </p>
      <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
      <v-select v-model="options.paper" :items="papers" label="Paper" data-test="paper" />
      <v-select
        :model-value="recipe.shown.strings"
        :items="strings"
        label="String names"
        @update:model-value="s => bench.editShown({ strings: s })"
      />
      <v-select
        :model-value="recipe.shown.ossia"
        :items="ossias"
        label="Another line beside it"
        class="ossia"
        data-test="ossia"
        @update:model-value="o => bench.editShown({ ossia: o })"
      />
      <v-switch v-model="options.tab" label="Tablature" data-test="tab-switch" />
      <v-switch v-model="options.marks.fingers" label="Fingers over the staff" />
      <v-switch v-model="options.marks.bows" label="Bow marks" />
      <v-switch v-model="options.marks.positions" label="Positions" />
      <v-switch
        v-model="options.marks.hand"
        label="Fingers that stay down or are put ready"
        data-test="hand-switch"
      />
      <v-switch v-model="options.marks.phrases" label="Phrase letters" />
      <v-switch v-model="options.marks.chords" label="Chords" />
      <v-switch v-model="options.marks.signs" label="Ornaments, dynamics, remarks" />
      <p class="quiet key">
        ‹2 low, towards the nut · 3› high, towards the bridge · x4 reached out of the closed hand
      </p>
      <FindingList v-if="cautions.length" :findings="cautions" @go="bench.goTo" />
    </aside>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 270px;
  grid-template-rows: minmax(0, 1fr);
  gap: 22px;
  padding-left: 4px;
}
.pages,
.options {
  overflow-y: auto;
  padding: 16px 0 40px;
}
.options {
  padding-right: 18px;
}
.pages {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 18px;
}
.paper {
  --page: #fff;
  color: #000;
  background: #fff;
  box-shadow: 0 1px 6px rgb(0 0 0 / 22%);
}
.paper :deep(svg) {
  display: block;
  max-width: 100%;
  height: auto;
}
.paper :deep(.knock-out) {
  fill: #fff;
}
.options {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.options > * {
  flex: none;
}
.buttons {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.key {
  font-size: 13px;
}
.problem {
  color: rgb(var(--v-theme-error));
}
@media print {
  .sheet {
    display: block;
    padding: 0;
  }
  .pages {
    display: block;
    padding: 0;
    overflow: visible;
  }
  .paper {
    box-shadow: none;
    break-after: page;
  }
}
</style>
