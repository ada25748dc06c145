<script setup lang="ts">
/** What stands on the sheet and how: each choice shows its effect at once. */
import { computed } from 'vue'
import type { Ossia } from '#core/fingering/ossia'
import { AS_WRITTEN, BOW_MARKS, SHEET_KINDS, SHOWN_MARKS, type SheetKind } from '#core/styles/sheetRecipe'
import { OSSIA_WORDS } from '#core/words/ways'
import { BOW_MARK_WORDS, COUNTING_WORDS, FINGER_WORDS, KIND_WORDS, MARK_WORDS, MUSIC_WORDS, NAME_WORDS, SIZE_WORDS } from '#core/words/sheet' // prettier-ignore
import TickRow from '../bench/TickRow.vue'
import { useBench } from '../stores/bench'
import { useSheet } from '../stores/sheet'

const bench = useBench()
const store = useSheet()
const sheet = computed(() => store.recipe)
const items = <V extends string>(words: Readonly<Record<V, string>>) =>
  (Object.entries(words) as [V, string][]).map(([value, title]) => ({ value, title }))
/** Kinds keep the order in which they come on the page. */
function toggle(kind: SheetKind, on: boolean) {
  const kinds = SHEET_KINDS.filter(k => (k === kind ? on : sheet.value.kinds.includes(k)))
  if (kinds.length > 0) store.choose({ kinds })
}
const ossias = [{ value: 'none' as const, title: 'none' }, ...(Object.entries(OSSIA_WORDS) as [Ossia, string][]).map(([value, title]) => ({ value, title }))] // prettier-ignore
const strings = [{ value: 'letters', title: 'letters' }, { value: 'numbers', title: 'numbers, I the highest' }] // prettier-ignore
const bowMarks = BOW_MARKS.map(value => ({ value, title: BOW_MARK_WORDS[value] }))
/** Other arrangements with the same measures, and the tune without this one's changes. */
const unders = computed(() => [
  { value: null, title: 'nothing' },
  ...(bench.recipe!.played.changes.length > 0 ? [{ value: AS_WRITTEN, title: 'the tune as it is' }] : []),
  ...bench.arrangements.filter(a => a.id !== bench.arrangementId).map(a => ({ value: a.id, title: a.arrangement.name || a.arrangement.played.instrument })),
]) // prettier-ignore
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
      @update:model-value="on => toggle(k, on)"
      >{{ KIND_WORDS[k] }}</TickRow
    >
    <h2>Music</h2>
    <v-select
      :model-value="sheet.music"
      :items="items(MUSIC_WORDS)"
      label="Lines"
      data-test="music"
      @update:model-value="music => store.choose({ music })"
    />
    <v-select
      :model-value="sheet.size"
      :items="items(SIZE_WORDS)"
      label="Size"
      data-test="sheet-size"
      @update:model-value="size => store.choose({ size })"
    />
    <v-select
      :model-value="below"
      :items="unders"
      label="Under every line"
      data-test="sheet-under"
      @update:model-value="under => store.choose({ under })"
    />
    <v-select
      :model-value="sheet.fingers"
      :items="items(FINGER_WORDS)"
      label="Fingers over the staff"
      data-test="sheet-fingers"
      @update:model-value="fingers => store.choose({ fingers })"
    />
    <v-select
      :model-value="bench.recipe!.shown.bowMarks"
      :items="bowMarks"
      label="Bow marks"
      data-test="sheet-bows"
      @update:model-value="b => bench.editShown({ bowMarks: b })"
    />
    <v-select
      :model-value="sheet.names"
      :items="items(NAME_WORDS)"
      label="Names of the notes"
      data-test="sheet-names"
      @update:model-value="names => store.choose({ names })"
    />
    <v-select
      :model-value="sheet.counting"
      :items="items(COUNTING_WORDS)"
      label="Counting"
      data-test="sheet-counting"
      @update:model-value="counting => store.choose({ counting })"
    />
    <v-select
      :model-value="bench.recipe!.shown.strings"
      :items="strings"
      label="String names"
      @update:model-value="s => bench.editShown({ strings: s })"
    />
    <v-select
      :model-value="bench.recipe!.shown.ossia"
      :items="ossias"
      label="Another line beside it"
      data-test="ossia"
      @update:model-value="o => bench.editShown({ ossia: o })"
    />
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
      :items="['A4', 'Letter']"
      label="Paper"
      data-test="paper"
      @update:model-value="paper => store.choose({ paper })"
    />
  </section>
  <!-- prettier-ignore -->
</template>

<style scoped>
.choices {
  display: grid;
  gap: 8px;
}
h2 {
  margin: 6px 0 -2px;
  font-size: 15px;
}
</style>
