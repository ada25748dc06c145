<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, onUnmounted, ref } from 'vue'
import { handOptions, stringLength } from '#core/arrangement/handOptions'
import { sentence } from '#core/words/findings'
import { framesOf } from '#core/instruments/hands'
import TabRow from '../bench/TabRow.vue'
import BenchScore from '../bench/BenchScore.vue'
import { useDocuments } from '../stores/documents'
import { useIntake } from '../stores/intake'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import Fingerboard from './Fingerboard.vue'
import HandLane from './HandLane.vue'
import { HAND_LANE_HEIGHT } from '../bench/laneModel'
import NoteInspector from './NoteInspector.vue'

const HandSetup = defineAsyncComponent(() => import('./HandSetup.vue'))
const PhraseHand = defineAsyncComponent(() => import('./PhraseHand.vue'))
const HandFindings = defineAsyncComponent(() => import('./HandFindings.vue'))
const DroneChoice = defineAsyncComponent(() => import('./DroneChoice.vue'))
const WaysPanel = defineAsyncComponent(() => import('./WaysPanel.vue'))

const part = usePart()
const intake = useIntake()
const docs = useDocuments()
/** A tune just put on the shelf shows all that was proposed for it. */
const isFresh = computed(() => intake.fresh?.id === docs.tuneId)
const hand = useHand()
onUnmounted(hand.follow())
/** The score is drawn first; lane and fingerboard follow in the next breath. */
const laid = ref(false)
onMounted(() => setTimeout(() => (laid.value = true)))
const recipe = computed(() => part.recipe)
const length = computed(() => stringLength(recipe.value.played))
/** From the first to the last finger of the hand at rest, in semitones. */
const span = computed(() => {
  const reaches = framesOf(recipe.value.played.instrument, handOptions(recipe.value.played))[0]!.reaches
  return Math.max(...reaches.filter(r => r.mark === 'home').map(r => r.from))
})
const findings = computed(() =>
  (part.result?.findings ?? []).filter(f => f.code.startsWith('finger.') || f.code.startsWith('tuning.')),
)

/** What can hurt a hand or an instrument is said wherever one looks. */
const cautions = computed(() =>
  findings.value.filter(f => ['tuning.up', 'finger.spanNear', 'finger.spanReach'].includes(f.code)),
)

type Panel = 'note' | 'ways' | 'phrase' | 'setup' | 'look'
const panel = ref<Panel>('note')
const PANELS = computed<{ value: Panel; name: string }[]>(() => [
  { value: 'note', name: 'Note' },
  { value: 'ways', name: 'Alternatives' },
  { value: 'phrase', name: 'Phrase' },
  { value: 'setup', name: 'Style' },
  { value: 'look', name: `Check (${findings.value.length})` },
])
</script>

<template>
  <div v-if="part.result" class="hand station-grid">
    <section class="main" aria-label="Score" tabindex="0">
      <BenchScore :marks="{ bows: isFresh, chords: false, hand: true }" />
    </section>
    <section class="side" aria-label="The chosen note and what to look at" tabindex="0">
      <TabRow v-model="panel" :tabs="PANELS" name="hand" address class="tabs" />
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
      <HandFindings v-else :findings="findings" />
      <template v-if="panel === 'note'">
        <h2 class="minor">Notes in use <small>tapes in mm from the nut</small></h2>
        <Fingerboard v-if="laid" :instrument="recipe.played.instrument" :length="length" />
        <label class="check" data-test="ringing"
          ><input v-model="hand.showRinging" type="checkbox" /> Ringing notes</label
        >
        <DroneChoice v-if="hand.showRinging" />
      </template>
    </section>
    <section class="bottom" :style="{ minHeight: `${HAND_LANE_HEIGHT}px` }">
      <HandLane v-if="laid" :length="length" :span="span" />
    </section>
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
</style>
