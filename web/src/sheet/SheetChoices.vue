<script setup lang="ts">
/** What stands on the sheet and how: each choice shows its effect at once. */
import { computed } from 'vue'
import { AS_WRITTEN, PAPER_SIZES, SHEET_KINDS, SHOWN_MARKS, type SheetKind } from '#core/styles/sheetRecipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { OSSIA_WORDS } from '#core/words/ways'
import {
  apartWords,
  BOW_MARK_WORDS,
  COUNTING_WORDS,
  FINGER_WORDS,
  KIND_WORDS,
  MARK_WORDS,
  MUSIC_WORDS,
  NAME_WORDS,
  SIZE_WORDS,
} from '#core/words/sheet'
import { itemsOf, type Choice } from '../bench/choice'
import ChoiceRows from '../bench/ChoiceRows.vue'
import TickRow from '../bench/TickRow.vue'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useSheet } from '../stores/sheet'
import { useStudio } from '../stores/studio'

const docs = useDocuments()
const part = usePart()
const store = useSheet()
const studio = useStudio()
const sheet = computed(() => store.recipe)
/** A choice of the sheet's own, by its name in the recipe. */
const own = (
  key: 'music' | 'size' | 'fingers' | 'names' | 'counting',
  label: string,
  words: Readonly<Record<string, string>>,
): Choice => ({
  test: `sheet-${key}`,
  label,
  value: sheet.value[key],
  items: itemsOf(words),
  take: v => store.choose({ [key]: v }),
})
/** One of the arrangement's, which the bench shows too. */
const shared = (
  key: 'bowMarks' | 'strings' | 'ossia',
  label: string,
  words: Readonly<Record<string, string>>,
): Choice => ({
  test: key === 'ossia' ? key : `sheet-${key}`,
  label,
  value: part.recipe.shown[key],
  items: itemsOf(words),
  take: v => part.editShown({ [key]: v }),
})
const lines = computed(() => [own('music', 'Lines', MUSIC_WORDS), own('size', 'Size', SIZE_WORDS)])
/** Where the instrument reads more than one. */
const clef = computed((): Choice[] => {
  const { reads } = INSTRUMENTS[part.recipe.played.instrument]
  return reads.length < 2
    ? []
    : [
        {
          test: 'clef',
          label: 'Clef',
          value: part.recipe.shown.clef ?? 'usual',
          items: [
            { value: 'usual', title: 'as usual' },
            ...reads.map(c => ({ value: c, title: `${c} clef` })),
          ],
          take: v => part.editShown({ clef: v === 'usual' ? null : (v as (typeof reads)[number]) }),
        },
      ]
})
const marks = computed(() => [
  own('fingers', 'Fingers over the staff', FINGER_WORDS),
  shared('bowMarks', 'Bow marks', BOW_MARK_WORDS),
  own('names', 'Names of the notes', NAME_WORDS),
  own('counting', 'Counting', COUNTING_WORDS),
  shared('strings', 'String names', { letters: 'letters', numbers: 'numbers, I the highest' }),
  shared('ossia', 'Another line beside it', { none: 'none', ...OSSIA_WORDS }),
])
/** Kinds keep the order in which they come on the page. */
const toggle = (kind: SheetKind, on: boolean) =>
  store.choose({ kinds: SHEET_KINDS.filter(k => (k === kind ? on : sheet.value.kinds.includes(k))) })
const isOnly = (kind: SheetKind) => sheet.value.kinds.length === 1 && sheet.value.kinds[0] === kind
/** A word between the beats, of the studio's own: an empty one leaves the place uncounted. */
const say = (at: number, word: string) =>
  studio.edit(({ countWords }) => ({ countWords: countWords.map((w, i) => (i === at ? word.trim() : w)) }))
/** Other arrangements with the same measures, and the tune without this one's changes. */
const unders = computed(() => [
  { value: null, title: 'nothing' },
  ...(part.recipe.played.changes.length > 0 ? [{ value: AS_WRITTEN, title: 'the tune as it is' }] : []),
  ...docs.arrangements
    .filter(a => a.id !== docs.arrangementId)
    .map(a => ({ value: a.id, title: a.arrangement.name || a.arrangement.played.instrument })),
])
const below = computed(() =>
  unders.value.some(u => u.value === sheet.value.under) ? sheet.value.under : null,
)
</script>

<template>
  <section aria-label="What stands on it" class="choices">
    <h2>On the sheet</h2>
    <TickRow
      v-for="k in SHEET_KINDS"
      :key="k"
      :name="`kind-${k}`"
      :model-value="sheet.kinds.includes(k)"
      :disabled="isOnly(k)"
      :title="isOnly(k) ? 'A sheet holds one of these at least.' : undefined"
      @update:model-value="on => toggle(k, on)"
      >{{ KIND_WORDS[k] }}</TickRow
    >
    <h2>Music</h2>
    <ChoiceRows :choices="lines" />
    <v-select
      :model-value="below"
      :items="unders"
      label="Under every line"
      data-test="sheet-under"
      @update:model-value="under => store.choose({ under })"
    />
    <p v-if="store.apart && below !== null" class="quiet apart" role="note" data-test="under-apart">
      {{ apartWords([]) }}
    </p>
    <ChoiceRows :choices="[...clef, ...marks]" />
    <div
      v-if="sheet.counting === 'syllables'"
      class="words"
      role="group"
      aria-label="Words between the beats"
    >
      <span>1</span>
      <input
        v-for="(w, i) in studio.studio.countWords"
        :key="i"
        type="text"
        maxlength="6"
        :value="w"
        :aria-label="`Word ${i + 1} of three`"
        :data-test="`count-word-${i}`"
        @change="say(i, ($event.target as HTMLInputElement).value)"
      />
    </div>
    <TickRow
      v-if="sheet.kinds.includes('board')"
      name="left-handed"
      :model-value="studio.studio.leftHanded"
      @update:model-value="leftHanded => studio.edit(() => ({ leftHanded }))"
      >fingerboard as a left-handed player sees it</TickRow
    >
    <TickRow
      v-for="m in SHOWN_MARKS"
      :key="m"
      :name="`show-${m}`"
      :model-value="sheet.show[m]"
      @update:model-value="on => store.choose({ show: { ...sheet.show, [m]: on } })"
      >{{ MARK_WORDS[m] }}</TickRow
    >
    <TickRow
      name="contrast"
      :model-value="sheet.contrast"
      @update:model-value="contrast => store.choose({ contrast })"
      >high contrast</TickRow
    >
    <v-select
      :model-value="sheet.paper"
      :items="[...PAPER_SIZES]"
      label="Paper"
      data-test="paper"
      @update:model-value="paper => store.choose({ paper })"
    />
  </section>
</template>

<style scoped>
.apart {
  margin: 0;
  font-size: 14px;
}
.choices {
  display: grid;
  gap: 8px;
}
.words {
  display: grid;
  grid-template-columns: auto 1fr 1fr 1fr;
  align-items: center;
  gap: 8px;
  font-size: 14px;
}
.words input {
  min-width: 0;
  padding: 3px 6px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  color: inherit;
  font: inherit;
}
h2 {
  margin: 6px 0 -2px;
  font-size: 15px;
}
</style>
