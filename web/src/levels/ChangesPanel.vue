<script setup lang="ts">
/** What this version changes, measure by measure: taken or refused one by one. */
import { computed } from 'vue'
import { decided } from '#core/arrangement/edits'
import { isMangled as mangled } from '#core/arranging/kept'
import { changeViews, keptWords, type ChangeView } from '#core/words/arranging'
import { demandWords } from '#core/words/grading'
import { useBench } from '../stores/bench'
import { useLevels } from '../stores/levels'

const bench = useBench()
const store = useLevels()
const views = computed(() =>
  changeViews(bench.documents!.tune, bench.recipe!.played.changes).toSorted((a, b) => a.measure - b.measure),
)
const taken = computed(() => views.value.filter(v => v.accepted).length)
const about = computed(() => (store.made?.id === bench.arrangementId ? store.made : null))
/** The note that stands there now, whether the change made it or not. */
function goTo(v: ChangeView) {
  const event = Object.entries(bench.result!.origin).find(([, from]) => from.includes(v.at))?.[0] ?? v.at
  bench.selectEvent(event, false)
}
</script>

<template>
  <div v-if="views.length || about" class="changes" data-test="changes">
    <h2>
      Changes <small>{{ taken }} of {{ views.length }} taken</small>
    </h2>
    <template v-if="about">
      <p data-test="kept">{{ keptWords(about.kept) }}</p>
      <p v-if="mangled(about.kept)" class="blocked" role="note">
        Much of it lies out of the hand in this key. Try every key first, and make the version there.
      </p>
      <p v-if="about.blocked.length" class="blocked" role="note">
        Still above level {{ about.level }}: {{ about.blocked.map(demandWords).join('; ') }}. Another key may
        do it.
      </p>
    </template>
    <ul>
      <li v-for="v in views" :key="v.id" :class="{ refused: !v.accepted }">
        <input
          :id="`change-${v.id}`"
          type="checkbox"
          :checked="v.accepted"
          :aria-label="`Measure ${v.measure}: ${v.sentence}`"
          data-test="change"
          @change="bench.edit(r => decided(r, v.id, ($event.target as HTMLInputElement).checked))"
        />
        <button type="button" @click="goTo(v)">
          <b>{{ v.measure }}</b> {{ v.sentence }}
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.changes {
  margin-top: 16px;
}
h2 {
  font-size: 15px;
}
h2 small {
  font-weight: 400;
  color: var(--faint);
}
p {
  font-size: 14px;
  margin: 4px 0;
}
.blocked {
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
}
li {
  display: grid;
  grid-template-columns: 22px 1fr;
  align-items: baseline;
}
li button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  text-align: left;
  cursor: pointer;
}
.refused button {
  color: var(--faint);
  text-decoration: line-through;
}
</style>
