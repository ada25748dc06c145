<script setup lang="ts">
/** The choice behind one word of the arrangement's line. */
import { mdiContentCopy, mdiTrashCanOutline } from '@mdi/js'
import { computed, onMounted, ref } from 'vue'
import { forInstrument, withKey, withPlayed, withSize, withTuning } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { valueName } from '#core/music/valueName'
import {
  instrumentChoices,
  keyChoices,
  levelChoices,
  octaveChoices,
  sizeChoices,
  tuningChoices,
  type ArrangementWord,
  type Choice,
} from '#core/words/arrangement'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'

const props = defineProps<{ word: ArrangementWord | 'arrangement'; target: HTMLElement }>()
const emit = defineEmits<{ close: [] }>()
const docs = useDocuments()
const part = usePart()
const recipe = part.recipe
const { key } = docs.documents!.tune

interface Item {
  readonly title: string
  readonly note?: string
  readonly chosen: boolean
  readonly take: () => void
}
const items = <T,>(list: readonly Choice<T>[], edit: (r: Arrangement, value: T) => Arrangement): Item[] =>
  list.map(c => ({ ...c, take: () => part.edit(r => edit(r, c.value)) }))

const LISTS: Readonly<Record<Exclude<typeof props.word, 'tempo'>, () => Item[]>> = {
  arrangement: () =>
    docs.arrangements.map(a => ({
      title: a.arrangement.name || INSTRUMENTS[a.arrangement.played.instrument].name,
      chosen: a.id === docs.arrangementId,
      take: () => docs.choose(a.id),
    })),
  instrument: () => items(instrumentChoices(recipe), forInstrument),
  size: () => items(sizeChoices(recipe), withSize),
  key: () => items(keyChoices(recipe, key), (r, k) => withKey(r, k, key)),
  octave: () => items(octaveChoices(recipe), (r, octave) => withPlayed(r, { octave })),
  tuning: () => items(tuningChoices(recipe), withTuning),
  level: () => items(levelChoices(recipe), (r, level) => withPlayed(r, { level })),
}
const list = props.word === 'tempo' ? [] : LISTS[props.word]()

function take(item: Item) {
  item.take()
  emit('close')
}
function then(work: () => void) {
  work()
  emit('close')
}

const tempo = computed(() => part.result?.tempo ?? null)
function setTempo(text: string) {
  const perMinute = Number(text)
  if (tempo.value && perMinute >= 10 && perMinute <= 400)
    part.editPlayed({ tempo: { beat: tempo.value.beat, perMinute } }, 'tempo')
}
const field = ref<{ focus(): void } | null>(null)
onMounted(() => setTimeout(() => field.value?.focus()))
</script>

<template>
  <v-menu
    :model-value="true"
    :target="target"
    :close-on-content-click="false"
    :transition="false"
    location="bottom start"
    @update:model-value="emit('close')"
  >
    <v-card class="choice" :data-test="`${word}-choice`">
      <template v-if="word === 'arrangement'">
        <v-text-field
          :model-value="recipe.name"
          label="Name of this arrangement"
          data-test="arrangement-name"
          @update:model-value="part.rename"
        />
        <div class="row">
          <v-btn
            size="small"
            variant="outlined"
            :prepend-icon="mdiContentCopy"
            data-test="duplicate-arrangement"
            @click="then(docs.duplicateArrangement)"
            >Duplicate</v-btn
          >
          <v-btn
            size="small"
            variant="outlined"
            :prepend-icon="mdiTrashCanOutline"
            :disabled="docs.arrangements.length < 2"
            :title="docs.arrangements.length < 2 ? 'A tune keeps at least one arrangement' : undefined"
            data-test="remove-arrangement"
            @click="then(docs.removeArrangement)"
            >Delete</v-btn
          >
        </div>
      </template>
      <v-text-field
        v-if="word === 'tempo'"
        ref="field"
        :model-value="tempo?.perMinute ?? ''"
        :label="tempo ? `${valueName(tempo.beat)} =` : ''"
        type="number"
        min="10"
        max="400"
        data-test="tempo-field"
        @update:model-value="setTempo"
        @keydown.enter="emit('close')"
      />
      <v-list v-else density="compact" class="list" role="listbox" :aria-label="word">
        <v-list-item
          v-for="item in list"
          :key="item.title"
          :title="item.title"
          :subtitle="item.note"
          role="option"
          :active="item.chosen"
          :aria-selected="item.chosen"
          color="primary"
          data-test="option"
          @click="take(item)"
        />
      </v-list>
      <template v-if="word === 'arrangement'">
        <p class="quiet">Another one of this tune, for</p>
        <div class="row">
          <v-btn
            v-for="i in INSTRUMENT_IDS"
            :key="i"
            variant="outlined"
            size="small"
            :data-test="`add-${i}`"
            @click="then(() => docs.addArrangement(i))"
            >{{ INSTRUMENTS[i].name }}</v-btn
          >
        </div>
      </template>
    </v-card>
  </v-menu>
</template>

<style scoped>
.choice {
  display: flex;
  flex-direction: column;
  padding: 12px;
  gap: 10px;
  min-width: 160px;
  max-width: 360px;
  max-height: 70vh;
  overflow-y: auto;
}
.choice > * {
  flex: none;
}
.list {
  padding: 0;
}
.list :deep(.v-list-item-subtitle) {
  color: var(--faint);
  opacity: 1;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
