<script setup lang="ts">
/** A groove: one of the catalogue, typed, or tapped: each gap between two dots is joined or parted. */
import { computed, ref, watch } from 'vue'
import type { GrooveRecipe } from '#core/arrangement/bowRecipe'
import { GROOVES, parsePattern, patternWords } from '#core/bowing/pattern'

const props = defineProps<{ groove: GrooveRecipe | null }>()
const emit = defineEmits<{ choose: [groove: GrooveRecipe] }>()
const unit = computed(() => props.groove?.unit ?? { n: 1, d: 2 })
const offset = computed(() => props.groove?.offset ?? 0)
const choose = (pattern: readonly number[], change: Partial<GrooveRecipe> = {}) =>
  emit('choose', { pattern: [...pattern], unit: unit.value, offset: offset.value, ...change })

const typed = ref('')
watch(
  () => props.groove,
  g => (typed.value = g?.pattern.join(' ') ?? ''),
  { immediate: true },
)
const wrong = computed(() => typed.value.trim() !== '' && parsePattern(typed.value) === null)
function take() {
  const pattern = parsePattern(typed.value)
  if (pattern) choose(pattern)
}
/** Gaps between the units: true where both lie in one bow. */
const gaps = computed(() => {
  const out: boolean[] = []
  for (const n of props.groove?.pattern ?? []) out.push(...Array<boolean>(n - 1).fill(true), false)
  return out.slice(0, -1)
})
function tap(i: number) {
  const pattern: number[] = [1]
  gaps.value.forEach((joined, k) => {
    if ((k === i) !== joined) pattern[pattern.length - 1]!++
    else pattern.push(1)
  })
  choose(pattern)
}
const lengthen = (by: 1 | -1) => {
  const p = props.groove!.pattern
  choose(by > 0 ? [...p, 1] : p.at(-1)! > 1 ? [...p.slice(0, -1), p.at(-1)! - 1] : p.slice(0, -1))
}
const same = (p: readonly number[]) => p.join() === props.groove?.pattern.join()
const UNITS = [
  { value: '1/1', title: 'quarters' },
  { value: '1/2', title: 'eighths' },
  { value: '1/4', title: 'sixteenths' },
]
const unitName = computed(() => `${unit.value.n}/${unit.value.d}`)
function setUnit(name: string) {
  const [n, d] = name.split('/').map(Number)
  if (props.groove) choose(props.groove.pattern, { unit: { n: n!, d: d! } })
}
/** Dots and the bows over them, 14 pixels a unit. */
const bows = (p: readonly number[]) => {
  let at = 0
  return p.map(n => {
    const x = 8 + at * 14
    at += n
    return { x, width: (n - 1) * 14, n }
  })
}
const dots = (p: readonly number[]) =>
  Array.from({ length: p.reduce((a, b) => a + b, 0) }, (_, i) => 8 + i * 14)
</script>

<template>
  <div class="picker" data-test="patterns">
    <button
      v-for="g in GROOVES"
      :key="g.name"
      type="button"
      class="groove"
      :aria-pressed="same(g.pattern)"
      :data-test="`groove-${g.pattern.join('-')}`"
      :title="g.what"
      @click="choose(g.pattern)"
    >
      <svg :width="dots(g.pattern).length * 14 + 4" height="20" aria-hidden="true">
        <path
          v-for="b in bows(g.pattern)"
          :key="b.x"
          :d="b.n > 1 ? `M${b.x} 9 q${b.width / 2} -9 ${b.width} 0` : `M${b.x} 6 v4`"
        />

        <circle v-for="x in dots(g.pattern)" :key="x" :cx="x" cy="14" r="3" />
      </svg>
      <span>{{ g.name }}</span>
    </button>
  </div>
  <template v-if="groove">
    <p class="own">{{ patternWords(groove.pattern) }}</p>
    <div
      class="tapped"
      role="group"
      aria-label="Tap between two dots to join or part them"
      data-test="tapped"
    >
      <template v-for="(joined, i) in [...gaps, null]" :key="i">
        <span class="dot" />
        <button
          v-if="joined !== null"
          type="button"
          class="gap"
          :class="{ joined }"
          :aria-label="`Note ${i + 1} and ${i + 2}: ${joined ? 'one bow' : 'two bows'}`"
          @click="tap(i)"
        />
      </template>
      <button type="button" class="more" aria-label="One more" @click="lengthen(1)">+</button>
      <button v-if="gaps.length > 0" type="button" class="more" aria-label="One less" @click="lengthen(-1)">
        −
      </button>
    </div>
    <div class="row">
      <v-text-field
        v-model="typed"
        label="Typed: notes to each bow"
        :error="wrong"
        :messages="wrong ? 'numbers from 1 to 16, 64 in all at most' : ''"
        data-test="pattern-typed"
        @change="take"
        @keydown.enter="take"
      />
      <v-select :model-value="unitName" :items="UNITS" label="Counted in" @update:model-value="setUnit" />
    </div>
  </template>
</template>

<style scoped>
.picker {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
  margin: 6px 0 8px;
}
.groove {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  padding: 4px 6px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 12.5px;
  line-height: 1.2;
  text-align: left;
  cursor: pointer;
}
.groove[aria-pressed='true'] {
  border-color: rgb(var(--v-theme-primary));
  box-shadow: inset 0 0 0 1px rgb(var(--v-theme-primary));
}
.groove path {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.5;
}
.groove circle {
  fill: currentColor;
}
.own {
  font-size: 13.5px;
  margin-bottom: 4px;
}
.tapped {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 10px;
}
.dot {
  width: 9px;
  height: 9px;
  border-radius: 50%;
  background: currentColor;
}
.gap {
  width: 22px;
  height: 26px;
  border: 0;
  background: none;
  position: relative;
  cursor: pointer;
  color: inherit;
}
.gap::after {
  content: '';
  position: absolute;
  left: 50%;
  top: 4px;
  height: 18px;
  border-left: 1.5px dashed var(--faint);
}
.gap.joined::after {
  left: -5px;
  right: -5px;
  top: 1px;
  height: 9px;
  border: 0;
  border-top: 2px solid rgb(var(--v-theme-primary));
  border-radius: 50% 50% 0 0;
}
.more {
  width: 26px;
  height: 26px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 18px;
  cursor: pointer;
}
.row {
  display: grid;
  grid-template-columns: 1fr 118px;
  gap: 8px;
}
</style>
