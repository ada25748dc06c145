<script setup lang="ts">
/** What Nokta learned of this studio's taste of fingers, with the evidence: each line switched off and on, all of it forgotten. */
import { computed } from 'vue'
import { counted } from '#core/counts'
import { evidenceOf } from '#core/taste/learn'
import { capital } from '#core/words/places'
import { evidenceWords } from '#core/words/taste'
import { useStudio } from '../stores/studio'
import { useTaste } from '../stores/taste'

const studio = useStudio()
const taste = useTaste()
const lines = computed(() => evidenceOf(studio.studio.taste))
const decided = computed(() => studio.studio.taste.decisions.length)
</script>

<template>
  <section aria-label="Your taste of fingers" data-test="taste">
    <h2>Your taste of fingers</h2>
    <p class="quiet">
      Fingers you set teach Nokta a little of what you like; levels, spans and what a hand can do stay as they
      are.
      <template v-if="decided === 0">You have set none yet.</template>
      <template v-else>So far {{ counted(decided, 'arrangement') }} with fingers of yours.</template>
    </p>
    <p v-if="decided > 0 && lines.length === 0" data-test="taste-none">
      Nothing that would foretell your next choice: the weights stay ours.
    </p>
    <ul v-if="lines.length">
      <li v-for="l in lines" :key="l.trait">
        <label
          ><input
            type="checkbox"
            :checked="!l.off"
            :data-test="`taste-${l.trait}`"
            @change="e => taste.turn(l.trait, (e.target as HTMLInputElement).checked)"
          />
          {{ capital(evidenceWords(l)) }}</label
        >
      </li>
    </ul>
    <button v-if="decided" type="button" class="link" data-test="forget-taste" @click="taste.forget">
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
