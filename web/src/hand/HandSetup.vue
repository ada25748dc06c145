<script setup lang="ts">
/**
 * What the fingering goes by: schools, the learner's hand, the length of the strings, the tuning and what it
 * does to this tune.
 */
import { computed, ref, shallowRef, watch } from 'vue'
import { withSchools, withShown, withTuning } from '#core/arrangement/edits'
import type { Schools, Shown } from '#core/arrangement/recipe'
import type { TuningEffect } from '#core/arrangement/tuningEffect'
import { lettersOf, sizeOf } from '#core/instruments/instruments'
import { CROSS_TUNINGS, formatTuning, homeTuning, parseTuning } from '#core/instruments/tunings'
import { SCHOOL_WORDS, type HandSchool } from '#core/words/schools'
import { itemsOf, type Choice } from '../bench/choice'
import ChoiceRows from '../bench/ChoiceRows.vue'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useStudio } from '../stores/studio'
import { askPart, latestLane } from '../worker/client'
import { counted } from '#core/counts'

const docs = useDocuments()
const part = usePart()
const studio = useStudio()
const recipe = computed(() => part.recipe)

/** What is played, and what is only shown. */
const PLAYED = ['open', 'reach', 'bassHand', 'long', 'harmonics', 'position'] as const

type PlayedSchool = (typeof PLAYED)[number]
const isPlayed = (s: HandSchool): s is PlayedSchool => PLAYED.includes(s as PlayedSchool)
const asked = computed<HandSchool[]>(() => [
  'open',
  ...(['violin', 'viola'].includes(recipe.value.played.instrument) ? ['position' as const] : []),
  ...(recipe.value.played.instrument === 'cello' ? ['reach' as const] : []),
  ...(recipe.value.played.instrument === 'bass' ? ['bassHand' as const] : []),
  'long',
  'harmonics',
  ...(recipe.value.played.tuning ? (['crossNames', 'crossNotes'] as const) : []),
  'places',
  'positions',
  'tabLines',
])
const setSchool = (s: HandSchool, value: string) =>
  part.edit(r =>
    isPlayed(s)
      ? withSchools(r, { [s]: value } as Partial<Schools>)
      : withShown(r, { [s]: value } as Partial<Shown>),
  )
const schools = computed(() =>
  asked.value.map((s): Choice => {
    const { label, items } = SCHOOL_WORDS[s]
    const value = isPlayed(s) ? (recipe.value.played.schools[s] ?? 'auto') : recipe.value.shown[s]
    return { test: `${s}-school`, label, value, items: itemsOf(items), take: v => setSchool(s, v) }
  }),
)

/** Learners by their reach: an arrangement keeps the reach, not the name. */
const spans = computed(() => {
  const out = new Map<number, string>()
  for (const h of studio.studio.learners)
    if (h.span !== null && h.instrument === recipe.value.played.instrument)
      out.set(h.span, [out.get(h.span), h.name].filter(Boolean).join(', '))
  const { span } = recipe.value.played
  if (span !== null && !out.has(span)) out.set(span, '')
  return out
})
const hands = computed(() => [
  { value: 0, title: 'not measured' },
  ...[...spans.value].map(([mm, names]) => ({ value: mm, title: names ? `${names}: ${mm} mm` : `${mm} mm` })),
])
const problem = ref('')
function measure(text: string) {
  const mm = Number(text)
  const good = mm >= 100 && mm <= 1500
  problem.value = text.trim() === '' || good ? '' : 'A string length from 100 to 1500 mm'
  if (text.trim() === '') part.editPlayed({ measured: null }, 'measured')
  else if (good) part.editPlayed({ measured: mm }, 'measured')
}

const effects = shallowRef<readonly { name: string; effect: TuningEffect }[]>([])
const failed = ref('')
const lane = latestLane(
  (names: readonly string[]) => {
    const list = names.flatMap(n => {
      const r = parseTuning(recipe.value.played.instrument, n)
      return 'tuning' in r ? [r.tuning] : []
    })
    return askPart('tunings', part.asked, list)
  },
  (list, names) => {
    const all = ['home', ...names]
    effects.value = list.map((effect, i) => ({ name: all[i]!, effect }))
  },
  e => (failed.value = e.message),
)
watch(
  () =>
    [
      docs.documents!.tune,
      recipe.value.played.instrument,
      recipe.value.played.key,
      recipe.value.played.octave,
      recipe.value.played.tuning,
    ] as const,
  () => {
    const own = recipe.value.played.tuning && formatTuning(recipe.value.played.tuning)
    const shipped = CROSS_TUNINGS[recipe.value.played.instrument]
    lane.ask([...shipped, ...(own && !shipped.includes(own) ? [own] : [])])
  },
  { immediate: true },
)
const letters = computed(() => lettersOf(recipe.value.played.instrument, recipe.value.played.tuning))
const inUse = computed(() => (recipe.value.played.tuning ? formatTuning(recipe.value.played.tuning) : 'home'))
const current = computed(() => effects.value.find(e => e.name === inUse.value)?.effect ?? null)
const drones = (e: TuningEffect) => e.drones.map(d => letters.value[d.string]).join(' ') || 'none'
function take(name: string) {
  const r = parseTuning(recipe.value.played.instrument, name)
  part.edit(now => withTuning(now, name === 'home' || 'error' in r ? null : r.tuning))
}
/**
 * A phrase that can be played an octave away answers itself: call as written, response with the same fingers.
 */
const answers = computed(
  () =>
    current.value?.octaves.map(
      o => `${o.phrase} ${o.by < 0 ? 'lower' : 'higher'}, ${counted(Math.abs(o.strings), 'string')} over`,
    ) ?? [],
)
const homeText = computed(() => formatTuning(homeTuning(recipe.value.played.instrument)))
</script>

<template>
  <section aria-label="What the fingering goes by" class="setup" data-test="setup">
    <ChoiceRows :choices="schools" />
    <v-select
      :model-value="recipe.played.span ?? 0"
      :items="hands"
      label="The learner’s hand, 1 to 4"
      data-test="span"
      @update:model-value="v => part.editPlayed({ span: v === 0 ? null : v })"
    />
    <v-text-field
      :model-value="recipe.played.measured ?? ''"
      type="number"
      label="Measured string length, mm"
      :placeholder="String(sizeOf(recipe.played.instrument, recipe.played.size).string)"
      :error-messages="problem ? [problem] : []"
      data-test="bench-measured"
      @update:model-value="measure"
    />
    <h2 class="minor">What a tuning does to this tune</h2>
    <p v-if="failed" role="alert">{{ failed }}</p>
    <table class="plain" data-test="tuning-effects">
      <thead>
        <tr>
          <th>Tuning</th>
          <th class="number">Open</th>
          <th>Drones</th>
          <th class="number">Octaves</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="e in effects" :key="e.name" :class="{ inuse: e.name === inUse }">
          <td>
            <button type="button" class="link" @click="take(e.name)">
              {{ e.name === 'home' ? homeText : e.name }}
            </button>
            <span v-if="e.effect.missing" class="missing"> {{ e.effect.missing }} off</span>
          </td>
          <td class="number">{{ Math.round(e.effect.open * 100) }}%</td>
          <td>{{ drones(e.effect) }}</td>
          <td class="number">{{ e.effect.octaves.length }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="current && recipe.played.tuning">
      <p v-if="answers.length" data-test="answers">
        Call and response with the same fingers, an octave {{ answers.join('; ') }}.
      </p>
      <ul v-if="current.cannot.length" class="cannot">
        <li v-for="c in current.cannot" :key="c.id">{{ c.phrase }} can’t: {{ c.why }}.</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.setup {
  display: grid;
  gap: 12px;
}
.minor {
  font-size: 14px;
  margin: 6px 0 -6px;
}
.plain {
  font-size: 13.5px;
}
.plain th,
.plain td {
  padding: 4px 8px 4px 0;
}
.inuse {
  font-weight: 700;
}
.missing {
  color: rgb(var(--v-theme-error));
}
.cannot {
  list-style: none;
  padding: 0;
  font-size: 13.5px;
}
</style>
