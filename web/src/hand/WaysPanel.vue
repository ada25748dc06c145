<script setup lang="ts">
/** Whole other fingerings, named by what they do: laid over the one in use, compared, taken. */
import { computed } from 'vue'
import { tradeText, tradeWords, wayWords } from '#core/words/ways'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import ChangedNotes from './ChangedNotes.vue'
import OtherArrangement from './OtherArrangement.vue'
import { heavier, signed, weighing } from './words'
import { counted } from '#core/counts'

const part = usePart()
const hand = useHand()
const scope = computed(() => {
  const p = part.phrases.find(x => x.id === part.focus)
  return p ? `phrase ${p.name || p.label}` : 'the whole tune'
})
const lay = (id: string) => (hand.compared = hand.compared === id ? null : id)
</script>

<template>
  <section aria-label="Other ways to finger it" data-test="ways">
    <p class="quiet">Other ways for {{ scope }}; pins stay.</p>
    <p v-if="hand.report && hand.report.solutions.length === 0">
      No other way keeps a rule of its own here: this is how it lies.
    </p>
    <ul class="ways">
      <li v-for="s in hand.report?.solutions ?? []" :key="s.id" :class="{ laid: s.id === hand.compared }">
        <div class="head">
          <b>{{ wayWords(s.way) }}</b>
        </div>
        <p>
          {{ counted(s.changed.length, 'note changes', 'notes change') }}:
          {{
            tradeText(tradeWords(hand.report!.tally, s.tally)) ??
            `as many shifts and crossings; ${heavier(s.differences)}`
          }}<template v-if="s.waived">; not possible at {{ counted(s.waived, 'note') }}</template
          >.
        </p>
        <details class="quiet">
          <summary>In numbers</summary>
          {{ signed(s.extra) }}: {{ weighing(s.differences) }}
        </details>
        <div class="buttons">
          <v-btn
            size="small"
            variant="outlined"
            :aria-pressed="s.id === hand.compared"
            data-test="lay"
            @click="lay(s.id)"
          >
            {{ s.id === hand.compared ? 'Hide' : 'Compare' }}
          </v-btn>
          <v-btn size="small" variant="outlined" data-test="use-way" @click="hand.use(s)">Use it</v-btn>
        </div>
        <ChangedNotes v-if="s.id === hand.compared" :notes="s.changed" />
      </li>
    </ul>
    <OtherArrangement />
  </section>
</template>

<style scoped>
.ways {
  list-style: none;
  padding: 0;
  margin: 6px 0 0;
}
.ways li {
  padding: 8px 0 10px;
  border-top: 1px solid var(--rule);
}
.laid b {
  color: rgb(var(--v-theme-secondary));
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.ways p {
  font-size: 13.5px;
  margin: 2px 0 6px;
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
