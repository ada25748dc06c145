<script setup lang="ts">
/** What to look at, with mends that were tried: pointing at one shows the strokes it makes. */
import { computed } from 'vue'
import type { Finding, Mend } from '#core/findings/finding'
import { effectWords, groupedFindings, offerWords } from '#core/words/bow'
import { mendWords, placeText, sentence } from '#core/words/findings'
import { useBench } from '../stores/bench'
import { useBow } from '../stores/bow'
import ScopeChoice from './ScopeChoice.vue'

const bench = useBench()
const bow = useBow()
const WORD = { error: 'Wrong', warning: 'Look', note: 'Note' }
const groups = computed(() => groupedFindings(bow.report?.findings ?? []))
const offer = computed(() => {
  const r = bow.report
  const down = bench.recipe!.played.schools.bow === 'down'
  return r && down ? offerWords(r.upNow, r.upThen, r.firstBeats, r.edits.length) : null
})
const whole = computed<Mend>(() => ({ kind: 'bow', edits: bow.offeredHere }))
const where = (f: Finding, grouped: string) => (grouped ? '' : placeText(f))
function take(m: Mend) {
  bow.tryMend(null)
  bench.mend(m)
}
const scopeWord = computed(
  () => ({ all: '', phrase: ' in this phrase', chosen: ' among the chosen notes' })[bow.scope],
)
</script>

<template>
  <div v-if="offer || (bow.report?.edits.length ?? 0) > 0" class="offer" data-test="bow-offer">
    <p v-if="offer">{{ offer }}</p>
    <ScopeChoice v-if="bench.focus !== null || bench.selection.length > 1" />
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
      >Take {{ bow.offeredHere.length === 1 ? 'the mark' : `all ${bow.offeredHere.length} marks`
      }}{{ scopeWord }}</v-btn
    >
  </div>
  <ul v-if="groups.length" class="list" data-test="findings">
    <li v-for="(g, i) in groups" :key="i" :class="g.findings[0]!.severity">
      <button type="button" class="line" @click="bench.goTo(g.findings[0]!)">
        <span class="word">{{ WORD[g.findings[0]!.severity] }}</span>
        <span>
          <b v-if="where(g.findings[0]!, g.sentence)" class="place"
            >{{ where(g.findings[0]!, g.sentence) }}: </b
          >{{ g.sentence || sentence(g.findings[0]!) }}
        </span>
      </button>
      <span v-for="m in g.mends" :key="mendWords(m)" class="mend">
        <v-btn
          size="x-small"
          variant="outlined"
          data-test="mend"
          @mouseenter="bow.tryMend(m)"
          @mouseleave="bow.tryMend(null)"
          @focus="bow.tryMend(m)"
          @blur="bow.tryMend(null)"
          @click="take(m)"
          >{{ mendWords(m) }}</v-btn
        >
        <small v-if="m.kind === 'bow' && m.effect">{{ effectWords(m.effect) }}</small>
      </span>
    </li>
  </ul>
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
.list {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: 14px;
}
.line {
  display: grid;
  grid-template-columns: 46px 1fr;
  gap: 6px;
  width: 100%;
  text-align: left;
  padding: 5px 0;
  color: inherit;
  background: none;
  border: 0;
  font: inherit;
  cursor: pointer;
}
.word {
  font-weight: 700;
  font-size: 12.5px;
}
.error .word {
  color: rgb(var(--v-theme-error));
}
.warning .word {
  color: rgb(var(--v-theme-warning));
}
.note .word {
  color: var(--faint);
}
.mend {
  display: block;
  padding: 0 0 6px 52px;
}
.mend small {
  display: block;
  color: var(--faint);
  margin-top: 2px;
}
.mend :deep(.v-btn) {
  height: auto;
  min-height: 24px;
  padding-block: 3px;
}
.mend :deep(.v-btn__content) {
  white-space: normal;
  text-align: left;
}
</style>
