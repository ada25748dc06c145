<script setup lang="ts">
/** Live pitch against the strings of a tuning, from the microphone or from the simulated string. */
import { useIntervalFn } from '@vueuse/core'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { stringAt, turn, type SimulatedString } from '#core/tuner/simulated'
import { IN_TUNE, tunerReading } from '#core/tuner/tuner'
import { microphone, simulation, type Listening } from './listening'

const props = defineProps<{ id: InstrumentId; tuning: readonly number[] }>()
const source = ref<'off' | 'microphone' | 'simulated'>('off')
const problem = ref('')
const wanted = ref<number | null>(null)
const given = ref(440)
/** A pitch no orchestra tunes to is not taken. */
const a4 = computed(() => (given.value >= 410 && given.value <= 470 ? given.value : 440))
const string = shallowRef<SimulatedString>(stringAt(props.tuning.at(-1)!, -0.6))
const listening = shallowRef<Listening | null>(null)
const heard = shallowRef<ReturnType<Listening['now']>>(null)
/** Times a second the needle moves. */
const { pause, resume } = useIntervalFn(() => (heard.value = listening.value?.now() ?? null), 80, {
  immediate: false,
})

function stop() {
  pause()
  listening.value?.stop()
  listening.value = null
  heard.value = null
  source.value = 'off'
}
async function listen() {
  stop()
  try {
    listening.value = await microphone()
    source.value = 'microphone'
    problem.value = ''
    resume()
  } catch {
    problem.value =
      'No microphone is there, or the browser may not use it. The simulated string works without one.'
  }
}
function simulate() {
  stop()
  problem.value = ''
  const index = wanted.value ?? props.tuning.length - 1
  wanted.value = index
  string.value = stringAt(props.tuning[index]!, -0.6)
  listening.value = simulation(
    () => string.value,
    s => (string.value = s),
  )
  source.value = 'simulated'
  resume()
}
onUnmounted(stop)
watch(() => [props.id, props.tuning], stop)

const reading = computed(
  () => heard.value && tunerReading(heard.value.frequency, props.tuning, wanted.value, a4.value),
)
const letters = computed(() => lettersOf(props.id, props.tuning))
const strings = computed(() => [
  { value: -1, title: 'the nearest string' },
  ...props.tuning.map((m, i) => ({ value: i, title: `${letters.value[i]}: ${formatPitch(pitchOfMidi(m))}` })),
])
function choose(value: number) {
  wanted.value = value < 0 ? null : value
  if (source.value === 'simulated' && value >= 0) string.value = stringAt(props.tuning[value]!, -0.6)
}
const ADVICE: Record<string, string> = {
  right: 'In tune',
  'a little up': 'A little up',
  'a little down': 'A little down',
  up: 'Up, slowly',
  down: 'Down',
  stop: 'Stop: far too high. Is it this string?',
}
/** Per cent of the scale, which shows half a semitone either way. */
const needle = computed(() => 50 + Math.max(-50, Math.min(50, reading.value?.cents ?? 0)))
const turnPeg = (by: number) => (string.value = turn(string.value, by))
</script>

<template>
  <section aria-label="Tuner" class="tuner" data-test="tuner">
    <h2>Tuner</h2>
    <div class="fields">
      <v-select
        :model-value="wanted ?? -1"
        :items="strings"
        label="String"
        data-test="tuner-string"
        @update:model-value="choose"
      />
      <v-text-field v-model.number="given" type="number" min="410" max="470" label="A4, Hz" />
    </div>
    <div class="buttons">
      <v-btn v-if="source === 'off'" variant="outlined" data-test="listen" @click="listen">Listen</v-btn>
      <v-btn v-if="source === 'off'" variant="outlined" data-test="simulate" @click="simulate"
        >Try it on a simulated string</v-btn
      >
      <v-btn v-else variant="outlined" data-test="tuner-stop" @click="stop">Stop</v-btn>
      <template v-if="source === 'simulated'">
        <v-btn
          v-for="by in [-0.3, -0.05, 0.05, 0.3]"
          :key="by"
          variant="outlined"
          :aria-label="`Turn the peg ${Math.abs(by) > 0.1 ? 'much' : 'a little'} ${by > 0 ? 'up' : 'down'}`"
          data-test="peg"
          @click="turnPeg(by)"
          >{{ by > 0 ? (by > 0.1 ? 'peg ↑↑' : 'peg ↑') : by < -0.1 ? 'peg ↓↓' : 'peg ↓' }}</v-btn
        >
      </template>
    </div>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <template v-if="source !== 'off'">
      <div
        class="scale"
        :class="{ right: reading?.advice === 'right' }"
        role="img"
        :aria-label="reading ? `${reading.cents} cents from ${reading.target}` : 'nothing heard'"
      >
        <span class="zone" :style="{ left: `${50 - IN_TUNE}%`, width: `${2 * IN_TUNE}%` }" />
        <span v-for="c in [-50, -25, 0, 25, 50]" :key="c" class="tick" :style="{ left: `${50 + c}%` }">{{
          c
        }}</span>
        <span v-if="reading" class="needle" :style="{ left: `${needle}%` }" />
      </div>
      <p aria-live="polite" data-test="advice">
        <template v-if="reading">
          <b>{{ ADVICE[reading.advice] }}</b> · {{ letters[reading.string] }} string, {{ reading.target }},
          {{ reading.cents > 0 ? '+' : '' }}{{ reading.cents }} cents
        </template>
        <template v-else>Nothing with a plain pitch is heard: bow or pluck one string.</template>
      </p>
    </template>
  </section>
</template>

<style scoped>
.tuner {
  margin-top: 34px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 120px;
  gap: 12px;
  margin: 12px 0;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.scale {
  position: relative;
  height: 54px;
  margin: 16px 0 6px;
  border-bottom: 2px solid currentColor;
}
.zone {
  position: absolute;
  bottom: 0;
  height: 26px;
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 25%, transparent);
}
.tick {
  position: absolute;
  top: 0;
  transform: translateX(-50%);
  font-size: 12px;
  color: var(--faint);
}
.needle {
  position: absolute;
  bottom: 0;
  width: 3px;
  height: 32px;
  margin-left: -1.5px;
  background: rgb(var(--v-theme-secondary));
}
.right .needle {
  background: rgb(var(--v-theme-primary));
}
</style>
