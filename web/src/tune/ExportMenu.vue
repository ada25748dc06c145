<script setup lang="ts">
/** The tune in other formats: as it stands, or as this arrangement with its fingers and bows. */
import { mdiContentCopy, mdiDownload } from '@mdi/js'
import { ref } from 'vue'
import { sentence } from '#core/words/findings'
import type { WritableFormat } from '#core/formats/fileKinds'
import { saveFile } from '../files/saveFile'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { writeBackup } from '#core/formats/backup/backup'
import type { Finding } from '#core/findings/finding'
import { fileOf } from '../worker/client'

const docs = useDocuments()
const part = usePart()
const asArranged = ref(true)
const told = ref<readonly string[]>([])
const FORMATS: readonly (readonly [WritableFormat, string])[] = [
  ['musicxml', 'MusicXML'],
  ['mxl', 'MusicXML, packed'],
  ['abc', 'ABC'],
  ['mid', 'MIDI'],
  ['txt', 'Strings and fingers'],
  ['nokta.json', 'Nokta, with all arrangements'],
]

/** Everything of it: the text as typed, and every arrangement. */
function wholeTune() {
  const { tune, source } = docs.documents!
  const arrangements = docs.arrangements.map(({ id, arrangement }) => ({ id, arrangement }))
  const content = writeBackup([{ id: docs.tuneId!, source, tune, arrangements }])
  return { content, mime: 'application/json', findings: [] as readonly Finding[] }
}

async function save(format: WritableFormat) {
  try {
    const { tune } = docs.documents!
    const played = asArranged.value || format === 'txt'
    const made =
      format === 'nokta.json' ? wholeTune() : await fileOf(part.asked, format, played ? 'played' : 'written')
    saveFile(
      `${tune.title || 'tune'}.${format}`,
      new Blob([made.content as string | Uint8Array<ArrayBuffer>], { type: made.mime }),
    )
    told.value = made.findings.map(sentence)
  } catch (e) {
    told.value = [`The file could not be made: ${e instanceof Error ? e.message : String(e)}`]
  }
}

async function copy() {
  try {
    const { content } = await fileOf(part.asked, 'abc', asArranged.value ? 'played' : 'written')
    await navigator.clipboard.writeText(String(content))
    told.value = ['The tune is copied: paste it wherever you like.']
  } catch (e) {
    told.value = [`It could not be copied: ${e instanceof Error ? e.message : String(e)}`]
  }
}
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: menu }">
      <v-btn
        v-bind="menu"
        :icon="mdiDownload"
        size="small"
        class="export"
        aria-label="Save as a file"
        title="Save as a file"
        data-test="export"
      />
    </template>
    <v-card class="card stack">
      <p v-if="docs.documents!.tune.rights === 'protected'" role="note" data-test="protected">
        This tune is protected: share the file only as far as its rights allow.
      </p>
      <v-switch v-model="asArranged" label="as arranged here, with fingers and bows" />
      <v-btn
        v-for="[format, name] in FORMATS"
        :key="format"
        variant="outlined"
        size="small"
        :data-test="`save-${format}`"
        @click="save(format)"
        >{{ name }}</v-btn
      >
      <v-btn variant="text" size="small" :prepend-icon="mdiContentCopy" data-test="copy-abc" @click="copy"
        >Copy it as ABC</v-btn
      >
      <ul v-if="told.length" class="told" data-test="export-note">
        <li v-for="t in told" :key="t">{{ t }}</li>
      </ul>
    </v-card>
  </v-menu>
</template>

<style scoped>
.export {
  margin-left: auto;
}
.card {
  padding: 14px 18px;
  gap: 8px;
  width: 320px;
}
.told {
  padding-left: 18px;
  font-size: 13px;
}
</style>
