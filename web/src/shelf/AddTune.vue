<script setup lang="ts">
/**
 * Tunes from files or pasted text: what is in them is shown, looked over and chosen before anything is put on
 * the shelf.
 */
import { watchDebounced } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import { sentence } from '#core/words/findings'
import { READABLE, type FileKind } from '#core/formats/fileKinds'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { counted } from '#core/counts'
import FindingList from '../bench/FindingList.vue'
import { readFiles, type Given } from '../stores/intake'
import { useShelf } from '../stores/shelf'
import LongBook from './LongBook.vue'
import { useReading } from './useReading'

const props = defineProps<{ given: Given }>()
const emit = defineEmits<{ done: [ids: readonly string[], doubts: number]; close: [] }>()
const shelf = useShelf()
const {
  book,
  read,
  unread,
  chosen,
  alike,
  problem,
  reading,
  tunes,
  findings,
  choices,
  count,
  look,
  lookOver,
  toggle,
  toggleAll,
  parts,
} = useReading()

const text = ref(props.given.text)
const files = shallowRef(props.given.files)
const progress = ref<number | null>(null)
let stop = false

/** The text was changed since it was read: what stands below is not of it yet. */
const changed = ref(false)
watch(text, () => (changed.value = true), { flush: 'sync' })
function lookAgain(choice?: number) {
  changed.value = false
  if (files.value.length > 0) return look(files.value, choice)
  if (text.value.trim() === '') return look([])
  return look([{ name: 'pasted.abc', bytes: new TextEncoder().encode(text.value) }], choice)
}
watchDebounced(text, () => lookAgain(), { debounce: 150 })
if (files.value.length > 0 || text.value !== '') void lookAgain()

async function choose(event: Event) {
  const picked = (event.target as HTMLInputElement).files
  if (!picked?.length) return
  files.value = await readFiles(picked)
  await lookAgain()
}
const KINDS: Readonly<Record<FileKind, string>> = {
  abc: 'ABC',
  musicxml: 'MusicXML',
  mxl: 'packed MusicXML',
  midi: 'MIDI',
  spoken: 'strings and fingers',
  backup: 'a Nokta document',
}
const worst = (list: readonly { severity: string }[]) => list.filter(f => f.severity !== 'note').length

async function take() {
  stop = false
  progress.value = 0
  try {
    const ids = await shelf.addAll(
      parts(),
      n => (progress.value = n),
      () => stop,
    )
    emit('done', ids, tunes.value.length === 1 ? worst(findings.value) : 0)
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  } finally {
    progress.value = null
  }
}
</script>

<template>
  <v-card class="add" data-test="add-dialog">
    <h2>Add tunes</h2>
    <p class="quiet">
      Paste a tune in ABC, in strings and fingers, or as MusicXML; or choose one or several files ({{
        READABLE.join(', ')
      }}).
    </p>
    <label class="file">
      <input
        type="file"
        multiple
        aria-label="Files to read"
        :accept="READABLE.join(',')"
        data-test="file"
        @change="choose"
      />
      <span v-if="given.files.length && files === given.files" class="quiet">{{
        files.map(f => f.name).join(', ')
      }}</span>
      <span v-if="files.length && read?.kind" class="quiet"> {{ KINDS[read.kind] }}</span>
    </label>
    <v-textarea
      v-if="files.length === 0"
      v-model="text"
      autofocus
      label="Pasted text"
      rows="9"
      class="abc"
      data-test="paste"
      spellcheck="false"
    />
    <v-select
      v-if="choices.length > 1"
      :model-value="read?.taken"
      :items="choices"
      label="Which part, voice or track"
      data-test="choose-part"
      @update:model-value="lookAgain"
    />
    <v-progress-linear v-if="reading" indeterminate color="primary" aria-label="Reading" />
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <div v-if="tunes.length === 1" class="one">
      <b>{{ tunes[0]!.tune.title || 'Untitled' }}</b> · {{ keyName(tunes[0]!.tune.key) }} ·
      {{ metreName(tunes[0]!.tune.metre) }} · {{ counted(tunes[0]!.tune.measures.length, 'measure') }}
      <p v-if="alike[0]?.length" data-test="alike-on-shelf">
        Sounds like {{ alike[0].map(a => `“${a.title}” (${Math.round(a.likeness * 100)}%)`).join(', ') }},
        which is on the shelf.
      </p>
    </div>
    <LongBook
      v-else-if="book.entries.value"
      :entries="book.entries.value"
      :chosen="book.chosen.value"
      :looked="book.looked.value"
      :looking="book.looking.value"
      @choose="book.choose"
      @look="lookOver"
      @stop="book.stop"
    />
    <template v-else-if="tunes.length > 1">
      <p>
        <button class="link" @click="toggleAll">
          {{ count === tunes.length ? 'none of them' : 'all of them' }}
        </button>
        {{ count }} of {{ tunes.length }} chosen
      </p>
      <div class="report" data-test="report">
        <table class="plain">
          <tbody>
            <tr v-for="(t, i) in tunes" :key="i">
              <td>
                <input
                  type="checkbox"
                  :checked="chosen.has(i)"
                  :aria-label="`Take ${t.tune.title}`"
                  @change="toggle(i)"
                />
              </td>
              <td>
                <b>{{ t.tune.title || 'Untitled' }}</b>
              </td>
              <td>{{ keyName(t.tune.key) }}, {{ metreName(t.tune.metre) }}</td>
              <td class="number">{{ t.tune.measures.length }}</td>
              <td class="quiet">
                <template v-if="t.tune.measures.length === 0">no notes</template>
                <template v-else-if="worst(t.findings)"
                  >{{ worst(t.findings) }} to look at:
                  {{ sentence(t.findings.find(f => f.severity !== 'note')!) }}</template
                >
                <template v-if="alike[i]?.length">
                  like “{{ alike[i]![0]!.title }}” ({{ Math.round(alike[i]![0]!.likeness * 100) }}%)</template
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
    <ul v-if="unread.length" class="unread" data-test="unread">
      <li v-for="u in unread" :key="u.name">
        <b>{{ u.name }}</b> is left out: {{ u.said }}
      </li>
    </ul>
    <FindingList v-if="findings.length" :findings="findings" class="findings" />
    <div v-if="progress !== null" class="progress" role="status">
      <v-progress-linear
        :model-value="(progress / Math.max(1, count)) * 100"
        color="primary"
        height="8"
        aria-label="Taking tunes in"
      />
      {{ progress }} of {{ count }} on the shelf
    </div>
    <div class="actions">
      <v-btn @click="progress === null ? emit('close') : (stop = true)">{{
        progress === null ? 'Cancel' : 'Stop here'
      }}</v-btn>
      <v-btn
        variant="flat"
        color="primary"
        :disabled="count === 0 || progress !== null || changed || reading"
        data-test="take"
        @click="take"
      >
        {{ count > 1 ? `Put ${count} tunes on the shelf` : 'Put it on the shelf' }}
      </v-btn>
    </div>
  </v-card>
</template>

<style scoped>
.add {
  padding: 22px 24px;
}
.abc :deep(textarea) {
  font-family: ui-monospace, monospace;
  font-size: 14px;
  line-height: 1.45;
}
.file {
  display: block;
  margin: 10px 0;
}
.file input::file-selector-button {
  margin-right: 12px;
  padding: 6px 14px;
  font: inherit;
  font-weight: 700;
  color: rgb(var(--v-theme-primary));
  background: none;
  border: 1px solid currentColor;
  border-radius: 4px;
  cursor: pointer;
}
.one {
  margin: 8px 0;
}
.report {
  max-height: 300px;
  overflow: auto;
}
.unread {
  margin: 8px 0;
}
.findings {
  max-height: 180px;
  overflow: auto;
}
.progress {
  margin-top: 10px;
}
.actions {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 14px;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
