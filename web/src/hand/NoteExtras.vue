<script setup lang="ts">
/** What else there is to say at the chosen note: how to get there, ornaments, what to prepare, what rings. */
import { computed } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { MARK_NAMES } from '#core/words/marks'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'

const part = usePart()
const hand = useHand()
const letters = computed(() => lettersOf(part.recipe.played.instrument, part.recipe.played.tuning))
const event = computed(() => part.selectedNote?.event)
const lines = computed(() => {
  const r = hand.report
  const id = part.selected
  if (!r || !event.value || id === null) return []
  const shift = r.landmarks.filter(l => l.to === event.value).map(l => `To get there ${l.text}.`)
  const cues = r.cues
    .filter(c => c.at === event.value && c.kind === 'prepare')
    .map(c => `While it sounds, put ${c.finger} ready on ${letters.value[c.string]}.`)
  const moves = r.cues
    .filter(c => c.for === event.value && c.kind !== 'prepare')
    .map(c =>
      c.kind === 'hop'
        ? `Finger ${c.finger} hops to ${letters.value[c.string]}: lift it early.`
        : `Finger ${c.finger} slides here while the hand stays: not a shift.`,
    )
  const ornaments = r.ornaments
    .filter(o => o.note === event.value)
    .map(
      o =>
        `${o.kind === 'grace' ? 'grace' : MARK_NAMES[o.kind]}: ${o.fingers.map(f => `${f.pitch} ${f.finger === null ? 'out of reach' : `with ${f.finger}`}`).join(', ')}; it has time up to ${o.ceiling}.`,
    )
  const rings = r.ringing[id]
  const ring = rings?.with.length
    ? [`It rings with the open ${rings.with.map(s => letters.value[s]).join(' and ')}.`]
    : []
  const pure = rings?.pure
    ? [
        `As a ${rings.pure.interval} over the drone it wants to sit ${Math.abs(rings.pure.cents)} cents ${rings.pure.cents < 0 ? 'low' : 'high'}: ${Math.abs(rings.pure.mm)} mm towards the ${rings.pure.mm < 0 ? 'nut' : 'bridge'}.`,
      ]
    : []
  const other = r.otherwise
    .filter(o => o.note === id)
    .map(o => `Fingered otherwise than in the phrase it repeats. ${o.why}`)
  return [...shift, ...moves, ...cues, ...ornaments, ...ring, ...pure, ...other]
})
</script>

<template>
  <ul v-if="lines.length" class="extras" data-test="extras">
    <li v-for="l in lines" :key="l">{{ l }}</li>
  </ul>
</template>

<style scoped>
.extras {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
  font-size: 14px;
}
.extras li {
  padding: 3px 0 3px 10px;
  border-left: 3px solid rgb(var(--v-theme-secondary));
  margin-bottom: 4px;
}
</style>
