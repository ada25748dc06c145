<script setup lang="ts">
/** Time across, frog to tip down: every stroke a slanted line, slurred notes as ticks, lifts dashed. */
import { computed } from 'vue'
import { LEFT, timeX } from '../hand/laneModel'
import { strokeStart } from '../bench/keys'
import LaneFrame from '../bench/LaneFrame.vue'
import { useBench } from '../stores/bench'

const bench = useBench()
const HEIGHT = 190
const TOP = 18
const BOTTOM = HEIGHT - 14
/** Share of the bow at each end where the stroke has little left. */
const END = 0.08
const y = (place: number) => TOP + place * (BOTTOM - TOP)

const byEvent = computed(() => new Map(bench.notes.map(n => [n.event, n])))
const strokes = computed(() =>
  bench.result!.strokes.flatMap(s => {
    const notes = s.notes.flatMap(id => byEvent.value.get(id) ?? [])
    if (notes.length === 0) return []
    const [start, end] = [notes[0]!.start, notes.at(-1)!.start + notes.at(-1)!.length]
    const at = (t: number) => s.from + ((t - start) / Math.max(0.001, end - start)) * (s.to - s.from)
    return [
      {
        ...s,
        start,
        end,
        ticks: notes
          .slice(1)
          .filter(n => !n.tied)
          .map(n => ({ x: timeX(n.start), y: y(at(n.start)) })),
      },
    ]
  }),
)
const lifts = computed(() =>
  strokes.value.flatMap((s, i) => {
    const before = strokes.value[i - 1]
    return before && (s.lift || Math.abs(before.to - s.from) > 0.01)
      ? [{ x1: timeX(before.end), x2: timeX(s.start), y1: y(before.to), y2: y(s.from) }]
      : []
  }),
)
const width = computed(() => timeX(Math.max(0, ...strokes.value.map(s => s.end))) + 20)
const chosen = computed(() => (bench.selectedNote ? strokeStart(bench, bench.selectedNote.event) : null))
const pinned = (id: string) => bench.recipe?.played.pins.strokes[id] !== undefined

function select(event: string) {
  const note = byEvent.value.get(event)
  if (note) bench.select(note.id)
}
</script>

<template>
  <LaneFrame
    name="bow-lane"
    label="Bow lane: time across, frog at the top, tip below"
    about="Where on the bow every stroke happens"
    :width="width"
    :height="HEIGHT"
  >
    <rect class="end" :x="LEFT" :width="width - LEFT" :y="y(0)" :height="y(END) - y(0)" />
    <rect class="end" :x="LEFT" :width="width - LEFT" :y="y(1 - END)" :height="y(1) - y(1 - END)" />
    <g class="scale">
      <template
        v-for="[name, place] in [
          ['frog', 0],
          ['middle', 0.5],
          ['tip', 1],
        ] as const"
        :key="name"
      >
        <line :x1="LEFT" :x2="width" :y1="y(place)" :y2="y(place)" />
        <text :x="LEFT - 8" :y="y(place) + 4" text-anchor="end">{{ name }}</text>
      </template>
    </g>
    <line v-for="(l, i) in lifts" :key="`l${i}`" class="lift" v-bind="l" />
    <g
      v-for="s in strokes"
      :key="s.notes[0]"
      class="stroke"
      :class="[s.direction, { chosen: s.notes[0] === chosen }]"
      @click="select(s.notes[0]!)"
    >
      <line class="hit" :x1="timeX(s.start)" :x2="timeX(s.end)" :y1="y(s.from)" :y2="y(s.to)" />
      <line class="hair" :x1="timeX(s.start) + 1" :x2="timeX(s.end) - 1" :y1="y(s.from)" :y2="y(s.to)" />
      <circle v-for="(t, i) in s.ticks" :key="i" :cx="t.x" :cy="t.y" r="3.2" />
      <circle v-if="pinned(s.notes[0]!)" class="pin" :cx="timeX(s.start)" :cy="y(s.from)" r="5.5" />
    </g>
  </LaneFrame>
</template>

<style scoped>
text {
  font-family: var(--face);
  font-size: 11.5px;
  fill: var(--faint);
}
.scale line {
  stroke: var(--rule);
}
.end {
  fill: rgb(var(--v-theme-secondary));
  opacity: 0.16;
}
.lift {
  stroke: currentColor;
  stroke-dasharray: 3 3;
  opacity: 0.6;
}
.stroke {
  cursor: pointer;
}
.stroke .hit {
  stroke: transparent;
  stroke-width: 16;
}
.stroke .hair {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2.6;
  stroke-linecap: round;
}
.stroke.up .hair {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 1.8;
}
.stroke circle {
  fill: currentColor;
}
.stroke .pin {
  fill: none;
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.stroke.chosen .hair {
  stroke-width: 5.5;
}
</style>
