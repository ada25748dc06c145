<script setup lang="ts">
/** The notes this tune uses, on a fingerboard drawn to scale, nut on the left, highest string on top. */
import { computed } from 'vue'
import { fromNut } from '#core/instruments/geometry'
import { tapes } from '#core/instruments/tapes'
import type { InstrumentId } from '#core/music/tune'
import { digitText } from '#core/instruments/digits'
import FingerGlyph from '../engraving/FingerGlyph.vue'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import { useStudio } from '../stores/studio'

const props = defineProps<{ instrument: InstrumentId; length: number }>()
const part = usePart()
const hand = useHand()
const studio = useStudio()

const WIDTH = 420
const NUT = 42
const GAP = 28
/**
 * Room above the highest string: a place is drawn round it, what it is off by stands over that, the
 * millimetres over all.
 */
const TOP = 32
const used = computed(() => {
  const places = new Map<string, { string: number; offset: number; digits: Set<string>; ids: Set<string> }>()
  for (const n of part.notes) {
    const key = `${n.string}:${n.offset}`
    const p = places.get(key) ?? {
      string: n.string,
      offset: n.offset,
      digits: new Set<string>(),
      ids: new Set<string>(),
    }
    p.digits.add(digitText(n.finger, n.mark, n.harmonic))
    p.ids.add(n.id)
    places.set(key, p)
  }
  return [...places.values()]
})
const furthest = computed(() => fromNut(props.length, Math.max(7, ...used.value.map(p => p.offset)) + 1))
const x = (offset: number) =>
  offset === 0 ? NUT - 14 : NUT + (fromNut(props.length, offset) / furthest.value) * (WIDTH - NUT - 12)
/** A dot, stretched where two fingers share the place. */
const pill = (p: { digits: ReadonlySet<string> }) =>
  Math.max(20, Math.min(2, p.digits.size) * 14 + [...p.digits].slice(0, 2).join('').length * 3)
const strings = computed(() => part.result!.strings)
/** The colour a studio gave its own tape there. */
const colour = (semitones: number) => studio.studio.tapes[props.instrument]?.[String(semitones)]
const rings = (p: { ids: ReadonlySet<string> }) =>
  hand.showRinging && [...p.ids].some(id => (hand.report?.ringing[id]?.with.length ?? 0) > 0)
/** Millimetres by which a place over the drone wants to be elsewhere. */
const off = (p: { ids: ReadonlySet<string> }) =>
  hand.showRinging
    ? ([...p.ids].map(id => hand.report?.ringing[id]?.pure?.mm ?? 0).find(mm => mm !== 0) ?? 0)
    : 0
const marks = computed(() => tapes(props.instrument, props.length))
</script>

<template>
  <svg
    class="board"
    :viewBox="`0 0 ${WIDTH} ${TOP + strings.length * GAP + 8}`"
    role="img"
    aria-label="Fingerboard with the notes of this tune"
    data-test="fingerboard"
  >
    <g class="tapes">
      <template v-for="t in marks" :key="t.label">
        <line
          :x1="x(t.semitones)"
          :x2="x(t.semitones)"
          :y1="TOP - 6"
          :y2="TOP + (strings.length - 1) * GAP + 8"
          :style="{ stroke: colour(t.semitones) }"
        />
        <text :x="x(t.semitones)" :y="10" text-anchor="middle">{{ t.fromNut.toFixed(0) }}</text>
      </template>
    </g>
    <line class="nut" :x1="NUT" :x2="NUT" :y1="TOP - 6" :y2="TOP + (strings.length - 1) * GAP + 6" />
    <g v-for="(s, i) in strings" :key="i" class="string">
      <line :x1="NUT" :x2="WIDTH" :y1="TOP + i * GAP" :y2="TOP + i * GAP" :stroke-width="1 + i * 0.45" />
      <text :x="3" :y="TOP + i * GAP + 4">{{ s }}</text>
    </g>
    <g
      v-for="p in used"
      :key="`${p.string}:${p.offset}`"
      class="place"
      :class="{ chosen: part.selected !== null && p.ids.has(part.selected) }"
      @click="part.select([...p.ids][0]!)"
    >
      <rect
        :x="x(p.offset) - pill(p) / 2"
        :y="TOP + p.string * GAP - 10"
        :width="pill(p)"
        height="20"
        rx="10"
      />
      <circle v-if="rings(p)" class="rings" :cx="x(p.offset)" :cy="TOP + p.string * GAP" r="13.5" />
      <text v-if="off(p)" class="off" :x="x(p.offset)" :y="TOP + p.string * GAP - 12" text-anchor="middle">
        {{ off(p) < 0 ? '−' : '+' }}{{ Math.abs(off(p)) }}
      </text>
      <FingerGlyph
        :x="x(p.offset)"
        :y="TOP + p.string * GAP"
        :shown="[...p.digits].slice(0, 2).join(' ')"
        :size="12.5"
      />
    </g>
  </svg>
</template>

<style scoped>
.board {
  width: 100%;
  display: block;
}
text {
  font-family: var(--face);
  font-size: 12.5px;
  fill: currentColor;
}
.tapes line {
  stroke: var(--rule);
  stroke-width: 3;
}
.tapes text {
  fill: var(--faint);
  font-size: 10.5px;
}
.nut {
  stroke: currentColor;
  stroke-width: 4;
}
.string line {
  stroke: var(--faint);
}
.string text {
  font-weight: 700;
}
.place {
  cursor: pointer;
}
.place rect {
  fill: rgb(var(--v-theme-surface));
  stroke: currentColor;
  stroke-width: 1.4;
}
.place text {
  font-weight: 700;
}
.rings {
  pointer-events: none;
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 1.6;
  stroke-dasharray: 2 3;
}
.place .off {
  font-size: 9.5px;
  fill: rgb(var(--v-theme-secondary));
}
.place.chosen rect {
  fill: color-mix(in srgb, rgb(var(--v-theme-secondary)) 40%, rgb(var(--v-theme-surface)));
}
</style>
