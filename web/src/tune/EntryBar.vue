<script setup lang="ts">
/** Writing by button; every button has its key. */
import { mdiArrowDown, mdiArrowUp, mdiDeleteOutline, mdiPencil, mdiPencilOff } from '@mdi/js'
import { computed } from 'vue'
import { equal, frac, type Fraction } from '#core/music/fraction'
import { useEntry } from '../stores/entry'

const entry = useEntry()
const VALUES: readonly (readonly [string, Fraction, string])[] = [
  ['1/16', frac(1, 4), 'sixteenth'],
  ['1/8', frac(1, 2), 'eighth'],
  ['1/4', frac(1), 'quarter'],
  ['1/2', frac(2), 'half'],
  ['1', frac(4), 'whole'],
]
const dotted = computed(() => entry.length.n % 3 === 0)
const plain = computed(() => (dotted.value ? frac((entry.length.n / 3) * 2, entry.length.d) : entry.length))

function choose(value: Fraction) {
  const next = dotted.value ? frac(value.n * 3, value.d * 2) : value
  entry.take(next)
}
</script>

<template>
  <div
    class="entry"
    :class="{ writing: entry.writing }"
    role="toolbar"
    aria-label="Write notes"
    data-test="entry-bar"
  >
    <v-btn
      size="small"
      :variant="entry.writing ? 'flat' : 'outlined'"
      :color="entry.writing ? 'secondary' : undefined"
      :prepend-icon="entry.writing ? mdiPencilOff : mdiPencil"
      data-test="write"
      @click="entry.writing = !entry.writing"
      >{{ entry.writing ? 'Stop writing' : 'Write notes' }}</v-btn
    >
    <template v-if="entry.writing">
      <div class="group" role="group" aria-label="What a letter does">
        <button
          :class="{ on: entry.mode === 'add' }"
          :aria-pressed="entry.mode === 'add'"
          @click="entry.mode = 'add'"
        >
          add
        </button>
        <button
          :class="{ on: entry.mode === 'correct' }"
          :aria-pressed="entry.mode === 'correct'"
          data-test="correct"
          @click="entry.mode = 'correct'"
        >
          correct
        </button>
      </div>
      <div class="group" role="group" aria-label="Length">
        <button
          v-for="[shown, value, name] in VALUES"
          :key="shown"
          :class="{ on: equal(plain, value) }"
          :aria-pressed="equal(plain, value)"
          :aria-label="`${shown} ${name}`"
          @click="choose(value)"
        >
          {{ shown }}
        </button>
        <button :class="{ on: dotted }" :aria-pressed="dotted" @click="entry.scale('dot')">dot</button>
        <button :class="{ on: entry.triplet }" :aria-pressed="entry.triplet" @click="entry.tuplet()">
          triplet
        </button>
      </div>
      <div class="group" role="group" aria-label="Notes">
        <button @click="entry.rest()">rest</button>
        <button @click="entry.tie()">tie</button>
        <button @click="entry.slur()">slur</button>
        <button aria-label="A step up" @click="entry.letters(1)">
          <v-icon :icon="mdiArrowUp" size="16" />
        </button>
        <button aria-label="A step down" @click="entry.letters(-1)">
          <v-icon :icon="mdiArrowDown" size="16" />
        </button>
        <button aria-label="♯ a half step up" @click="entry.halfSteps(1)">♯</button>
        <button aria-label="♭ a half step down" @click="entry.halfSteps(-1)">♭</button>
        <button aria-label="Take out" @click="entry.remove()">
          <v-icon :icon="mdiDeleteOutline" size="16" />
        </button>
      </div>
      <div class="group" role="group" aria-label="Bars">
        <button @click="entry.closeBar()">bar line</button>
        <button @click="entry.repeatHere()">repeat</button>
      </div>
    </template>
    <span v-else class="quiet">or press w; letters a to g then write notes, digits set their length</span>
  </div>
</template>

<style scoped>
.entry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  padding: 8px 0;
  position: sticky;
  top: 0;
  z-index: 3;
  background: rgb(var(--v-theme-background));
  font-size: 13px;
}
.group {
  display: inline-flex;
  border: 1px solid var(--rule);
  border-radius: 4px;
  overflow: hidden;
}
.group button {
  padding: 4px 8px;
  min-height: 28px;
  font: inherit;
  color: inherit;
  background: rgb(var(--v-theme-surface));
  border-right: 1px solid var(--rule);
}
.group button:last-child {
  border-right: 0;
}
.group button:hover {
  background: rgb(var(--v-theme-surface-variant));
}
.group button.on {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 45%, rgb(var(--v-theme-surface)));
  font-weight: 700;
}
</style>
