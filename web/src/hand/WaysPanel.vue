<script setup lang="ts">
/** Whole other fingerings, named by what they do: laid over the one in use, compared, taken. */
import { computed } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { fingerText } from '#core/fingering/explain'
import { useBench } from '../stores/bench'
import { useHand } from '../stores/hand'
import { signed, weighing } from './words'

const bench = useBench()
const hand = useHand()
const letters = computed(() => lettersOf(bench.recipe!.instrument, bench.recipe!.tuning))
const scope = computed(() => {
  const p = bench.phrases.find(x => x.id === bench.focus)
  return p ? `phrase ${p.name || p.label}` : 'the whole tune'
})
const now = computed(() => new Map(bench.notes.map(n => [n.id, n])))
const lay = (name: string) => (hand.compared = hand.compared === name ? null : name)
</script>

<template>
  <section aria-label="Other ways to finger it" data-test="ways">
    <p class="quiet">Other ways for {{ scope }}; pins stay.</p>
    <p v-if="hand.report && hand.report.solutions.length === 0">
      No other way keeps a rule of its own here: this is how it lies.
    </p>
    <ul class="ways">
      <li v-for="s in hand.report?.solutions ?? []" :key="s.name" :class="{ laid: s.name === hand.compared }">
        <div class="head">
          <b>{{ s.name }}</b>
          <span class="number">{{ signed(s.extra) }}</span>
        </div>
        <p>
          {{ s.changed.length }} {{ s.changed.length === 1 ? 'note changes' : 'notes change' }}:
          {{ weighing(s.differences)
          }}<template v-if="s.waived"
            >; not possible at {{ s.waived }} {{ s.waived === 1 ? 'note' : 'notes' }}</template
          >.
        </p>
        <div class="buttons">
          <v-btn
            size="small"
            variant="outlined"
            :aria-pressed="s.name === hand.compared"
            data-test="lay"
            @click="lay(s.name)"
          >
            {{ s.name === hand.compared ? 'Take it away' : 'Lay it over' }}
          </v-btn>
          <v-btn size="small" variant="outlined" data-test="use-way" @click="hand.use(s)">Use it</v-btn>
        </div>
        <table v-if="s.name === hand.compared" class="plain" data-test="compared">
          <thead>
            <tr>
              <th>Measure</th>
              <th>Note</th>
              <th>Now</th>
              <th>Then</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in s.changed.slice(0, 24)" :key="c.id">
              <td>{{ c.measure }}</td>
              <td>
                <button type="button" class="link" @click="bench.select(c.id)">{{ c.pitch }}</button>
              </td>
              <td>
                {{ now.has(c.id) ? fingerText(now.get(c.id)!.finger, letters[now.get(c.id)!.string]!) : '' }}
              </td>
              <td>{{ fingerText(c.finger, letters[c.string]!) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="s.name === hand.compared && s.changed.length > 24" class="quiet">
          and {{ s.changed.length - 24 }} more, in the lane.
        </p>
      </li>
    </ul>
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
}
.plain {
  font-size: 13.5px;
  margin-top: 8px;
}
</style>
