<script setup lang="ts">
/** Time across, true millimetres from the nut down; every string has a stroke of its own. */
import { computed } from 'vue'
import { fromNut } from '#core/instruments/geometry'
import { digitText } from '#core/instruments/digits'
import FingerGlyph from '../engraving/FingerGlyph.vue'
import LaneFrame from '../bench/LaneFrame.vue'
import { usePart } from '../stores/parts'
import { useHand } from '../stores/hand'
import type { NoteView } from '#core/desk/views'
import { HAND_LANE_HEIGHT, handRuns, LEFT, QUARTER, timeX } from '../bench/laneModel'

const props = defineProps<{ length: number; span: number }>()
const part = usePart()
const hand = useHand()

const HEIGHT = HAND_LANE_HEIGHT
const TOP = 28
/** The row at the foot, where the travel of every shift is told. */
const FOOT = 24
const notes = computed(() => part.notes)
const furthest = computed(() =>
  fromNut(
    props.length,
    Math.max(7, ...notes.value.map(n => n.offset), ...notes.value.map(n => n.anchor + props.span)) + 0.5,
  ),
)
const y = (semitones: number) =>
  TOP + (fromNut(props.length, semitones) / furthest.value) * (HEIGHT - TOP - FOOT)
const width = computed(() => timeX(Math.max(0, ...notes.value.map(n => n.start + n.length))) + 20)
const runs = computed(() => handRuns(notes.value))
const byEvent = computed(() => new Map(notes.value.map(n => [n.event, n])))

const ticks = computed(() => {
  const step = furthest.value > 420 ? 100 : furthest.value > 160 ? 50 : 20
  return Array.from({ length: Math.floor(furthest.value / step) + 1 }, (_, i) => i * step).map(mm => ({
    mm,
    y: TOP + (mm / furthest.value) * (HEIGHT - TOP - FOOT),
  }))
})

/** One look a string, from the highest: heavy, plain, dashed, dotted, long-dashed. */
const STRING_STROKES = [
  { 'stroke-width': 5 },
  { 'stroke-width': 2.5 },
  { 'stroke-width': 3, 'stroke-dasharray': '7 3' },
  { 'stroke-width': 3.5, 'stroke-dasharray': '1.5 4', 'stroke-linecap': 'round' },
  { 'stroke-width': 2, 'stroke-dasharray': '12 3' },
] as const

const shifts = computed(() =>
  part.result!.shifts.flatMap(s => {
    const [a, b] = [byEvent.value.get(s.from), byEvent.value.get(s.to)]
    return a && b ? [{ ...s, x: timeX(b.start), y1: y(s.anchorFrom), y2: y(s.anchorTo) }] : []
  }),
)
const between = (from: string, to: string) => {
  const [a, b] = [byEvent.value.get(from), byEvent.value.get(to)]
  return a && b ? { a, b } : null
}
const holds = computed(() => part.result!.holds.flatMap(h => between(h.from, h.to) ?? []))
const blocks = computed(() => part.result!.blocks.flatMap(h => between(h.from, h.to) ?? []))
const letter = (n: NoteView) => part.result!.strings[n.string]
const newString = (i: number) => i === 0 || notes.value[i - 1]!.string !== notes.value[i]!.string
/** The notes of the solution laid over, where they would be. */
const ghosts = computed(() => {
  const by = new Map(notes.value.map(n => [n.id, n]))
  return hand.ghost.flatMap(g => {
    const n = by.get(g.id)
    return n
      ? [{ ...g, x: timeX(n.start), from: y(n.offset), to: y(g.offset), other: g.string !== n.string }]
      : []
  })
})
const rings = (n: NoteView) => hand.showRinging && (hand.report?.ringing[n.id]?.with.length ?? 0) > 0
const pinned = (n: NoteView) => part.recipe.played.pins.fingers[n.id] !== undefined
/** Its point is where the shift ends. */
function arrowHead({ x, y1, y2 }: { readonly x: number; readonly y1: number; readonly y2: number }) {
  const back = y2 + (y2 > y1 ? -6 : 6)
  return `M${x - 5.5} ${back} L${x - 2} ${y2} L${x + 1.5} ${back}`
}
</script>

<template>
  <LaneFrame
    name="hand-lane"
    label="Hand lane: time across, distance from the nut down"
    about="The path of the hand over the strings"
    :width="width"
    :height="HEIGHT"
  >
    <g class="scale">
      <template v-for="t in ticks" :key="t.mm">
        <line :x1="LEFT" :x2="width" :y1="t.y" :y2="t.y" />
        <text :x="LEFT - 8" :y="t.y + 4" text-anchor="end">{{ t.mm === 0 ? 'nut' : `${t.mm}` }}</text>
      </template>
      <text :x="4" :y="12">mm</text>
    </g>
    <rect
      v-for="(r, i) in runs"
      :key="`r${i}`"
      class="hand"
      :x="timeX(r.from)"
      :width="(r.to - r.from) * QUARTER"
      :y="y(r.anchor)"
      :height="y(r.anchor + span) - y(r.anchor)"
    />
    <g v-for="s in shifts" :key="`s${s.to}`" class="shift">
      <line :x1="s.x - 2" :x2="s.x - 2" :y1="s.y1" :y2="s.y2" />
      <path :d="arrowHead(s)" />
      <text :x="s.x - 2" :y="HEIGHT - 5" text-anchor="middle">{{ Math.round(s.mm) }} mm</text>
    </g>
    <line
      v-for="(h, i) in holds"
      :key="`h${i}`"
      class="hold"
      :x1="timeX(h.a.start + h.a.length)"
      :x2="timeX(h.b.start)"
      :y1="y(h.a.offset)"
      :y2="y(h.b.offset)"
    />
    <rect
      v-for="(b, i) in blocks"
      :key="`b${i}`"
      class="block"
      :x="timeX(b.a.start) - 9"
      :width="(b.b.start - b.a.start) * QUARTER + 18"
      :y="y(b.a.offset) - 11"
      height="22"
      rx="11"
    />
    <g
      v-for="(n, i) in notes"
      :key="n.id"
      class="note"
      :class="{ chosen: n.id === part.selected }"
      @click="part.select(n.id)"
    >
      <line
        :x1="timeX(n.start)"
        :x2="timeX(n.start + n.length) - 4"
        :y1="y(n.offset)"
        :y2="y(n.offset)"
        v-bind="STRING_STROKES[n.string]"
      />
      <template v-if="!n.tied">
        <circle :cx="timeX(n.start)" :cy="y(n.offset)" r="8.5" :class="{ pinned: pinned(n) }" />
        <circle
          v-if="rings(n)"
          class="rings"
          :cx="timeX(n.start)"
          :cy="y(n.offset)"
          r="12"
          data-test="rings"
        />
        <FingerGlyph :x="timeX(n.start)" :y="y(n.offset)" :shown="digitText(n.finger, n.mark, n.harmonic)" />
        <text v-if="newString(i)" class="string" :x="timeX(n.start) - 3" :y="y(n.offset) - 11">
          {{ letter(n) }}
        </text>
      </template>
    </g>
    <g v-for="g in ghosts" :key="`g${g.id}`" class="ghost" data-test="ghost">
      <line :x1="g.x + 12" :x2="g.x + 12" :y1="g.from" :y2="g.to" />
      <circle :cx="g.x + 12" :cy="g.to" r="8" />
      <FingerGlyph :x="g.x + 12" :y="g.to" :shown="digitText(g.finger, g.mark)" :size="11" />
      <text v-if="g.other" class="string" :x="g.x + 21" :y="g.to - 6">{{
        part.result!.strings[g.string]
      }}</text>
    </g>
  </LaneFrame>
</template>

<style scoped>
text {
  font-family: var(--face);
  font-size: 11.5px;
  fill: currentColor;
}
.scale line {
  stroke: var(--rule);
}
.scale text {
  fill: var(--faint);
}
.hand {
  fill: rgb(var(--v-theme-primary));
  opacity: 0.1;
}
.shift line,
.shift path {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 2;
  fill: none;
}
.shift text {
  fill: rgb(var(--v-theme-secondary));
  font-weight: 700;
}
.hold {
  stroke: currentColor;
  stroke-width: 1;
  stroke-dasharray: 2 2;
}
.block {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.5;
}
.rings {
  pointer-events: none;
  fill: none !important;
  stroke: rgb(var(--v-theme-primary)) !important;
  stroke-dasharray: 2 3;
}
.ghost circle {
  fill: rgb(var(--v-theme-surface));
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.6;
  stroke-dasharray: 3 2;
}
.ghost line {
  stroke: rgb(var(--v-theme-secondary));
  stroke-dasharray: 3 2;
}
.ghost .string {
  font-size: 11px;
  font-weight: 700;
}
.note {
  cursor: pointer;
}
.note line {
  stroke: currentColor;
}
.note circle {
  fill: rgb(var(--v-theme-surface));
  stroke: currentColor;
  stroke-width: 1.2;
}
.note circle.pinned {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 3;
}
.note.chosen circle {
  fill: color-mix(in srgb, rgb(var(--v-theme-secondary)) 35%, rgb(var(--v-theme-surface)));
}
.note text {
  font-weight: 700;
}
.note .string {
  font-size: 11px;
  font-weight: 700;
  fill: rgb(var(--v-theme-primary));
}
</style>
