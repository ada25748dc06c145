<script setup lang="ts">
/** The notes another fingering changes: as they are, and as they would be. */
import { computed } from 'vue'
import type { SolutionNote } from '#core/teach/handReport'
import { digitText } from '#core/instruments/digits'
import { lettersOf } from '#core/instruments/instruments'
import { usePart } from '../stores/parts'

const props = defineProps<{ notes: readonly SolutionNote[] }>()
const MOST = 24
const part = usePart()
const letters = computed(() => lettersOf(part.recipe.played.instrument, part.recipe.played.tuning))
const now = computed(() => new Map(part.notes.map(n => [n.id, n])))
const said = (n: Pick<SolutionNote, 'finger' | 'mark' | 'string'> | undefined) => {
  if (!n) return ''
  const letter = letters.value[n.string]
  return n.finger === 0 ? `open ${letter}` : `${digitText(n.finger, n.mark)} on ${letter}`
}
const more = computed(() => props.notes.length - MOST)
</script>

<template>
  <table class="plain" data-test="compared">
    <thead>
      <tr>
        <th>Measure</th>
        <th>Note</th>
        <th>Now</th>
        <th>Then</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="c in notes.slice(0, MOST)" :key="c.id">
        <td>{{ c.measure }}</td>
        <td>
          <button type="button" class="link" @click="part.select(c.id)">{{ c.pitch }}</button>
        </td>
        <td>{{ said(now.get(c.id)) }}</td>
        <td>{{ said(c) }}</td>
      </tr>
    </tbody>
  </table>
  <p v-if="more > 0" class="quiet">and {{ more }} more, in the lane.</p>
</template>

<style scoped>
.plain {
  font-size: 13.5px;
  margin-top: 8px;
}
</style>
