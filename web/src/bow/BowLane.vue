<script setup lang="ts">
/**
 * Time across, frog to tip down. A stroke is a slanted line, the thicker the lower its string; slurred notes
 * are ticks, lifts dashed, hooks joined. Behind it the natural drift, the later times through, and a mend
 * that is being tried.
 */
import { computed, ref } from 'vue'
import { LEFT, timeX } from '../bench/laneModel'
import LaneFrame from '../bench/LaneFrame.vue'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import { PARTS } from '#core/bowing/line'
import { strokePinned } from '#core/arrangement/edits'
import BowAtPlayhead from './BowAtPlayhead.vue'
import { strokeLines, type StrokeLine } from './strokeLine'

const part = usePart()
const bow = useBow()
const HEIGHT = 216
const SIGNS = 20
const TOP = 34
const BOTTOM = HEIGHT - 14
/** Share of the bow at each end where the stroke has little left. */
const END = 0.08
const y = (place: number) => TOP + place * (BOTTOM - TOP)
const x = (quarters: number) => timeX(quarters * bow.zoom)

const byEvent = computed(() => new Map(part.notes.map(n => [n.event, n])))
const strokes = computed(() => strokeLines(part.result!.strokes, byEvent.value))
const later = computed(() => strokeLines(bow.report?.later ?? [], byEvent.value))
/** What the mend would make of it all; only what it would make different; and what stays as it is. */
const after = computed(() => strokeLines(bow.tried ?? [], byEvent.value))
const tried = computed(() => {
  const now = new Map(strokes.value.map(s => [s.id, s]))
  return after.value.filter(s => {
    const is = now.get(s.id)
    return (
      !is ||
      is.direction !== s.direction ||
      is.notes.length !== s.notes.length ||
      Math.abs(is.from - s.from) > 0.02 ||
      is.lift !== s.lift
    )
  })
})
const staying = computed(() => {
  const other = new Set(tried.value.map(s => s.id))
  return bow.tried ? new Set(after.value.flatMap(s => (other.has(s.id) ? [] : s.id))) : null
})
/** Where measures begin, as they are numbered. */
const bars = computed(() => {
  const out: { at: number; number: number }[] = []
  for (const n of part.notes)
    if (out.at(-1)?.number !== n.measure) out.push({ at: n.start, number: n.measure })
  return out
})
const joins = (list: readonly StrokeLine[]) =>
  list.flatMap((s, i) => {
    const before = list[i - 1]
    if (!before) return []
    const moved = s.lift || Math.abs(before.to - s.from) > 0.01
    return moved || s.hook
      ? [{ x1: x(before.end), x2: x(s.start), y1: y(before.to), y2: y(s.from), hook: s.hook }]
      : []
  })
const lifts = computed(() => joins(strokes.value))
const drift = computed(() => {
  const natural = bow.showDrift ? bow.report?.natural : undefined
  if (!natural || natural.length !== strokes.value.length) return []
  const limit = (p: number) => Math.max(-0.08, Math.min(1.05, p))
  return strokes.value.map((s, i) => ({
    x1: x(s.start),
    x2: x(s.end),
    y1: y(limit(natural[i]!.from)),
    y2: y(limit(natural[i]!.to)),
    out: natural[i]!.to < 0 || natural[i]!.to > 1,
  }))
})
/** Stretches that have a part of the bow of their own. */
const washes = computed(() =>
  part.recipe.played.bow.passages.flatMap(p => {
    const [from, to] = [byEvent.value.get(p.from), byEvent.value.get(p.to)]
    if (!p.part || !from || !to) return []
    const [low, high] = PARTS[p.part]
    return [
      {
        x: x(from.start),
        width: x(to.start + to.length) - x(from.start),
        y: y(low),
        height: y(high) - y(low),
      },
    ]
  }),
)
const width = computed(() => x(Math.max(0, ...strokes.value.map(s => s.end))) + 20)
const chosen = computed(() => {
  const event = part.selectedNote?.event
  return event === undefined ? null : (strokes.value.find(s => s.notes.includes(event))?.id ?? null)
})
const pins = computed(() => part.recipe.played.pins.strokes)
const thick = (s: StrokeLine) => 1.6 + s.string * 1.1
/** Our bow signs, as in the score. */
const sign = (s: StrokeLine) =>
  s.direction === 'down'
    ? `M${x(s.start) - 1} ${SIGNS} v-9 h9 v9`
    : `M${x(s.start) - 1} ${SIGNS - 10} l4.5 10 l4.5 -10`

function select(event: string) {
  const note = byEvent.value.get(event)
  if (note) part.select(note.id)
}
function turn(s: StrokeLine) {
  select(s.id)
  const other = s.direction === 'down' ? ('up' as const) : ('down' as const)
  const back = pins.value[s.id]?.direction === s.direction
  part.edit(r => strokePinned(r, s.id, { direction: back ? undefined : other }))
}

/** The beginning of a stroke is pulled to another place on the bow. */
const pulled = ref<{ id: string; place: number } | null>(null)
function pull(e: PointerEvent, s: StrokeLine) {
  const svg = (e.currentTarget as Element).closest('svg')!
  const place = (at: PointerEvent) =>
    Math.max(0, Math.min(1, (at.clientY - svg.getBoundingClientRect().top - TOP) / (BOTTOM - TOP)))
  const moved = (at: PointerEvent) => (pulled.value = { id: s.id, place: place(at) })
  const end = () => {
    window.removeEventListener('pointermove', moved)
    const to = pulled.value
    pulled.value = null
    if (to && Math.abs(to.place - s.from) > 0.03)
      part.edit(r => strokePinned(r, s.id, { at: Math.round(to.place * 100) / 100 }))
  }
  select(s.id)
  window.addEventListener('pointermove', moved)
  window.addEventListener('pointerup', end, { once: true })
}
</script>

<template>
  <LaneFrame
    name="bow-lane"
    label="Bow lane: time across, frog at the top, tip below"
    about="Where on the bow every stroke happens"
    :width="width"
    :height="HEIGHT"
    :scale="bow.zoom"
  >
    <rect class="end" :x="LEFT" :width="width - LEFT" :y="y(0)" :height="y(END) - y(0)" />
    <rect class="end" :x="LEFT" :width="width - LEFT" :y="y(1 - END)" :height="y(1) - y(1 - END)" />
    <rect v-for="(w, i) in washes" :key="`w${i}`" class="wash" data-test="wash" v-bind="w" />
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
    <g class="bars">
      <line v-for="b in bars" :key="b.at" :x1="x(b.at) - 7" :x2="x(b.at) - 7" :y1="y(0)" :y2="y(1)" />
      <text v-for="b in bars" :key="`n${b.at}`" :x="x(b.at) - 4" :y="BOTTOM + 11">{{ b.number }}</text>
    </g>
    <g v-if="drift.length" class="drift" data-test="drift">
      <line
        v-for="(d, i) in drift"
        :key="i"
        :class="{ out: d.out }"
        :x1="d.x1"
        :x2="d.x2"
        :y1="d.y1"
        :y2="d.y2"
      />
    </g>
    <g class="later">
      <line v-for="(s, i) in later" :key="i" :x1="x(s.start)" :x2="x(s.end)" :y1="y(s.from)" :y2="y(s.to)" />
    </g>
    <line
      v-for="(l, i) in lifts"
      :key="`l${i}`"
      :class="l.hook ? 'joined' : 'lift'"
      :x1="l.x1"
      :x2="l.x2"
      :y1="l.y1"
      :y2="l.y2"
    />

    <g
      v-for="s in strokes"
      :key="s.id"
      class="stroke"
      :class="[s.direction, { chosen: s.id === chosen, added: s.added.length > 0 }]"
      @click="select(s.id)"
    >
      <line class="hit" :x1="x(s.start)" :x2="x(s.end)" :y1="y(s.from)" :y2="y(s.to)" />
      <line
        class="hair"
        :style="{ strokeWidth: `${thick(s) + (s.id === chosen ? 2.5 : 0)}px` }"
        :x1="x(s.start) + 1"
        :x2="x(s.end) - 1"
        :y1="y(s.from)"
        :y2="y(s.to)"
      />
      <circle v-for="(t, i) in s.ticks" :key="i" :cx="x(t.at)" :cy="y(t.place)" r="3.4" />
      <path
        class="sign"
        :class="{ gone: staying && !staying.has(s.id) }"
        :d="sign(s)"
        data-test="lane-sign"
        @click.stop="turn(s)"
      />
      <rect class="hit-sign" :x="x(s.start) - 4" y="4" width="16" height="20" @click.stop="turn(s)">
        <title>Turn this bow round</title>
      </rect>
      <circle
        class="grip"
        :class="{ pin: pins[s.id] }"
        :cx="x(s.start)"
        :cy="y(pulled?.id === s.id ? pulled.place : s.from)"
        r="5.5"
        @pointerdown.prevent="pull($event, s)"
      >
        <title>Pull to where the stroke should begin</title>
      </circle>
    </g>
    <g class="tried" data-test="tried">
      <line v-for="s in tried" :key="s.id" :x1="x(s.start)" :x2="x(s.end)" :y1="y(s.from)" :y2="y(s.to)" />

      <path v-for="s in tried" :key="`s${s.id}`" class="sign" :d="sign(s)" />
    </g>
    <BowAtPlayhead :lines="strokes" :x="x" :y="y" />
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
.bars line {
  stroke: var(--rule);
}
.bars text {
  font-size: 10.5px;
}
.end {
  fill: rgb(var(--v-theme-secondary));
  opacity: 0.14;
}
.wash {
  fill: rgb(var(--v-theme-primary));
  opacity: 0.1;
}
.drift line {
  stroke: currentColor;
  stroke-width: 1;
  opacity: 0.32;
}
.drift .out {
  stroke: rgb(var(--v-theme-error));
  opacity: 0.85;
}
.later line {
  stroke: currentColor;
  stroke-width: 1.3;
  stroke-dasharray: 2 3;
  opacity: 0.55;
}
.lift {
  stroke: currentColor;
  stroke-dasharray: 3 3;
  opacity: 0.6;
}
.joined {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.stroke {
  cursor: pointer;
}
.stroke .hit {
  stroke: transparent;
  stroke-width: 16;
}
.stroke .hit-sign {
  fill: transparent;
}
.stroke .hair {
  stroke: rgb(var(--v-theme-primary));
  stroke-linecap: round;
}
.stroke.up .hair {
  stroke: color-mix(in srgb, rgb(var(--v-theme-primary)) 62%, rgb(var(--v-theme-on-surface)));
}
.stroke.added .hair {
  stroke: rgb(var(--v-theme-secondary));
}
.stroke circle {
  fill: currentColor;
}
.sign {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
}
.sign.gone {
  visibility: hidden;
}
.stroke .grip {
  fill: transparent;
  stroke: transparent;
  cursor: ns-resize;
}
.stroke:hover .grip,
.stroke.chosen .grip {
  stroke: currentColor;
}
.stroke .grip.pin {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.tried {
  pointer-events: none;
}
.tried line {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 3.5;
  stroke-dasharray: 7 3;
}
.tried .sign {
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 2.6;
}
</style>
