<script setup lang="ts">
/**
 * Tunes from a file or pasted text: what is in it is shown, looked over and chosen before anything is put on
 * the shelf.
 */
import { watchDebounced } from '@vueuse/core'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { sentence } from '#core/words/findings'
import { READABLE, type FileKind } from '#core/formats/fileKinds'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import FindingList from '../bench/FindingList.vue'
import { api } from '../api/client'
import { inParts, useShelf } from '../stores/shelf'
import { FileDesk } from '../worker/fileDesk'
import { unpack } from '#core/desk/packed'
import type { FileResult } from '#core/desk/views'
import LongBook from './LongBook.vue'
import { useLongBook } from './longBook'
import { counted } from '#core/counts'

const props = defineProps<{ given: { name: string; bytes: Uint8Array } | null }>()
const emit = defineEmits<{ done: [ids: readonly string[]]; close: [] }>()
const shelf = useShelf()

const text = ref('')
const file = shallowRef(props.given)
const choice = ref<number | undefined>()
// Whole books: watched as one thing, not note by note.
const read = shallowRef<FileResult | null>(null)
const taken = shallowRef<ReadonlySet<number>>(new Set())
const alike = shallowRef<readonly (readonly { id: string; title: string; likeness: number }[])[]>([])
const files = new FileDesk()
const book = useLongBook(files)
onUnmounted(() => {
  book.stop()
  files.close()
})
const problem = ref('')
const reading = ref(false)
const progress = ref<number | null>(null)
let stop = false
let asked = 0
/** Milliseconds to wait for what the shelf has of it already. */
const LOOKING = 8000

async function look(name: string, bytes: Uint8Array) {
  const mine = ++asked
  reading.value = true
  try {
    const options = choice.value === undefined ? {} : { choice: choice.value }
    const result = unpack(await files.readFile(name, bytes, options))
    if (mine !== asked) return
    read.value = result
    book.open(result.listed)
    if (result.listed) void lookOver()
    taken.value = new Set(result.tunes.keys())
    problem.value = ''
    alike.value = []
    const looked = lookOnShelf(mine, result)
    // One tune can be taken whatever the shelf says.
    if (result.tunes.length > 1) await looked
  } catch (e) {
    if (mine === asked) problem.value = e instanceof Error ? e.message : String(e)
  } finally {
    if (mine === asked) reading.value = false
  }
}
/** What is on the shelf already is not taken a second time unless one asks for it. */
async function lookOnShelf(mine: number, { tunes, prints }: FileResult) {
  if (tunes.length === 0) return
  try {
    const found = await api.alike(prints, AbortSignal.timeout(LOOKING))
    if (mine !== asked) return
    alike.value = found
    if (tunes.length > 1)
      taken.value = new Set([...tunes.keys()].filter(i => (found[i]?.[0]?.likeness ?? 0) < 0.95))
  } catch {
    if (mine === asked) problem.value = 'Whether this is on the shelf already could not be looked up.'
  }
}
const lookOver = () => book.lookOver().catch((e: Error) => (problem.value = e.message))
/** The text was changed since it was read: what stands below is not of it yet. */
const changed = ref(false)
watch(text, () => (changed.value = true), { flush: 'sync' })
const lookAgain = () => {
  changed.value = false
  if (file.value) return look(file.value.name, file.value.bytes)
  if (text.value.trim() === '') return void (read.value = null)
  return look('pasted.abc', new TextEncoder().encode(text.value))
}
watchDebounced(text, lookAgain, { debounce: 150 })
if (props.given) void lookAgain()

async function choose(event: Event) {
  const picked = (event.target as HTMLInputElement).files?.[0]
  if (!picked) return
  choice.value = undefined
  file.value = { name: picked.name, bytes: new Uint8Array(await picked.arrayBuffer()) }
  await lookAgain()
}
function other(index: number) {
  choice.value = index
  void lookAgain()
}
const KINDS: Readonly<Record<FileKind, string>> = {
  abc: 'ABC',
  musicxml: 'MusicXML',
  mxl: 'packed MusicXML',
  midi: 'MIDI',
  spoken: 'strings and fingers',
  backup: 'a Nokta document',
}

const tunes = computed(() => read.value?.tunes ?? [])
/** Errors first: the list is cut by the window. */
const findings = computed(() =>
  [...(read.value?.findings ?? []), ...(tunes.value.length === 1 ? tunes.value[0]!.findings : [])].toSorted(
    (a, b) => Number(b.severity === 'error') - Number(a.severity === 'error'),
  ),
)
const choices = computed(() =>
  (read.value?.choices ?? [])
    .map((c, value) => ({ value, title: `${c.label} (${c.notes} notes)`, notes: c.notes }))
    .filter(c => c.notes > 0),
)
const count = computed(() => (book.entries.value ? book.chosen.value.size : taken.value.size))
function toggle(i: number) {
  const next = new Set(taken.value)
  if (!next.delete(i)) next.add(i)
  taken.value = next
}
const toggleAll = () =>
  (taken.value = count.value === tunes.value.length ? new Set() : new Set(tunes.value.keys()))
const worst = (list: readonly { severity: string }[]) => list.filter(f => f.severity !== 'note').length

async function take() {
  stop = false
  progress.value = 0
  try {
    book.stop()
    const parts = book.entries.value
      ? book.parts()
      : inParts(tunes.value.filter((_, i) => taken.value.has(i)))
    emit(
      'done',
      await shelf.addAll(
        parts,
        n => (progress.value = n),
        () => stop,
      ),
    )
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
      Choose a file ({{ READABLE.join(', ') }}) or paste a tune in ABC, in strings and fingers, or as
      MusicXML.
    </p>
    <label class="file">
      <input type="file" :accept="READABLE.join(',')" data-test="file" @change="choose" />
      <span v-if="file && read?.kind" class="quiet">{{ KINDS[read.kind] }}</span>
    </label>
    <v-textarea
      v-if="!file"
      v-model="text"
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
      @update:model-value="other"
    />
    <v-progress-linear v-if="reading" indeterminate color="primary" aria-label="Reading" />
    <p v-if="problem" role="alert" class="problem">{{ problem }}</p>
    <div v-if="tunes.length === 1" class="one">
      <b>{{ tunes[0]!.tune.title || 'Untitled' }}</b> · {{ keyName(tunes[0]!.tune.key) }} ·
      {{ metreName(tunes[0]!.tune.metre) }} · {{ counted(tunes[0]!.tune.measures.length, 'measure') }}
      <p v-if="alike[0]?.length" data-test="alike-on-shelf">
        Sounds like {{ alike[0].map(a => `“${a.title}” (${Math.round(a.likeness * 100)} %)`).join(', ') }},
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
                  :checked="taken.has(i)"
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
                  like “{{ alike[i]![0]!.title }}” ({{
                    Math.round(alike[i]![0]!.likeness * 100)
                  }}
                  %)</template
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </template>
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
