<script setup lang="ts">
/**
 * The chord skeleton: chords of the tune, and a plausible one wherever none is given; each can be corrected
 * and written into the tune.
 */
import { computed, ref, watch } from 'vue'
import { parseChord } from '#core/music/chord'
import { setChord } from '#core/music/edit/marks'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import type { Teaching } from '#core/desk/views'

const props = defineProps<{ teaching: Teaching }>()
const docs = useDocuments()
const part = usePart()
const chords = computed(() => props.teaching.chords)
/** What the teacher wrote instead, by note, until it is in the tune. */
const written = ref<Record<string, string>>({})
watch(
  () => docs.tuneId,
  () => (written.value = {}),
)
const proposed = computed(() => chords.value.filter(c => !c.given))
const wrong = (name: string) => name.trim() !== '' && parseChord(name.trim()) === null
const faulty = computed(() => Object.values(written.value).some(wrong))

function takeUp() {
  let tune = docs.documents!.tune
  for (const c of chords.value) {
    const name = written.value[c.note]?.trim() ?? c.name
    if (!c.given || name !== c.name) tune = setChord(tune, c.note, name).tune
  }
  written.value = {}
  part.changeTune({ tune, chosen: part.caret })
}
const measures = computed(() => {
  const by = new Map<number, (typeof chords.value)[number][]>()
  for (const c of chords.value) by.set(c.measure, [...(by.get(c.measure) ?? []), c])
  return [...by]
})
const PROPOSED =
  'Grey chords are a proposal from the notes of each half bar. Correct what you hear otherwise, then write them into the tune.'
</script>

<template>
  <div class="chords" data-test="chords">
    <p v-if="chords.length === 0" class="quiet">There is nothing to harmonize yet.</p>
    <p v-else class="quiet">
      {{
        proposed.length === 0 ? 'The tune has its chords. A change here is written into the tune.' : PROPOSED
      }}
    </p>
    <ul>
      <li v-for="[measure, list] in measures" :key="measure">
        <small>{{ measure }}</small>
        <input
          v-for="c in list"
          :key="c.note"
          :value="written[c.note] ?? c.name"
          :class="{
            proposed: !c.given && written[c.note] === undefined,
            wrong: wrong(written[c.note] ?? ''),
          }"
          :aria-label="`Chord in measure ${measure}`"
          :aria-invalid="wrong(written[c.note] ?? '')"
          data-test="chord"
          @input="written = { ...written, [c.note]: ($event.target as HTMLInputElement).value }"
        />
      </li>
    </ul>
    <p v-if="faulty" role="alert">A marked one is no chord name: write it as D, Bm, A7 or G/B.</p>
    <v-btn
      v-if="chords.length > 0"
      variant="outlined"
      size="small"
      :disabled="faulty || (proposed.length === 0 && Object.keys(written).length === 0)"
      data-test="write-chords"
      @click="takeUp"
      >Write them into the tune</v-btn
    >
  </div>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 6px 18px;
  list-style: none;
  padding: 0;
  margin: 10px 0 14px;
  max-width: 900px;
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
}
li small {
  width: 20px;
  text-align: right;
  color: var(--faint);
}
input {
  width: 56px;
  padding: 3px 6px;
  font: inherit;
  font-weight: 700;
  color: inherit;
  background: transparent;
  border: 1px solid var(--rule);
  border-radius: 3px;
}
input.proposed {
  font-weight: 400;
  color: var(--faint);
}
input.wrong {
  border-color: rgb(var(--v-theme-error));
}
</style>
