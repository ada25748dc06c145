<script setup lang="ts">
/** All that hangs on the chosen note and its measure. */
import { computed, ref } from 'vue'
import { remarked } from '#core/arrangement/corrections'
import { findEvent } from '#core/music/edit/edited'
import { layWords, setChord, setDynamic, setGrace, setRemarks } from '#core/music/edit/marks'
import {
  rebar,
  removeMeasure,
  setKeyFrom,
  setMeasure,
  setMetreFrom,
  setRepeatTimes,
  setWaySigns,
  waySignsOf,
  type WaySign,
} from '#core/music/edit/measures'
import { writtenLength } from '#core/music/edit/lengths'
import { valueName } from '#core/music/valueName'
import { keyName, keyOfSignature, MODES, type Mode } from '#core/music/key'
import { metreName, parseMetre } from '#core/music/metre'
import { formatPitch, parsePitch, type Pitch } from '#core/music/pitch'
import { placeMeasures } from '#core/music/timeline'
import { MARKS, type Dynamic } from '#core/music/tune'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useEntry } from '../stores/entry'
import { MARK_NAMES } from '#core/words/marks'
import { capital, measureText } from '#core/words/places'
import ReadField from './ReadField.vue'

const docs = useDocuments()
const part = usePart()
const entry = useEntry()
const tune = computed(() => docs.documents!.tune)
const found = computed(() => findEvent(tune.value, part.caret))
const note = computed(() => (found.value?.event.kind === 'note' ? found.value.event : null))
const placed = computed(() => (found.value ? placeMeasures(tune.value)[found.value.at]! : null))
const words = ref('')
const left = ref('')

const DYNAMICS: readonly Dynamic[] = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff']
const dynamics = [{ value: '', title: 'none' }, ...DYNAMICS.map(d => ({ value: d, title: d }))]

/** Grace notes as one types them: "E5 F#5". */
function readGraces(text: string) {
  const read = text.split(/\s+/).filter(Boolean).map(parsePitch)
  return read.every((p): p is Pitch => p !== null) ? read : null
}
function lay() {
  const done = layWords(tune.value, part.caret!, 0, words.value)
  left.value = done.left.join(' ')
  entry.apply({ tune: done.tune, chosen: part.caret })
}
const keep = (edited: { tune: typeof tune.value }, group: string | null = null) =>
  entry.apply({ tune: edited.tune, chosen: part.caret }, group)
const measure = computed(() => found.value!.measure)
const at = computed(() => found.value!.at)
const keys = computed(() => {
  const mode: Mode = placed.value?.key.mode ?? MODES[0]
  return Array.from({ length: 13 }, (_, i) => keyOfSignature(i - 6, mode)).map(k => ({
    value: keyName(k),
    title: keyName(k),
    key: k,
  }))
})
function setKey(name: string) {
  keep(setKeyFrom(tune.value, at.value, keys.value.find(k => k.value === name)!.key))
}
const remark = (text: string) => part.editTaught(remarked(part.taught!, measure.value.id, text))
function setEndings(text: string) {
  const endings = text
    .split(/[,\s]+/)
    .map(Number)
    .filter(n => Number.isInteger(n) && n >= 1 && n <= 20)
  keep(setMeasure(tune.value, at.value, { endings: endings.length > 0 ? endings : undefined }))
}
const bars = [
  { value: 'none', title: 'plain' },
  { value: 'double', title: 'double' },
  { value: 'final', title: 'final' },
]
const SIGNS = [
  { value: 'segno', title: 'segno' },
  { value: 'coda', title: 'coda begins' },
  { value: 'fine', title: 'fine' },
  { value: 'toCoda', title: 'to the coda' },
  { value: 'dc', title: 'da capo' },
  { value: 'ds', title: 'dal segno' },
] as const satisfies readonly { value: WaySign; title: string }[]
const times = [2, 3, 4, 5, 6, 7, 8, 9].map(value => ({ value, title: `${value} times` }))
const flag = (on: boolean | null) => (on ? true : undefined)
</script>

<template>
  <p v-if="!found" class="quiet">
    Choose a note in the score: what hangs on it and on its measure is set here.
  </p>
  <div v-else class="note" data-test="note-panel">
    <h2>
      {{ note ? note.heads.map(h => formatPitch(h.pitch)).join(' + ') : 'rest' }},
      {{ measureText(placed!.number) }}, {{ valueName(writtenLength(found.event)) }}
    </h2>
    <template v-if="note">
      <div class="chips" role="group" aria-label="Marks">
        <button
          v-for="m in MARKS"
          :key="m"
          :class="{ on: note.marks?.includes(m) }"
          :aria-pressed="note.marks?.includes(m) ?? false"
          @click="entry.mark(m)"
        >
          {{ MARK_NAMES[m] }}
        </button>
        <button
          :class="{ on: note.optional }"
          :aria-pressed="note.optional ?? false"
          @click="entry.optional()"
        >
          may be left out
        </button>
      </div>
      <div class="row">
        <v-select
          :model-value="note.dynamic ?? ''"
          :items="dynamics"
          label="Dynamic"
          @update:model-value="
            d => keep(setDynamic(tune, [part.caret!], (d || undefined) as Dynamic | undefined))
          "
        />
        <ReadField
          :text="(note.grace ?? []).map(formatPitch).join(' ')"
          label="Grace notes (E5 F#5)"
          test="grace"
          :read="readGraces"
          problem="notes with their octave: E5 F#5"
          @read="notes => entry.apply(setGrace(tune, part.caret!, notes))"
        />
      </div>
      <div class="row">
        <v-text-field
          v-model="words"
          label="Words from here on"
          hint="syl-la-bles; * skips a note"
          data-test="words"
          @keydown.enter="lay"
        />
        <v-btn variant="outlined" size="small" data-test="lay-words" @click="lay">Lay them</v-btn>
      </div>
      <p v-if="left" role="status">No notes were left for: {{ left }}</p>
    </template>
    <div class="row">
      <v-text-field
        :model-value="found.event.chord ?? ''"
        label="Chord"
        data-test="chord"
        @update:model-value="t => keep(setChord(tune, part.caret!, t), 'chord')"
      />
      <v-textarea
        :model-value="(found.event.remarks ?? []).join('\n')"
        label="Remarks and cues, one a line"
        rows="1"
        auto-grow
        @change="(e: Event) => keep(setRemarks(tune, part.caret!, (e.target as HTMLTextAreaElement).value))"
      />
    </div>
    <h2>{{ capital(measureText(placed!.number)) }}</h2>
    <v-text-field
      :model-value="part.taught?.remarks[measure.id] ?? ''"
      label="Remark on this measure"
      data-test="measure-remark"
      @change="(e: Event) => remark((e.target as HTMLInputElement).value)"
    />
    <div class="row">
      <v-switch
        :model-value="measure.repeatStart ?? false"
        label="repeat begins"
        @update:model-value="v => keep(setMeasure(tune, at, { repeatStart: flag(v) }))"
      />
      <v-switch
        :model-value="measure.repeatEnd ?? false"
        label="repeat ends"
        @update:model-value="v => keep(setMeasure(tune, at, { repeatEnd: flag(v), repeatTimes: undefined }))"
      />
      <v-select
        v-if="measure.repeatEnd"
        :model-value="measure.repeatTimes ?? 2"
        :items="times"
        label="Played"
        data-test="repeat-times"
        @update:model-value="n => keep(setRepeatTimes(tune, at, n))"
      />
    </div>
    <div class="row">
      <v-select
        :model-value="measure.barline ?? 'none'"
        :items="bars"
        label="Bar line after it"
        @update:model-value="
          v => keep(setMeasure(tune, at, { barline: v === 'none' ? undefined : (v as 'double') }))
        "
      />
      <v-text-field
        :model-value="measure.endings?.join(', ') ?? ''"
        label="Ending"
        @change="(e: Event) => setEndings((e.target as HTMLInputElement).value)"
      />
      <v-select
        :model-value="waySignsOf(measure)"
        :items="SIGNS"
        label="Jumps"
        multiple
        data-test="jumps"
        @update:model-value="signs => keep(setWaySigns(tune, at, signs))"
      />
      <v-text-field
        :model-value="measure.label ?? ''"
        label="Part"
        @update:model-value="t => keep(setMeasure(tune, at, { label: t.slice(0, 40) || undefined }), 'label')"
      />
    </div>
    <div class="row">
      <v-select
        :model-value="keyName(placed!.key)"
        :items="keys"
        label="Key from here"
        @update:model-value="setKey"
      />
      <ReadField
        :text="metreName(placed!.metre)"
        label="Metre from here"
        test="metre-from"
        :read="parseMetre"
        problem="3/4, 6/8 or 2+2+3/8"
        @read="metre => keep(setMetreFrom(tune, at, metre))"
      />
    </div>
    <div class="row">
      <v-btn variant="outlined" size="small" data-test="rebar" @click="keep(rebar(tune, at))"
        >Rebar from here</v-btn
      >
      <v-btn variant="outlined" size="small" @click="entry.apply(removeMeasure(tune, at))"
        >Delete measure</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.note h2 {
  font-size: 15px;
  margin: 4px 0 8px;
}
.note h2:not(:first-child) {
  margin-top: 18px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-bottom: 10px;
}
.chips button {
  border: 1px solid var(--rule);
  border-radius: 12px;
  padding: 2px 10px;
  font: inherit;
  font-size: 13px;
  color: inherit;
  background: rgb(var(--v-theme-surface));
}
.chips button.on {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 45%, rgb(var(--v-theme-surface)));
  font-weight: 700;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 10px;
}
.row > * {
  flex: 1;
}
.row > .v-btn {
  flex: none;
}
.row:last-child {
  flex-wrap: wrap;
}
</style>
