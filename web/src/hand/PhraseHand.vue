<script setup lang="ts">
/**
 * The phrase in view: how fast its fingering holds, the shape of the hand, and the teacher's rules for it.
 */
import { mdiClose } from '@mdi/js'
import { computed, ref } from 'vue'
import type { PassageRule } from '#core/fingering/passageRule'
import { counted } from '#core/counts'
import { groupBy } from '#core/groupBy'
import { mannerWords } from '#core/words/schools'
import { fingerText } from '#core/words/fingers'
import { capital, measureText, spanText } from '#core/words/places'
import { lettersOf } from '#core/instruments/instruments'
import { placeName, POSITION_ANCHORS } from '#core/instruments/positions'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import { useStudio } from '../stores/studio'
import ShapeStrip from './ShapeStrip.vue'
import { eventOf } from '#core/music/ids'

const part = usePart()
const hand = useHand()
const studio = useStudio()
const model = computed(() => studio.studio.handModel)
const letters = computed(() => lettersOf(part.recipe.played.instrument, part.recipe.played.tuning))
const shown = computed(
  () => hand.report?.phrases.filter(p => part.focus === null || p.id === part.focus) ?? [],
)
const nameOf = (id: string) => {
  const p = part.phrases.find(x => x.id === id)
  return p ? p.name || p.label : ''
}
/** The phrase whose fingering gives out first. */
const slowest = computed(() => {
  const limited = shown.value.filter(p => p.perMinute !== null)
  return limited.length > 0 ? limited.reduce((a, b) => (b.perMinute! < a.perMinute! ? b : a)) : null
})
/** The phrases by the school of places they are fingered by, which cello and bass have not. */
const manners = computed(() =>
  [
    ...groupBy(
      shown.value.filter(p => p.manner !== 'plain'),
      p => mannerWords(p.manner),
    ),
  ].map(([said, list]) => ({
    said: part.focus === null ? said : capital(said),
    names: `${list.map(p => nameOf(p.id)).join(', ')}:`,
  })),
)
const changes = computed(() => {
  const events = new Set(part.phrases.find(p => p.id === part.focus)?.events ?? [])
  return (hand.report?.changes ?? []).filter(c => part.focus === null || events.has(eventOf(c.note)))
})
const halves = (n: number) =>
  `${Math.abs(n) === 1 ? 'a half step' : `${Math.abs(n)} half steps`} ${n > 0 ? 'down' : 'up'}`

const SOUNDS = ['clear', 'round', 'ringing', 'covered'] as const
const placeTitle = (anchor: number) =>
  `in ${placeName(part.recipe.played.instrument, anchor)} position, first finger ${counted(anchor, 'half step')} up`
const rules = computed<{ title: string; value: string; rule: PassageRule['rule'] }[]>(() => [
  ...letters.value.map((l, string) => ({
    title: `stay on ${l}`,
    value: `string${string}`,
    rule: { kind: 'string' as const, string },
  })),
  { title: 'no open string', value: 'noOpen', rule: { kind: 'noOpen' } },
  { title: 'no fourth finger', value: 'noFourth', rule: { kind: 'noFourth' } },
  ...(['violin', 'viola'].includes(part.recipe.played.instrument)
    ? [
        {
          title: 'rather first position',
          value: 'placesHome',
          rule: { kind: 'places' as const, school: 'home' as const },
        },
        {
          title: 'kept in one position',
          value: 'placesPosition',
          rule: { kind: 'places' as const, school: 'position' as const },
        },
      ]
    : []),
  { title: 'without moving the hand', value: 'still', rule: { kind: 'position', anchor: null } },
  ...POSITION_ANCHORS.slice(0, 12).map(anchor => ({
    title: placeTitle(anchor),
    value: `at${anchor}`,
    rule: { kind: 'position' as const, anchor },
  })),
  ...SOUNDS.map(sound => ({
    title: `a ${sound} sound`,
    value: sound,
    rule: { kind: 'sound' as const, sound },
  })),
])
const wanted = ref<string | null>(null)
function add(value: string | null) {
  const found = rules.value.find(r => r.value === value)
  if (found) hand.addRule(found.rule)
  wanted.value = null
}
const titleOf = (rule: PassageRule['rule']) =>
  rules.value.find(r => JSON.stringify(r.rule) === JSON.stringify(rule))?.title ?? rule.kind
const measureOf = (event: string) => part.notes.find(n => n.event === event)?.measure
const placeOf = (r: PassageRule) => {
  const [a, b] = [measureOf(r.from), measureOf(r.to)]
  return a === undefined || b === undefined ? '' : spanText(a, b)
}
const aim = computed(() => part.result!.tempo.perMinute)
</script>

<template>
  <section aria-label="The hand in this phrase" data-test="phrase-hand">
    <h2 class="minor">How fast it holds</h2>
    <template v-if="slowest">
      <p data-test="ceiling">
        <b v-if="part.focus === null">{{ nameOf(slowest.id) }} </b>
        {{ slowest.ceiling }}<template v-if="slowest.perMinute! < aim">: below the tempo asked for</template>.
      </p>
      <p v-if="hand.report?.above" class="quiet">
        Above that:
        <template v-for="(c, i) in hand.report.above.changed.slice(0, 6)" :key="c.id">
          <template v-if="i">, </template>{{ fingerText(c.finger, letters[c.string]!) }} for {{ c.pitch }}
        </template>
        ({{ hand.report.above.text }}).
      </p>
    </template>
    <p v-else>Nothing in it limits the tempo: the hand stays and the bow keeps its string.</p>
    <p class="quiet small" data-test="assumed">
      Assumed: a shift settles in {{ model.settleSeconds }} s and travels {{ model.mmPerSecond }} mm a second,
      a crossing takes {{ model.crossingSeconds }} s.
      <router-link to="/instruments" class="link">Change it</router-link>
    </p>
    <template v-if="manners.length">
      <h2 class="minor">Where it lies</h2>
      <p v-for="m in manners" :key="m.said" data-test="manner">
        <b v-if="part.focus === null">{{ m.names }}</b> {{ m.said }}.
      </p>
    </template>
    <h2 class="minor">Shape of the hand</h2>
    <div v-for="p in shown.slice(0, 8)" :key="p.id">
      <p v-if="part.focus === null" class="label">{{ nameOf(p.id) }}</p>
      <div v-for="s in p.shapes" :key="s.anchor">
        <ShapeStrip
          v-for="x in s.strings"
          :key="x.string"
          :shape="x"
          :anchor="s.anchor"
          :letter="letters[x.string]!"
        />
      </div>
    </div>
    <ul v-if="changes.length" class="changes">
      <li v-for="c in changes.slice(0, 8)" :key="c.note">
        <button type="button" class="link" @click="part.select(c.note)">
          {{ capital(measureText(c.measure)) }}</button>: finger {{ c.finger }} on
        {{ letters[c.string] }} moves {{ halves(c.by) }}
      </li>
    </ul>
    <h2 class="minor">Rules for this stretch</h2>
    <v-select
      v-model="wanted"
      :items="rules"
      label="Add a rule"
      data-test="add-rule"
      @update:model-value="add"
    />
    <p class="quiet small">For the notes chosen, else the phrase in view, else the whole tune.</p>
    <ul class="rules">
      <li v-for="(r, i) in part.recipe.played.passages" :key="i" data-test="rule">
        <span
          >{{ titleOf(r.rule) }} <small>{{ placeOf(r) }}</small></span
        >
        <v-btn
          :icon="mdiClose"
          size="x-small"
          :aria-label="`Take the rule “${titleOf(r.rule)}” off`"
          :title="`Take the rule “${titleOf(r.rule)}” off`"
          @click="hand.dropRule(i)"
        />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.minor {
  font-size: 14px;
  margin: 12px 0 4px;
}
.label {
  font-weight: 700;
  margin-top: 8px;
}
.small {
  font-size: 13px;
  margin-top: 4px;
}
.changes,
.rules {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
  font-size: 14px;
}
.rules li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-top: 1px solid var(--rule);
}
</style>
