<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue'
import { handOptions, stringLength } from '#core/arrangement/handOptions'
import { sentence } from '#core/words/findings'
import { framesOf } from '#core/instruments/hands'
import FindingList from '../bench/FindingList.vue'
import TabRow from '../bench/TabRow.vue'
import BenchScore from '../bench/BenchScore.vue'
import { useBench } from '../stores/bench'
import { useHand } from '../stores/hand'
import Fingerboard from './Fingerboard.vue'
import HandSetup from './HandSetup.vue'
import HandLane from './HandLane.vue'
import NoteInspector from './NoteInspector.vue'
import PhraseHand from './PhraseHand.vue'
import WaysPanel from './WaysPanel.vue'

const bench = useBench()
const hand = useHand()
onUnmounted(hand.follow())
const recipe = computed(() => bench.recipe!)
const length = computed(() => stringLength(recipe.value.played))
/** From the first to the last finger of the hand at rest, in semitones. */
const span = computed(() => {
  const reaches = framesOf(recipe.value.played.instrument, handOptions(recipe.value.played))[0]!.reaches
  return Math.max(...reaches.filter(r => r.mark === 'home').map(r => r.from))
})
const findings = computed(() =>
  (bench.result?.findings ?? []).filter(f => f.code.startsWith('finger.') || f.code.startsWith('tuning.')),
)

/** What can hurt a hand or an instrument is said wherever one looks. */
const cautions = computed(() => findings.value.filter(f => ['tuning.up', 'finger.spanNear', 'finger.spanReach'].includes(f.code))) // prettier-ignore

type Panel = 'note' | 'ways' | 'phrase' | 'setup' | 'look'
const panel = ref<Panel>('note')
const PANELS = computed<{ value: Panel; name: string }[]>(() => [
  { value: 'note', name: 'Note' },
  { value: 'ways', name: 'Ways' },
  { value: 'phrase', name: 'Phrase' },
  { value: 'setup', name: 'Schools' },
  { value: 'look', name: `Look (${findings.value.length})` },
])

const KINDS = [
  { value: 'all', title: 'everything', codes: [''] },
  { value: 'reach', title: 'out of reach', codes: ['finger.too', 'finger.levelReach', 'finger.span', 'finger.noDoubleStop'] },
  { value: 'shift', title: 'shifts too fast', codes: ['finger.shiftFast'] },
  { value: 'pins', title: 'pins and rules', codes: ['finger.pin', 'finger.rule'] },
  { value: 'tuning', title: 'tuning', codes: ['tuning.'] },
] as const // prettier-ignore
const kind = ref<(typeof KINDS)[number]['value']>('all')
const of = (k: (typeof KINDS)[number]) => findings.value.filter(f => k.codes.some(c => f.code.startsWith(c)))
const kinds = computed(
  () =>
  KINDS.filter(k => k.value === 'all' || of(k).length > 0).map(k => ({ value: k.value, title: `${k.title} (${of(k).length})` })), // prettier-ignore
)
const shown = computed(() => of(KINDS.find(k => k.value === kind.value)!))

const drones = computed(() => [
  { value: -1, title: 'no drone' },
  ...bench.result!.strings.map((l, i) => ({ value: i, title: `over the open ${l}` })),
])
</script>

<template>
  <div v-if="bench.result" class="hand station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore :marks="{ bows: false, chords: false, hand: true }" />
    </section>
    <section class="side" aria-label="The chosen note and what to look at" tabindex="0">
      <TabRow v-model="panel" :tabs="PANELS" name="hand" class="tabs" />
      <p v-if="hand.problem" role="alert">{{ hand.problem }}</p>
      <p v-if="cautions.length && panel !== 'look'" class="caution" role="note" data-test="caution">
        {{ sentence(cautions[0]!) }}
        <button v-if="cautions.length > 1" type="button" class="link" @click="panel = 'look'">
          {{ cautions.length - 1 }} more
        </button>
      </p>
      <NoteInspector v-if="panel === 'note'" :length="length" />
      <WaysPanel v-else-if="panel === 'ways'" />
      <PhraseHand v-else-if="panel === 'phrase'" />
      <HandSetup v-else-if="panel === 'setup'" />
      <section v-else aria-label="Findings" data-test="hand-findings">
        <v-select v-model="kind" :items="kinds" label="Show" data-test="finding-kind" class="school" />
        <FindingList v-if="shown.length" :findings="shown" mends @go="bench.goTo" @mend="bench.mend" />
        <p v-else class="quiet">Nothing to look at: every note has its place and every shift its time.</p>
      </section>
      <template v-if="panel === 'note'">
        <h2 class="minor">Notes in use <small>tapes in mm from the nut</small></h2>
        <Fingerboard :instrument="recipe.played.instrument" :length="length" />
        <v-checkbox
          v-model="hand.showRinging"
          label="Ringing notes"
          density="compact"
          hide-details
          data-test="ringing"
        />
        <v-select
          v-if="hand.showRinging"
          :model-value="hand.droneString ?? -1"
          :items="drones"
          label="Thirds and sixths"
          @update:model-value="v => (hand.droneString = v < 0 ? null : v)"
        />
      </template>
    </section>
    <section class="bottom"><HandLane :length="length" :span="span" /></section>
  </div>
</template>

<style scoped>
.hand {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.tabs {
  margin-bottom: 10px;
}
.side .minor {
  font-size: 14px;
  margin: 14px 0 4px;
}
.side .minor small {
  font-weight: 400;
  color: var(--faint);
}
.caution {
  font-size: 13.5px;
  padding-left: 10px;
  margin-bottom: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
.school {
  margin-top: 12px;
}
</style>
