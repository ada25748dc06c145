<script setup lang="ts">
/** Versions and sheets for everybody who plays the tune: instruments at levels, or learners. */
import { computed, onMounted, ref } from 'vue'
import { counted } from '#core/counts'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { LEVELS, type Level } from '#core/levels/levels'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { saveFile } from '../files/saveFile'
import { fileName } from '../paper/draw'
import { useExport } from '../paper/useExport'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useSheet } from '../stores/sheet'
import { useStudio } from '../stores/studio'
import ExportState from './ExportState.vue'
import { sheetsFor, versionsFor, type SetChoices, type SheetFor } from './sheetSet'

const emit = defineEmits<{ close: [] }>()
const docs = useDocuments()
const part = usePart()
const store = useSheet()
const studio = useStudio()
onMounted(() => studio.load())

const whom = ref<'levels' | 'learners'>('levels')
const instruments = ref<InstrumentId[]>([part.recipe.played.instrument])
const levels = ref<(Level | null)[]>([1, 2, 3])
const learners = ref<string[]>([])
const key = ref<SetChoices['key']>('common')
const tempo = ref<SetChoices['tempo']>('common')
const style = ref(part.recipe.shown.sheet.style || store.styles[0]!.sheet.style)
const keep = ref(true)

const list = computed<SheetFor[]>(() =>
  whom.value === 'learners'
    ? studio.studio.learners
        .filter(l => learners.value.includes(l.id))
        .map(learner => ({ kind: 'learner', learner }))
    : INSTRUMENT_IDS.filter(i => instruments.value.includes(i)).flatMap(instrument =>
        [null, ...LEVELS]
          .filter(l => levels.value.includes(l))
          .map(level => ({ kind: 'level' as const, instrument, level })),
      ),
)
const work = useExport(() => docs.documents!.tune.rights === 'protected')

async function make() {
  const { tune } = docs.documents!
  const sources = { tune, context: studio.context, tableOf: studio.tableOf }
  const of = 2 * list.value.length
  const chosen = store.styles.find(s => s.sheet.style === style.value)!
  const choices = { key: key.value, tempo: tempo.value, style: chosen }
  const made = await versionsFor(list.value, choices, sources, done => work.told(done, of))
  const zip = await sheetsFor(made, sources, studio.studio, done => work.told(of / 2 + done, of))
  saveFile(`${fileName(tune.title || 'tune', 'sheets')}.zip`, zip)
  if (keep.value) docs.takeArrangements(made)
  emit('close')
}
</script>

<template>
  <v-card class="set" data-test="sheet-set">
    <h2>Versions and sheets for …</h2>
    <fieldset v-if="studio.studio.learners.length" class="row">
      <legend class="sr">For whom</legend>
      <label><input v-model="whom" type="radio" value="levels" /> instruments and levels</label>
      <label><input v-model="whom" type="radio" value="learners" data-test="for-learners" /> learners</label>
    </fieldset>
    <template v-if="whom === 'levels'">
      <fieldset class="row">
        <legend>Instruments</legend>
        <label v-for="i in INSTRUMENT_IDS" :key="i"
          ><input v-model="instruments" type="checkbox" :value="i" :data-test="`set-${i}`" />
          {{ INSTRUMENTS[i].name }}</label
        >
      </fieldset>
      <fieldset class="row">
        <legend>Levels</legend>
        <label
          ><input v-model="levels" type="checkbox" :value="null" data-test="set-written" /> as written</label
        >
        <label v-for="l in LEVELS" :key="l"
          ><input v-model="levels" type="checkbox" :value="l" :data-test="`set-level-${l}`" /> {{ l }}</label
        >
      </fieldset>
    </template>
    <fieldset v-else class="row">
      <legend>Learners</legend>
      <label v-for="l in studio.studio.learners" :key="l.id"
        ><input v-model="learners" type="checkbox" :value="l.id" data-test="set-learner" /> {{ l.name }}
        <small class="quiet">{{ INSTRUMENTS[l.instrument].name }}, level {{ l.level }}</small></label
      >
    </fieldset>
    <div class="pair">
      <v-select
        v-model="key"
        label="Key"
        :items="[
          { value: 'common', title: 'one key for all of them' },
          { value: 'each', title: 'each in its best key' },
        ]"
      />
      <v-select
        v-model="tempo"
        label="Tempo"
        :items="[
          { value: 'common', title: 'one tempo for all of them' },
          { value: 'each', title: 'each at its own tempo' },
        ]"
      />
      <v-select v-model="style" label="Style" :items="store.styles.map(s => s.sheet.style)" />
    </div>
    <label class="row"
      ><input v-model="keep" type="checkbox" data-test="set-keep" /> Keep the versions as arrangements of this
      tune</label
    >
    <p v-if="list.length > 0" class="quiet names">Each sheet is a PDF; all of them come in one zip.</p>
    <ExportState :of="work" said="This tune is protected." />
    <div class="actions">
      <v-btn @click="emit('close')">Cancel</v-btn>
      <v-btn
        variant="flat"
        color="primary"
        :disabled="list.length === 0"
        :loading="work.busy.value"
        data-test="set-make"
        @click="work.ask(make)"
      >
        Make {{ counted(list.length, 'sheet') }}
      </v-btn>
    </div>
  </v-card>
</template>

<style scoped>
.set {
  padding: 22px 24px;
  display: grid;
  gap: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 18px;
  border: 0;
  padding: 0;
  margin: 0;
}
.row legend {
  float: left;
  font-weight: 700;
  min-width: 96px;
}
.row label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
}
.pair {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px;
}
.names {
  margin: 0;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
}
.sr {
  position: absolute;
  clip-path: inset(50%);
}
</style>
