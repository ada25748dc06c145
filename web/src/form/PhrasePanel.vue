<script setup lang="ts">
/** The focused phrase: its name, its role, its kin here and on the shelf, and the teacher's corrections. */
import { computed, shallowRef, watch } from 'vue'
import { asFound, declareKin, joinAt, remarked, splitAt } from '#core/arrangement/corrections'
import { kinSentence, ROLE_WORDS } from '#core/words/form'
import type { TuneKin } from '#contract/documents'
import { api } from '../api/client'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import type { Teaching } from '#core/desk/views'
import { counted } from '#core/counts'

const props = defineProps<{ teaching: Teaching | null }>()
const docs = useDocuments()
const part = usePart()
const parts = computed(() => part.result?.parts ?? [])
const focused = computed(() => part.phrases.find(p => p.id === part.focus) ?? null)
const index = computed(() => part.phrases.findIndex(p => p.id === part.focus))
const earlier = computed(() => part.phrases.slice(0, index.value))
/** The first phrase of a part can't be joined to anything. */
const joinable = computed(
  () => focused.value !== null && !parts.value.some(p => p.phrases[0]?.id === focused.value!.id),
)
const splittable = computed(() => {
  const event = part.selectedNote?.event
  return event !== undefined && part.result?.tune.measures.length && !part.phrases.some(p => p.id === event)
})
const moved = computed(() => {
  const { taught } = part
  return Object.keys(taught?.boundaries ?? {}).length + Object.keys(taught?.kin ?? {}).length
})
const figures = computed(() => props.teaching?.figures[focused.value?.id ?? ''] ?? [])

/** What stands as kin by the teacher's word: a phrase, none, or nothing said. */
const declared = computed(() => part.taught?.kin[focused.value?.id ?? ''])
const choices = computed(() => [
  { value: 'heard', title: 'as it is heard' },
  { value: 'none', title: 'related to none' },
  ...earlier.value.map(p => ({ value: p.id, title: `related to ${p.label}` })),
])
const choice = computed(() =>
  declared.value === undefined ? 'heard' : declared.value === null ? 'none' : declared.value,
)
const declare = (value: string) =>
  part.editTaught(
    declareKin(
      part.taught!,
      focused.value!.id,
      value === 'heard' ? undefined : value === 'none' ? null : value,
    ),
  )

function split() {
  const event = part.selectedNote!.event
  part.editTaught(splitAt(part.taught!, event))
  part.focus = event
}
function join() {
  const before = part.phrases[index.value - 1]!
  part.editTaught(joinAt(part.taught!, focused.value!.id))
  part.focus = before.id
}
const remark = (text: string) => part.editTaught(remarked(part.taught!, focused.value!.id, text))
function rename(name: string) {
  const { [focused.value!.id]: _old, ...rest } = part.taught!.names
  part.editTaught({ names: name ? { ...rest, [focused.value!.id]: name.slice(0, 80) } : rest }, 'naming')
}

/**
 * Kin in other tunes: asked when the tune is opened or its phrases change; what isn't saved yet is not known
 * there.
 */
const elsewhere = shallowRef<readonly TuneKin[]>([])
watch(
  [() => docs.tuneId, () => part.recipe.taught.boundaries, () => docs.saveState === 'saved'],
  async ([id, boundaries, saved]) => {
    if (!saved || !boundaries) return
    try {
      const found = await api.kin(id, boundaries)
      if (id === docs.tuneId) elsewhere.value = found
    } catch {
      // The shelf is away: what is here stays.
    }
  },
  { immediate: true },
)
const known = computed(() =>
  elsewhere.value.flatMap(t =>
    t.kin
      .filter(k => focused.value && k.start === (part.stands[focused.value.id] ?? focused.value.id))
      .map(k => ({
        id: t.id,
        text: `${t.title}, ${k.of}`,
        how: kinSentence({
          ...k,
          phrase: 'it',
          moved: k.moved ?? { steps: 0, semitones: 0, exact: true },
          differences: Array.from({ length: k.differences }, () => ''),
        }),
      })),
  ),
)
</script>

<template>
  <section class="tools" aria-label="Phrase" tabindex="0">
    <template v-if="focused">
      <h2>
        {{ focused.label }}
        <small>{{ counted(focused.bars, 'bar') }}, it {{ ROLE_WORDS[focused.role] }}</small>
      </h2>
      <ul class="told" data-test="kin">
        <li v-for="k in focused.kin" :key="k.phrase">{{ kinSentence(k) }}</li>
        <li v-if="focused.contour.length === 0">Nothing sounds here.</li>
        <li v-else-if="focused.kin.length === 0">New material.</li>
        <li v-for="f in figures" :key="f" class="quiet">{{ f }}</li>
        <li v-if="focused.endings.length > 1" class="quiet">
          {{ focused.endings.length }} endings:
          {{
            focused.endings.map(e => `${e.numbers.join(', ')}. (${e.events.length} notes)`).join(' against ')
          }}
        </li>
        <li v-for="k in known" :key="k.id + k.text" data-test="known-from">
          You know this from <router-link :to="`/tunes/${k.id}/form`">{{ k.text }}</router-link>. {{ k.how }}
        </li>
      </ul>
      <v-text-field
        :model-value="focused.name"
        label="Your name for it"
        data-test="phrase-name"
        @update:model-value="rename"
      />
      <v-text-field
        :model-value="part.taught?.remarks[focused.id] ?? ''"
        label="Your remark on it"
        class="kin-choice"
        data-test="phrase-remark"
        @change="(e: Event) => remark((e.target as HTMLInputElement).value)"
      />
      <v-select
        v-if="earlier.length > 0"
        :model-value="choice"
        :items="choices"
        label="Kin"
        class="kin-choice"
        data-test="declare-kin"
        @update:model-value="declare"
      />
    </template>
    <p v-else class="quiet">
      Choose a phrase to name it, to hear it beside its kin, or to join it to the one before; choose a note in
      the score to split there. Seams between phrases can be dragged.
    </p>
    <div class="buttons">
      <v-btn variant="outlined" :disabled="!splittable" data-test="split" @click="split">
        {{ part.selectedNote ? `Split before this ${part.selectedNote.pitch}` : 'Split at a note' }}
      </v-btn>
      <v-btn variant="outlined" :disabled="!joinable" data-test="join" @click="join"
        >Join to the phrase before</v-btn
      >
      <v-btn v-if="moved" data-test="reset-form" @click="part.editTaught(asFound(part.taught!))"
        >Back to what was found</v-btn
      >
    </div>
  </section>
</template>

<style scoped>
.tools h2 {
  font-size: 17px;
}
.tools h2 small {
  font-weight: 400;
  font-size: 14px;
  color: var(--faint);
}
.told {
  list-style: none;
  padding: 0;
  margin: 6px 0 12px;
  display: grid;
  gap: 3px;
}
.kin-choice {
  margin-top: 12px;
}
.buttons {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 8px;
  margin-top: 12px;
}
</style>
