<script setup lang="ts">
import { computed } from 'vue'
import PhraseBlock from '../bench/PhraseBlock.vue'
import Score from '../engraving/Score.vue'
import { useBench } from '../stores/bench'

const bench = useBench()
const parts = computed(() => bench.result?.parts ?? [])
const widest = computed(() => Math.max(1, ...parts.value.map(p => p.phrases.reduce((t, x) => t + x.bars, 0))))
const focused = computed(() => bench.phrases.find(p => p.id === bench.focus) ?? null)
const index = computed(() => bench.phrases.findIndex(p => p.id === bench.focus))
/** The first phrase of a part can't be joined to anything. */
const joinable = computed(
  () => focused.value !== null && !parts.value.some(p => p.phrases[0]?.id === focused.value!.id),
)
const splittable = computed(() => {
  const event = bench.selectedNote?.event
  return event !== undefined && bench.result?.tune.measures.length && !bench.phrases.some(p => p.id === event)
})
const moved = computed(() => Object.keys(bench.recipe?.pins.boundaries ?? {}).length)

/** Kin of the focused phrase, in the teacher's words. */
const kinText = computed(() => {
  const p = focused.value
  if (!p?.kin) return 'New material.'
  const words = {
    same: `The same as ${p.kin}.`,
    'ending differs': `As ${p.kin}, with another ending.`,
    'start differs': `As ${p.kin}, with another start.`,
    'same rhythm': `The rhythm of ${p.kin} with other notes.`,
    transposed: `${p.kin} moved to other notes.`,
  }
  return words[p.relation!]
})

function split() {
  const event = bench.selectedNote!.event
  bench.pin('boundaries', event, true)
  bench.focus = event
}
function join() {
  const before = bench.phrases[index.value - 1]!
  bench.pin('boundaries', focused.value!.id, false)
  bench.focus = before.id
}
function rename(name: string) {
  const { [focused.value!.id]: _old, ...rest } = bench.recipe!.phraseNames
  bench.edit({ phraseNames: name ? { ...rest, [focused.value!.id]: name.slice(0, 80) } : rest }, 'naming')
}
const resetBoundaries = () => bench.edit({ pins: { ...bench.recipe!.pins, boundaries: {} } })
</script>

<template>
  <div class="form" tabindex="0">
    <section class="quilt" aria-label="Quilt of the form">
      <div v-for="(part, i) in parts" :key="i" class="row">
        <span class="part">{{ part.label }}<small v-if="part.repeated"> twice</small></span>
        <div
          class="cells"
          :style="{ width: `${(100 * part.phrases.reduce((t, x) => t + x.bars, 0)) / widest}%` }"
        >
          <PhraseBlock
            v-for="p in part.phrases"
            :key="p.id"
            :phrase="p"
            :focused="bench.focus === p.id"
            tall
            :style="{ flex: `${Math.max(0.5, p.bars)} 1 0` }"
            @click="bench.focus = p.id"
          />
        </div>
      </div>
    </section>
    <section class="tools" aria-label="Phrase">
      <template v-if="focused">
        <h2>{{ focused.label }} · {{ focused.bars }} {{ focused.bars === 1 ? 'bar' : 'bars' }}</h2>
        <p>{{ kinText }}</p>
        <v-text-field
          :model-value="focused.name"
          label="Your name for it"
          data-test="phrase-name"
          @update:model-value="rename"
        />
      </template>
      <p v-else class="quiet">
        Choose a phrase to name it or join it to the one before; choose a note in the score to split there.
      </p>
      <div class="buttons">
        <v-btn variant="outlined" :disabled="!splittable" data-test="split" @click="split">
          {{ bench.selectedNote ? `Split before this ${bench.selectedNote.pitch}` : 'Split at a note' }}
        </v-btn>
        <v-btn variant="outlined" :disabled="!joinable" data-test="join" @click="join"
          >Join to the phrase before</v-btn
        >
        <v-btn v-if="moved" data-test="reset-form" @click="resetBoundaries">Back to the found phrases</v-btn>
      </div>
    </section>
    <section class="score" aria-label="Score">
      <Score :follow="false" :marks="{ fingers: false, bows: false, positions: false }" />
    </section>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 18px 28px;
  align-content: start;
  overflow-y: auto;
  padding: 16px 18px 40px 4px;
}
.row {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 6px;
}
.part {
  width: 62px;
  flex: none;
  font-weight: 700;
}
.part small {
  font-weight: 400;
  color: var(--faint);
}
.row .cells {
  display: flex;
  gap: 4px;
}
.row > .cells {
  max-width: calc(100% - 72px);
}
.tools h2 {
  font-size: 17px;
}
.tools p {
  margin: 4px 0 10px;
}
.buttons {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 8px;
  margin-top: 12px;
}
.score {
  grid-column: 1 / -1;
}
</style>
