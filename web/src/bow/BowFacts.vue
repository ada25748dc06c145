<script setup lang="ts">
/** The way along the bow, how fast it goes, and how it reads slowly. */
import { computed } from 'vue'
import { valueName } from '#core/music/valueName'
import { driftWords } from '#core/words/bow'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import { measureText } from '#core/words/places'

const part = usePart()
const bow = useBow()
const limited = computed(() => bow.report?.ceilings.filter(c => c.text !== null) ?? [])
const half = computed(() => {
  const t = part.result!.tempo
  return `${valueName(t.beat)} = ${Math.round(t.perMinute / 2)}`
})
const crossings = computed(() => {
  const all = bow.report?.crossings.filter(c => c.pass === 1) ?? []
  return {
    all: all.length,
    slurred: all.filter(c => c.slurred).length,
    skips: all.filter(c => Math.abs(c.from - c.to) > 1).length,
  }
})
const goTo = (event: string) => part.selectEvent(event, false)
</script>

<template>
  <div v-if="bow.report" data-test="bow-travel">
    <h2 class="minor">Left to itself the bow drifts</h2>
    <ul>
      <li v-for="(p, i) in bow.report.parts" :key="i">{{ driftWords(p) }}</li>
    </ul>
    <label class="check"><input v-model="bow.showDrift" type="checkbox" /> Shown in the lane</label>
    <h2 class="minor">Slowly, {{ half }}</h2>
    <p>
      A stroke travels {{ bow.report.slow.cmThen.toFixed(0) }} cm on the average,
      {{ bow.report.slow.cmNow.toFixed(0) }} cm at tempo.
      <template v-if="bow.report.slow.part.length === 0">Every slur still fits one bow.</template>
    </p>

    <p v-if="bow.report.slow.part.length">
      Part these slurs for it:
      <template v-for="(p, i) in bow.report.slow.part" :key="p.note"
        ><button type="button" class="link" @click="goTo(p.note)">{{ measureText(p.measure) }}</button
        >{{ i < bow.report.slow.part.length - 1 ? ', ' : '.' }}
      </template>
    </p>
    <h2 class="minor">Strings</h2>
    <p>
      The bow changes strings {{ crossings.all }} times{{
        crossings.slurred ? `, ${crossings.slurred} of them inside a slur` : ''
      }}{{ crossings.skips ? `, ${crossings.skips} skipping one: prepare the arm across` : '' }}.
    </p>

    <h2 class="minor">How fast it goes</h2>
    <ul v-if="limited.length">
      <li v-for="c in limited" :key="c.id">
        <b>{{ c.label }}</b> {{ c.text }}
      </li>
    </ul>
    <p v-else class="quiet">Neither hand nor bow is near its limit at this tempo.</p>
  </div>
</template>

<style scoped>
.minor {
  font-size: 14px;
  margin: 12px 0 4px;
}
.minor:first-child {
  margin-top: 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li,
p {
  padding: 1px 0;
  font-size: 14px;
}
.check {
  display: block;
  margin-top: 4px;
}
</style>
