<script setup lang="ts">
/**
 * From the home tuning (or the one that stands) to another: what each string must do, the caution, the safe
 * order, a tone to tune to.
 */
import { mdiVolumeHigh } from '@mdi/js'
import { computed, ref, watch } from 'vue'
import { sentence } from '#core/words/findings'
import {
  CROSS_TUNINGS,
  fiveStrings,
  formatTuning,
  homeTuning,
  parseTuning,
  retuneOrder,
  retuneSteps,
  totalChange,
  tuningFindings,
  tuningProblem,
} from '#core/instruments/tunings'
import type { InstrumentId } from '#core/music/tune'
import { playTone } from '../sound/referenceTone'
import { useStudio } from '../stores/studio'

const props = defineProps<{ id: InstrumentId }>()
const target = defineModel<readonly number[]>('target', { required: true })
const studio = useStudio()
const current = ref<readonly number[]>(homeTuning(props.id))
const text = ref(formatTuning(target.value))
const problem = ref('')
watch(
  () => props.id,
  id => {
    current.value = homeTuning(id)
    text.value = formatTuning(homeTuning(id))
    problem.value = ''
  },
)
function read(value: string) {
  text.value = value
  const result = parseTuning(props.id, value)
  problem.value = 'error' in result ? tuningProblem(props.id, result.error) : ''
  if (!('tuning' in result)) return
  target.value = result.tuning
  if (current.value.length !== result.tuning.length) current.value = homeTuning(props.id, result.tuning)
}
const known = computed(() => [
  formatTuning(homeTuning(props.id)),
  ...CROSS_TUNINGS[props.id],
  ...fiveStrings(props.id),
])
const tensions = computed(() => studio.studio.tensions[props.id] ?? [])
/** Tensions of the strings as they stand now: what was entered is for the home tuning. */
const steps = computed(() => {
  const home = retuneSteps(props.id, current.value, homeTuning(props.id, current.value), tensions.value)
  const now = current.value.map((_, i) => home.find(s => s.index === i)!.newtons?.to ?? null)
  return retuneSteps(props.id, target.value, current.value, now)
})
const order = computed(() => retuneOrder(steps.value))
const total = computed(() => totalChange(steps.value))
const cautions = computed(() => tuningFindings(props.id, target.value, current.value))
const signed = (n: number, unit: string) => `${n > 0 ? '+' : n < 0 ? '−' : ''}${Math.abs(n)}${unit}`
function tension(index: number, value: string) {
  const newtons = Number(value)
  const own = current.value.map((_, i) => tensions.value[i] ?? null)
  own[index] = value.trim() !== '' && newtons >= 5 && newtons <= 600 ? newtons : null
  void studio.edit(now => ({ tensions: { ...now.tensions, [props.id]: own } }))
}
const sounding = ref(-1)
async function sound(index: number) {
  sounding.value = index
  try {
    await playTone(target.value[index]!)
  } finally {
    sounding.value = -1
  }
}
</script>

<template>
  <section aria-label="Tunings" data-test="retune">
    <h2>Tuning</h2>
    <div class="fields">
      <v-text-field
        :model-value="text"
        label="To, low to high"
        :error-messages="problem ? [problem] : []"
        data-test="retune-to"
        @update:model-value="read"
      />
      <v-select
        :model-value="formatTuning(current)"
        :items="known"
        label="From"
        @update:model-value="
          v => {
            const r = parseTuning(id, v)
            if ('tuning' in r) current = r.tuning
          }
        "
      />
    </div>
    <p class="known">
      <button
        v-for="k in known"
        :key="k"
        type="button"
        class="link"
        :aria-pressed="k === text"
        @click="read(k)"
      >
        {{ k }}
      </button>
    </p>
    <table class="plain">
      <thead>
        <tr>
          <th>String</th>
          <th>From</th>
          <th>To</th>
          <th class="number">Semitones</th>
          <th class="number">Cents</th>
          <th class="number">Tension</th>
          <th class="number" title="Tension at home, as printed on the string's packet">Newtons at home</th>
          <th>Tone</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in steps" :key="s.index" data-test="retune-step">
          <td>
            <b>{{ s.string }}</b>
          </td>
          <td>{{ s.from }}</td>
          <td>{{ s.to }}</td>
          <td class="number">{{ signed(s.semitones, '') }}</td>
          <td class="number">{{ signed(s.cents, '') }}</td>
          <td class="number">
            {{ signed(s.tensionPercent, '%') }}<template v-if="s.newtons"> · {{ s.newtons.to }} N</template>
          </td>
          <td class="number">
            <input
              type="number"
              min="5"
              max="600"
              :value="tensions[s.index] ?? ''"
              :aria-label="`Tension of the ${s.string} string in newtons`"
              @change="tension(s.index, ($event.target as HTMLInputElement).value)"
            />
          </td>
          <td>
            <v-btn
              :icon="mdiVolumeHigh"
              size="x-small"
              :disabled="sounding === s.index"
              :aria-label="`Hear ${s.to}`"
              :title="`Hear ${s.to}`"
              data-test="tone"
              @click="sound(s.index)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="order.length" data-test="retune-order">
      <b>In this order:</b>
      {{ order.map(s => `${s.string} ${s.semitones > 0 ? 'up' : 'down'} to ${s.to}`).join(', then ') }}; then
      check all strings again.
    </p>
    <p v-else class="quiet">Nothing to do: it is tuned so.</p>
    <p v-if="total !== null">All strings together: {{ signed(total, ' N') }}.</p>
    <ul v-if="cautions.length" class="cautions">
      <li v-for="c in cautions" :key="sentence(c)" role="note">{{ sentence(c) }}</li>
    </ul>
    <p class="quiet">
      In the tab of a cross-tuning strings keep their home names unless the arrangement says otherwise.
    </p>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin: 12px 0;
}
.plain {
  font-size: 14px;
  margin-bottom: 12px;
}
.plain th,
.plain td {
  padding-right: 10px;
}
.known {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  font-size: 13.5px;
  margin-bottom: 10px;
}
.cautions {
  list-style: none;
  padding: 8px 12px;
  margin: 8px 0;
  border-left: 4px solid rgb(var(--v-theme-warning));
  font-size: 14px;
}
.cautions li + li {
  margin-top: 6px;
}
</style>
