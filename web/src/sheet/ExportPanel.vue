<script setup lang="ts">
/** The sheet as a file, or on paper. A protected tune asks first. */
import { mdiAccountGroupOutline, mdiFilePdfBox, mdiPrinterOutline } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { saveFile } from '../files/saveFile'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useSheet } from '../stores/sheet'
import ExportState from './ExportState.vue'
import { useExport } from '../paper/useExport'

const LevelNote = defineAsyncComponent(() => import('../bench/LevelNote.vue'))
const SheetSetDialog = defineAsyncComponent(() => import('./SheetSetDialog.vue'))
const forMany = ref(false)
const docs = useDocuments()
const part = usePart()
const store = useSheet()
const isProtected = computed(() => docs.documents!.tune.rights === 'protected')
const work = useExport(() => isProtected.value)
const { busy, progress, waiting, ask, told } = work
const name = () => store.nameOf(part.recipe)
const svgs = () => store.pages.map(p => p.svg)

const pdf = async () => {
  const { makePdf } = await import('../paper/pdf')
  saveFile(`${name()}.pdf`, await makePdf(svgs(), store.recipe.paper, store.about(part.recipe)))
}
async function pictures(kind: 'svg' | 'png') {
  const { pageSvg, pagePng } = await import('../paper/pictures')
  for (const [i, svg] of svgs().entries()) {
    const own = `${name()}${svgs().length > 1 ? `-${i + 1}` : ''}.${kind}`
    saveFile(own, kind === 'svg' ? await pageSvg(svg) : await pagePng(svg))
  }
}
async function zip() {
  saveFile(`${name().split('-').slice(0, 3).join('-')}-all.zip`, await store.allAsZip(told))
}
const print = () => Promise.resolve(window.print())
</script>

<template>
  <section aria-label="Export" class="export">
    <LevelNote v-if="part.recipe.played.level !== null" />
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
    <v-btn
      variant="outlined"
      :prepend-icon="mdiAccountGroupOutline"
      data-test="for-many"
      @click="forMany = true"
      >Versions and sheets for …</v-btn
    >
    <v-dialog v-model="forMany" max-width="760" scrollable aria-label="Versions and sheets for">
      <SheetSetDialog v-if="forMany" @close="forMany = false" />
    </v-dialog>
    <p class="more">
      <button type="button" class="link" data-test="as-svg" @click="ask(() => pictures('svg'))">SVG</button>
      <button type="button" class="link" data-test="as-png" @click="ask(() => pictures('png'))">PNG</button>
      <button
        v-if="docs.arrangements.length > 1 && !progress"
        type="button"
        class="link"
        data-test="as-zip"
        @click="ask(zip)"
      >
        all {{ docs.arrangements.length }} arrangements as one zip
      </button>
    </p>
    <p v-if="isProtected && !waiting" role="note" data-test="protected">
      This tune is protected: share the sheet only as far as its rights allow.
    </p>
    <ExportState :of="work" said="This tune is protected." />
  </section>
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
</style>
