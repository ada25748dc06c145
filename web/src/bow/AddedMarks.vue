<script setup lang="ts">
/**
 * What the bow of a sheet gained by Nokta's marks, or would gain: kept, taken off, or taken, in one click.
 * Who shows it follows the bow's report.
 */
import { computed } from 'vue'
import { withBow, withSchools } from '#core/arrangement/edits'
import { MAY_NOTHING } from '#core/bowing/schools'
import { counted } from '#core/counts'
import { offerWords } from '#core/words/bow'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'

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
/** Where a school brings marks of its own it goes with them. */
const takeOff = () => part.edit(r => withBow(withSchools(r, { bow: 'down' }), { may: MAY_NOTHING }))
</script>

<template>
  <p v-if="added.length" class="added" data-test="added-marks">
    {{ counted(added.length, 'bow mark') }} by Nokta, dashed until you keep
    {{ added.length === 1 ? 'it' : 'them' }}.
    <button type="button" class="link" data-test="keep-added" @click="bow.take(added)">keep</button>
    <button type="button" class="link" data-test="added-off" @click="takeOff">take off</button>
  </p>
  <p v-else-if="offer" class="added" data-test="bow-gain">
    {{ offer }}
    <button type="button" class="link" data-test="take-gain" @click="bow.take(bow.report!.edits)">
      take {{ bow.report!.edits.length === 1 ? 'it' : 'them' }}
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
.added button + button {
  margin-left: 10px;
}
</style>
