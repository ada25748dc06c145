<script setup lang="ts">
/** Learners' hands: the reach from 1 to 4, and what it allows on a size. */
import { mdiDelete } from '@mdi/js'
import { computed, reactive } from 'vue'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { largestFor, shareOfHome } from '#core/fingering/limits'
import { newLearner, type Learner } from '#core/instruments/learner'
import type { InstrumentId } from '#core/music/tune'
import { useStudio } from '../stores/studio'

const props = defineProps<{ id: InstrumentId }>()
const studio = useStudio()
type Measured = Learner & { readonly span: number }
const rows = computed(() =>
  studio.studio.learners.filter((l): l is Measured => l.instrument === props.id && l.span !== null),
)
const entry = reactive({ name: '', span: '' })
const span = computed(() => Number(entry.span))
const fits = computed(() => span.value >= 20 && span.value <= 260)
function add() {
  if (!fits.value || entry.name.trim() === '') return
  const { name } = sizeOf(props.id)
  const own = newLearner(crypto.randomUUID(), entry.name.trim().slice(0, 60), props.id, name)
  const learner = { ...own, span: span.value }
  void studio.edit(({ learners }) => ({ learners: [...learners, learner] }))
  Object.assign(entry, { name: '', span: '' })
}
const change = (hand: Learner, part: Partial<Learner>) =>
  studio.edit(({ learners }) => ({ learners: learners.map(l => (l.id === hand.id ? { ...l, ...part } : l)) }))
const sizes = computed(() => INSTRUMENTS[props.id].sizes.map(s => s.name))
function told(hand: Measured): string {
  const share = shareOfHome(props.id, sizeOf(props.id, hand.size).string, hand.span)
  const best = largestFor(props.id, hand.span)
  if (share > 1)
    return `first position with 4 is out of reach on this size; ${best ? `it lies within reach on ${best.name}` : 'it is on every size'}`
  const percent = Math.round(share * 100)
  return share > 0.93
    ? `first position asks for ${percent}% of this hand: short turns, rests, no pain`
    : `first position asks for ${percent}% of this hand`
}
</script>

<template>
  <section aria-label="Hands" class="hands" data-test="hands">
    <h2>Hands</h2>
    <p class="quiet">
      From the tip of the first finger to the tip of the fourth, opened without strain. Initials are enough;
      what is kept stays on this machine and goes when you erase it. What else a learner knows is kept under
      <router-link to="/learners">Learners</router-link>.
    </p>
    <table v-if="rows.length" class="plain">
      <thead>
        <tr>
          <th>Learner</th>
          <th class="number">1 to 4, mm</th>
          <th>Plays on</th>
          <th>What it allows</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="h in rows" :key="h.id" data-test="hand-row">
          <td>{{ h.name }}</td>
          <td class="number">{{ h.span }}</td>
          <td>
            <v-select
              :model-value="h.size"
              :items="sizes"
              :aria-label="`Size that ${h.name} plays on`"
              density="compact"
              hide-details
              class="size"
              @update:model-value="size => change(h, { size })"
            />
          </td>
          <td class="told">{{ told(h) }}</td>
          <td>
            <v-btn
              :icon="mdiDelete"
              size="x-small"
              :aria-label="`Erase the hand of ${h.name}`"
              :title="`Erase the hand of ${h.name}`"
              @click="change(h, { span: null })"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <form class="new" @submit.prevent="add">
      <v-text-field v-model="entry.name" label="Learner" data-test="hand-name" />
      <v-text-field
        v-model="entry.span"
        type="number"
        label="1 to 4, mm"
        :error-messages="entry.span !== '' && !fits ? ['20 to 260 mm'] : []"
        data-test="hand-span"
      />
      <v-btn type="submit" variant="outlined" data-test="add-hand">Keep</v-btn>
    </form>
    <p class="quiet">
      Stretch, extension and long holds can hurt: no pain, short turns, rests; a teacher or health
      professional decides.
    </p>
  </section>
</template>

<style scoped>
.hands {
  margin-top: 34px;
}
.new {
  display: grid;
  grid-template-columns: 1fr 130px auto;
  gap: 12px;
  align-items: start;
  margin: 12px 0 0;
}
.size {
  min-width: 104px;
}
.told,
.quiet {
  font-size: 13.5px;
}
</style>
