<script setup lang="ts">
/**
 * What the bow of a sheet gained by Nokta's marks, or would gain: accepted, rejected, or taken up, in one click.
 * Who shows it follows the bow's report.
 */
import { computed } from 'vue'
import { bowRefused, withBow, withSchools } from '#core/arrangement/edits'
import { MAY_NOTHING } from '#core/bowing/schools'
import { counted } from '#core/counts'
import type { BowEdit } from '#core/findings/finding'
import { bowEditsWords, offerWords } from '#core/words/bow'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'

defineProps<{
  /** Each mark on a line of its own too. */
  listed?: boolean
}>()
const part = usePart()
const bow = useBow()
const added = computed(() => part.result?.strokes.flatMap(s => s.added) ?? [])
const offer = computed(() => {
  const r = bow.report
  const down = part.recipe.played.schools.bow === 'down'
  return r && down && r.upNow > 0 && r.edits.length > 0
    ? offerWords(r.upNow, r.upThen, r.firstBeats, r.edits.length)
    : null
})
/** "Slur in measure 3, to the F#4". */
function lineOf(e: BowEdit): string {
  const note = part.notes.find(n => n.event === e.note)
  const words = bowEditsWords([note ? { ...e, measure: note.measure } : e])
  return note ? `${words}, ${e.way === 'slur' || e.way === 'part' ? 'to' : 'at'} ${note.pitch}` : words
}
/** Where a school brings marks of its own it goes with them. */
const takeOff = () => part.edit(r => withBow(withSchools(r, { bow: 'down' }), { may: MAY_NOTHING }))
</script>

<template>
  <p v-if="added.length" class="added" data-test="added-marks">
    {{ counted(added.length, 'bow mark') }} by Nokta, dashed until you accept
    {{ added.length === 1 ? 'it' : 'them' }}.
    <button type="button" class="link" data-test="keep-added" @click="bow.take(added)">
      {{ listed && added.length > 1 ? 'accept all' : 'accept' }}
    </button>
    <button type="button" class="link" data-test="added-off" @click="takeOff">
      {{ listed && added.length > 1 ? 'reject all' : 'reject' }}
    </button>
  </p>
  <ul v-if="listed && added.length > 1" class="list" data-test="added-list">
    <li v-for="e in added" :key="`${e.note}${e.way}`">
      <button type="button" class="where" @click="part.selectEvent(e.note)">{{ lineOf(e) }}</button>
      <button type="button" class="link" data-test="keep-one" @click="bow.take([e])">accept</button>
      <button type="button" class="link" data-test="off-one" @click="part.edit(r => bowRefused(r, [e]))">
        reject
      </button>
    </li>
  </ul>
  <p v-else-if="offer" class="added" data-test="bow-gain">
    {{ offer }}
    <button type="button" class="link" data-test="take-gain" @click="bow.take(bow.report!.edits)">
      accept {{ bow.report!.edits.length === 1 ? 'it' : 'them' }}
    </button>
  </p>
</template>

<style scoped>
.added {
  margin: 0;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-secondary));
  font-size: 14px;
}
.list {
  list-style: none;
  margin: 4px 0 10px;
  padding: 0;
  font-size: 14px;
}
.list li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  min-height: 26px;
}
.where {
  flex: 1;
  text-align: left;
  font: inherit;
  color: inherit;
  background: none;
}
.where:hover {
  color: rgb(var(--v-theme-primary));
}
.added button + button {
  margin-left: 10px;
}
</style>
