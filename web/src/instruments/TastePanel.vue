<script setup lang="ts" generic="T extends Trait | BowTrait">
/**
 * What Nokta learned of this studio's taste of fingers, or of bows, with the evidence: each line switched off
 * and on, all of it forgotten.
 */
import { computed } from 'vue'
import { counted } from '#core/counts'
import type { BowTrait, TasteOf, Trait } from '#core/instruments/taste'
import type { TasteKind } from '#core/taste/kinds'
import { evidenceOf } from '#core/taste/learn'
import { capital } from '#core/words/places'
import { evidenceWords } from '#core/words/taste'

const props = defineProps<{
  /** "taste" or "bow-taste": what tests find it by. */
  name: string
  /** "fingers", "bow marks": what the teacher set. */
  of: string
  kind: TasteKind<T>
  taste: TasteOf<T>
}>()
const emit = defineEmits<{ turn: [trait: T, on: boolean]; forget: [] }>()
const lines = computed(() => evidenceOf(props.kind, props.taste))
const decided = computed(() => props.taste.decisions.length)
</script>

<template>
  <section :aria-label="`Your taste of ${of}`" :data-test="name">
    <h2>Your taste of {{ of }}</h2>
    <p class="quiet">
      <slot />
      <template v-if="decided === 0"> You have set none yet.</template>
      <template v-else> So far {{ counted(decided, 'arrangement') }} with {{ of }} of yours.</template>
    </p>
    <p v-if="decided > 0 && lines.length === 0" :data-test="`${name}-none`">
      Nothing that would foretell your next choice: the weights stay ours.
    </p>
    <ul v-if="lines.length">
      <li v-for="l in lines" :key="l.trait">
        <label
          ><input
            type="checkbox"
            :checked="!l.off"
            :data-test="`${name}-${l.trait}`"
            @change="e => emit('turn', l.trait, (e.target as HTMLInputElement).checked)"
          />
          {{ capital(evidenceWords(l)) }}</label
        >
      </li>
    </ul>
    <button v-if="decided" type="button" class="link" :data-test="`forget-${name}`" @click="emit('forget')">
      Forget all of it
    </button>
  </section>
</template>

<style scoped>
section {
  margin-top: 30px;
}
.quiet {
  font-size: 13.5px;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
}
</style>
