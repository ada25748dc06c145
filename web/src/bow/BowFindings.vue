<script setup lang="ts">
/** What to look at, with mends that were tried: pointing at one shows the strokes it makes. */
import { computed } from 'vue'
import type { Mend } from '#core/findings/finding'
import { offerWords } from '#core/words/bow'
import FindingList from '../bench/FindingList.vue'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import AddedMarks from './AddedMarks.vue'
import ScopeChoice from './ScopeChoice.vue'

const part = usePart()
const bow = useBow()
const offer = computed(() => {
  const r = bow.report
  const down = part.recipe.played.schools.bow === 'down'
  return r && down ? offerWords(r.upNow, r.upThen, r.firstBeats, r.edits.length) : null
})
const whole = computed<Mend>(() => ({ kind: 'bow', edits: bow.offeredHere }))
function take(m: Mend) {
  bow.tryMend(null)
  part.mend(m)
}
const scopeWord = computed(
  () => ({ all: '', phrase: ' in this phrase', chosen: ' among the chosen notes' })[bow.scope],
)
</script>

<template>
  <AddedMarks v-if="bow.addedHere.length" listed />
  <div v-if="offer || (bow.report?.edits.length ?? 0) > 0" class="offer" data-test="bow-offer">
    <p v-if="offer">{{ offer }}</p>
    <ScopeChoice v-if="part.focus !== null || part.selection.length > 1" />
    <v-btn
      v-if="bow.offeredHere.length"
      color="primary"
      variant="flat"
      size="small"
      data-test="take-all"
      @mouseenter="bow.tryMend(whole)"
      @mouseleave="bow.tryMend(null)"
      @focus="bow.tryMend(whole)"
      @blur="bow.tryMend(null)"
      @click="take(whole)"
      >Accept
      {{
        bow.offeredHere.length === 1
          ? 'the mark'
          : bow.offeredHere.length === 2
            ? 'both marks'
            : `all ${bow.offeredHere.length} marks`
      }}{{ scopeWord }}</v-btn
    >
  </div>
  <FindingList
    v-if="bow.report?.findings.length"
    :findings="bow.report.findings"
    mends
    @go="part.goTo"
    @try="bow.tryMend"
    @mend="take"
  />
  <p v-else-if="bow.report" class="quiet" data-test="no-bow-findings">
    The bowing comes out: nothing to mend.
  </p>
</template>

<style scoped>
.offer {
  border-left: 4px solid rgb(var(--v-theme-secondary));
  padding: 2px 0 4px 10px;
  margin-bottom: 10px;
}
.offer p {
  margin-bottom: 6px;
}
</style>
