<script setup lang="ts">
/** The booklet as one PDF or on paper; its sheets one by one in a zip. Protected tunes ask first. */
import { mdiFilePdfBox, mdiPrinterOutline } from '@mdi/js'
import { computed, ref } from 'vue'
import { STYLES } from '#core/styles/sheetRecipe'
import { saveFile } from '../files/saveFile'
import { fileName, zipOf } from '../paper/draw'
import ExportState from '../sheet/ExportState.vue'
import { useExport } from '../paper/useExport'
import { useBooklets } from '../stores/booklets'
import { useStudio } from '../stores/studio'
import { counted } from '#core/counts'

const store = useBooklets()
const studio = useStudio()
const work = useExport(() => store.anyProtected)
const { busy, ask, told } = work
const all = ref(false)
const chosen = ref<string[]>([])
const styles = computed(() => [...STYLES, ...studio.studio.styles])
const sheets = computed(() =>
  store.sheetsOf(
    all.value,
    styles.value.filter(s => chosen.value.includes(s.sheet.style)),
  ),
)
const name = () => fileName(store.booklet!.title || 'booklet')

const pdf = async () => {
  const { makePdf } = await import('../paper/pdf')
  const { paper, title } = store.booklet!
  const svgs = store.pages.map(p => p.svg)
  saveFile(`${name()}.pdf`, await makePdf(svgs, paper, { title: title || 'Booklet', author: '' }, told))
}
const zip = async () => saveFile(`${name()}-sheets.zip`, await zipOf(sheets.value, told))
const print = () => Promise.resolve(window.print())
</script>

<template>
  <section aria-label="Export" class="export">
    <div class="buttons">
      <v-btn
        variant="flat"
        color="primary"
        :prepend-icon="mdiFilePdfBox"
        :disabled="busy || store.pages.length === 0 || store.progress !== null"
        data-test="booklet-pdf"
        @click="ask(pdf)"
        >PDF</v-btn
      >
      <v-btn
        variant="outlined"
        :prepend-icon="mdiPrinterOutline"
        :disabled="store.pages.length === 0"
        @click="ask(print)"
        >Print</v-btn
      >
    </div>
    <details>
      <summary>Sheet by sheet, in one zip</summary>
      <label class="tick"
        ><input v-model="all" type="checkbox" data-test="zip-all" /> every arrangement of these tunes</label
      >
      <fieldset>
        <legend>In the styles (none: as the booklet has it)</legend>
        <label v-for="s in styles" :key="s.sheet.style" class="tick"
          ><input v-model="chosen" type="checkbox" :value="s.sheet.style" /> {{ s.sheet.style }}</label
        >
      </fieldset>
      <v-btn
        variant="outlined"
        size="small"
        :disabled="busy || sheets.length === 0"
        data-test="booklet-zip"
        @click="ask(zip)"
        >Zip of {{ counted(sheets.length, 'sheet') }}</v-btn
      >
    </details>
    <ExportState :of="work" said="One of these tunes is protected." />
  </section>
</template>

<style scoped>
.export {
  display: grid;
  gap: 8px;
  font-size: 14px;
}
.buttons {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
details > * {
  margin-top: 6px;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
fieldset {
  border: 0;
  padding: 0;
}
legend {
  color: var(--faint);
}
</style>
