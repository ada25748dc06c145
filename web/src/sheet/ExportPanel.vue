<script setup lang="ts">
/** The sheet as a file, or on paper. A protected tune asks first. */
import { mdiFilePdfBox, mdiPrinterOutline } from '@mdi/js'
import { computed, ref } from 'vue'
import { saveFile } from '../files/saveFile'
import { useBench } from '../stores/bench'
import { useSheet } from '../stores/sheet'

const bench = useBench()
const store = useSheet()
const problem = ref('')
const busy = ref(false)
const progress = ref<{ done: number; of: number } | null>(null)
let stopped = false
/** What waits for a yes: the rights of the tune are not ours to give. */
const waiting = ref<(() => Promise<void>) | null>(null)
const isProtected = computed(() => bench.documents!.tune.rights === 'protected')

function ask(work: () => Promise<void>) {
  if (isProtected.value) waiting.value = work
  else void run(work)
}
async function run(work: () => Promise<void>) {
  waiting.value = null
  busy.value = true
  problem.value = ''
  try {
    await work()
  } catch (e) {
    problem.value = `The file could not be made: ${e instanceof Error ? e.message : String(e)}`
  } finally {
    busy.value = false
    progress.value = null
  }
}
const name = () => store.fileName(bench.recipe!, bench.result!.tune.title)
const svgs = () => store.pages.map(p => p.svg)

const pdf = async () => {
  const { makePdf } = await import('./pdf')
  saveFile(`${name()}.pdf`, await makePdf(svgs(), store.recipe.paper, store.about(bench.recipe!)))
}
async function pictures(kind: 'svg' | 'png') {
  const { pageSvg, pagePng } = await import('./pictures')
  for (const [i, svg] of svgs().entries()) {
    const own = `${name()}${svgs().length > 1 ? `-${i + 1}` : ''}.${kind}`
    saveFile(own, kind === 'svg' ? await pageSvg(svg) : await pagePng(svg))
  }
}
async function zip() {
  stopped = false
  const blob = await store.allAsZip((done, of) => (progress.value = { done, of }), () => stopped) // prettier-ignore
  if (blob) saveFile(`${name().split('-').slice(0, 3).join('-')}-all.zip`, blob)
}
const print = () => Promise.resolve(window.print())
</script>

<template>
  <section aria-label="Take it away" class="export">
    <div class="buttons">
      <v-btn
        variant="flat"
        color="primary"
        :prepend-icon="mdiFilePdfBox"
        :loading="busy && !progress"
        data-test="pdf"
        @click="ask(pdf)"
        >PDF</v-btn
      >
      <v-btn variant="outlined" :prepend-icon="mdiPrinterOutline" data-test="print" @click="ask(print)"
        >Print</v-btn
      >
    </div>
    <p class="more">
      <button type="button" class="link" data-test="as-svg" @click="ask(() => pictures('svg'))">SVG</button>
      <button type="button" class="link" data-test="as-png" @click="ask(() => pictures('png'))">PNG</button>
      <button
        v-if="bench.arrangements.length > 1 && !progress"
        type="button"
        class="link"
        data-test="as-zip"
        @click="ask(zip)"
      >
        all {{ bench.arrangements.length }} arrangements as one zip
      </button>
      <template v-if="progress">
        <progress :value="progress.done" :max="progress.of" aria-label="Sheets made" />
        <button type="button" class="link" @click="stopped = true">stop</button>
      </template>
    </p>
    <p v-if="isProtected && !waiting" role="note" data-test="protected">
      This tune is protected: share the sheet only as far as its rights allow.
    </p>
    <p v-if="waiting" role="alert">
      This tune is protected. Make the file only if its rights allow it.
      <v-btn size="small" variant="flat" color="primary" data-test="export-sure" @click="run(waiting!)"
        >They do</v-btn
      >
      <v-btn size="small" variant="text" @click="waiting = null">Leave it</v-btn>
    </p>
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
  </section>
  <!-- prettier-ignore -->
</template>

<style scoped>
.export {
  display: grid;
  gap: 6px;
  font-size: 14px;
}
.buttons {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 0;
}
p {
  margin: 0;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
