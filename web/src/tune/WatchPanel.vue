<script setup lang="ts">
/** What this tune asks of the hand, before a bow touches the string; and warm-ups made of it. */
import { mdiPlay } from '@mdi/js'
import { computed, ref, shallowRef, watch } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { keyName } from '#core/music/key'
import { formatPitch, prettyPitch } from '#core/music/pitch'
import { digitText } from '#core/instruments/digits'
import type { UsedPlace } from '#core/watch/watch'
import type { WarmUp } from '#core/watch/warmUps'
import { usePart } from '../stores/parts'
import { usePlayer } from '../stores/player'
import { useShelf } from '../stores/shelf'
import { askPart, latestLane } from '../worker/client'
import type { WatchResult } from '#core/desk/views'
import { measuresText, measureText } from '#core/words/places'
import { timesText } from '#core/counts'

const part = usePart()
const player = usePlayer()
const shelf = useShelf()
const report = shallowRef<WatchResult | null>(null)
const problem = ref('')
const made = ref('')

const asking = latestLane(
  () => askPart('watch', part.asked),
  r => (report.value = r),
  e => (problem.value = e.message),
)
watch(
  () => part.result,
  () => part.result && part.asked && asking.ask(undefined),
  { immediate: true },
)

const letters = computed(() => lettersOf(part.recipe.played.instrument, part.recipe.played.tuning))
const known = computed(() => new Set(part.recipe.taught.known))
/** Each pitch once, from the lowest up. */
const pitches = computed(() => [
  ...new Map((report.value?.places ?? []).map(p => [formatPitch(p.pitch), p])).entries(),
])
const fresh = computed(() => pitches.value.filter(([name]) => known.value.size > 0 && !known.value.has(name)))

function toggle(name: string) {
  const next = known.value.has(name)
    ? part.recipe.taught.known.filter(n => n !== name)
    : [...part.recipe.taught.known, name]
  part.editTaught({ known: next })
}
const say = (p: UsedPlace) =>
  `${prettyPitch(p.pitch)} on ${letters.value[p.string]}, ${digitText(p.finger, p.mark)}`

async function toShelf(w: WarmUp) {
  try {
    await shelf.add({ ...w.tune, title: w.tune.title.slice(0, 400) }, null, w.pins)
    made.value = w.name
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}
</script>

<template>
  <div v-if="report" class="watch" data-test="watch">
    <p class="key">{{ report.keyLine }}</p>
    <p v-if="report.range">
      From {{ prettyPitch(report.range.lowest) }}{{ report.range.lowest.octave }} to
      {{ prettyPitch(report.range.highest) }}{{ report.range.highest.octave }}:
      {{ report.range.semitones }} half steps.
    </p>
    <ul v-if="report.touching.length">
      <li v-for="t in report.touching" :key="t.string">{{ t.sentence }}</li>
    </ul>
    <template v-if="report.off.length">
      <h2>Not on this instrument</h2>
      <p>
        <button v-for="n in report.off" :key="n.id" class="link" @click="part.selectEvent(n.id)">
          {{ formatPitch(n.pitch) }} ({{ measureText(n.measure) }})
        </button>
      </p>
    </template>
    <h2>Fingers that are not at home</h2>
    <p v-if="report.away.length === 0" class="quiet">None: every finger is where the hand expects it.</p>
    <table v-else class="plain">
      <tbody>
        <tr v-for="p in report.away" :key="p.ids[0]">
          <th>
            <button class="link" @click="part.select(p.ids[0]!)">{{ say(p) }}</button>
          </th>
          <td>{{ timesText(p.ids.length) }}, {{ measuresText(p.measures) }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="report.moved.length">
      <h2>A finger moves in mid-tune</h2>
      <ul>
        <li v-for="m in report.moved" :key="m.id">
          <button class="link" @click="part.select(m.id)">{{ m.sentence }}</button>
        </li>
      </ul>
    </template>
    <h2>Notes the learner knows</h2>
    <div class="chips" role="group" aria-label="Notes the learner knows">
      <button
        v-for="[name, p] in pitches"
        :key="name"
        :class="{ on: known.has(name) }"
        :aria-pressed="known.has(name)"
        @click="toggle(name)"
      >
        {{ prettyPitch(p.pitch) }}<sub>{{ p.pitch.octave }}</sub>
      </button>
    </div>
    <p data-test="fresh">
      <template v-if="known.size === 0"
        ><span class="quiet">Tap the notes this learner has met; what is new is named then.</span></template
      >
      <template v-else-if="fresh.length === 0">Nothing new in this tune.</template>
      <template v-else>New: {{ fresh.map(([, p]) => say(p)).join('; ') }}.</template>
    </p>
    <h2>Keys on the way</h2>
    <table class="plain">
      <tbody>
        <tr v-for="p in report.phrases" :key="p.phrase">
          <th>
            <button class="link" @click="part.focus = p.phrase">{{ p.label }}</button>
          </th>
          <td :class="{ quiet: p.sameAsTune }">{{ keyName(p.key) }}</td>
          <td>{{ p.scale.join(' ') }}</td>
        </tr>
      </tbody>
    </table>
    <h2>Warm-ups out of this tune</h2>
    <table class="plain">
      <tbody>
        <tr v-for="w in report.warmUps" :key="w.name">
          <td class="narrow">
            <v-btn
              :icon="mdiPlay"
              size="x-small"
              :aria-label="`Play ${w.name}`"
              :title="`Play ${w.name}`"
              @click="player.hearTune(w.tune)"
            />
          </td>
          <td>
            <b>{{ w.name }}</b><br />{{ w.why }}
          </td>
          <td><button class="link" @click="toShelf(w)">to the shelf</button></td>
        </tr>
      </tbody>
    </table>
    <p v-if="made" role="status">“{{ made }}” is on the shelf.</p>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.watch h2 {
  font-size: 15px;
  margin: 16px 0 4px;
}
.watch p,
.watch ul {
  margin: 0 0 6px;
}
.watch ul {
  padding-left: 18px;
}
.key {
  font-size: 16px;
}
.link:hover {
  text-decoration: underline;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-bottom: 6px;
}
.chips button {
  border: 1px solid var(--rule);
  border-radius: 12px;
  padding: 1px 9px;
  font: inherit;
  font-size: 13px;
  color: inherit;
  background: rgb(var(--v-theme-surface));
}
.chips button.on {
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 25%, rgb(var(--v-theme-surface)));
  font-weight: 700;
}
.chips sub {
  font-size: 10px;
}
.narrow {
  width: 34px;
}
</style>
