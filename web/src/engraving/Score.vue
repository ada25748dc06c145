<script setup lang="ts">
/** The score of the bench: one SVG a system, redrawn only where something changed. */
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { useBench } from '../stores/bench'
import { usePlayer } from '../stores/player'
import { familyLook } from '../theme/families'
import type { BenchResult } from '../worker/contract'
import { ALL_MARKS, type MarkOptions } from './marks'
import { drawSystem, placeTune, type DrawnSystem } from './system'

const props = withDefaults(
  defineProps<{
    tab?: boolean
    marks?: Partial<MarkOptions>
    follow?: boolean
    problems?: readonly string[]
    /** Notes to light: what differs between two phrases. */
    lit?: readonly string[]
    /** Another result than the bench's own: the tune with its repeats written out. */
    shown?: BenchResult | null
  }>(),
  {
    tab: false,
    marks: () => ({}),
    problems: () => [],
    lit: () => [],
    shown: null,
    follow: true,
  },
)
const bench = useBench()
const player = usePlayer()
const host = ref<HTMLElement | null>(null)
const { width } = useElementSize(host)
const systems = shallowRef<readonly DrawnSystem[]>([])
const failure = ref('')

const cache = new Map<string, DrawnSystem>()

const result = computed(() => props.shown ?? bench.result)

function draw() {
  const r = result.value
  if (!r || width.value < 200) return
  const began = performance.now()
  const written = r.shown ?? r.tune
  const placed = placeTune(written)
  const o = { width: Math.floor(width.value), tab: props.tab, marks: { ...ALL_MARKS, ...props.marks } }
  const used = new Map<string, DrawnSystem>()
  try {
    systems.value = r.tab.systems.map((measures, i) => {
      const music = measures.map(m => written.measures[m.index])
      const own = new Set(music.flatMap(m => m!.events.map(e => e.id)))
      const slurs = r.tune.slurs.filter(s => own.has(s.from) || own.has(s.to))
      const key = JSON.stringify([
        i === r.tab.systems.length - 1,
        o,
        measures,
        music,
        slurs,
        placed.measures[measures[0]!.index]!.key,
        r.tune.clef,
        r.tab.lineLabels,
      ])
      const drawn = cache.get(key) ?? drawSystem(placed, r.tab, i, o)
      used.set(key, drawn)
      return drawn
    })
    failure.value = ''
  } catch (e) {
    failure.value = e instanceof Error ? e.message : String(e)
  }
  cache.clear()
  used.forEach((v, k) => cache.set(k, v))
  // Read by the bench.
  performance.measure('nokta:draw', { start: began })
}

// The marks by what they say: a parent that is drawn anew hands over a new object each time.
watch([result, width, () => props.tab, () => JSON.stringify(props.marks)], draw, { immediate: true })

const holders = ref<HTMLElement[]>([])
watch(
  systems,
  async list => {
    await nextTick()
    list.forEach((s, i) => {
      if (holders.value[i] && holders.value[i]!.firstElementChild !== s.svg)
        holders.value[i]!.replaceChildren(s.svg)
    })
  },
  { flush: 'post' },
)

interface Box {
  readonly left: number
  readonly width: number
  readonly hue: number
}

/** The focused phrase, as a tint behind its notes in every system. */
const tints = computed<(Box | null)[]>(() => {
  const phrase = bench.phrases.find(p => p.id === bench.focus)
  return systems.value.map(s => {
    const xs = phrase ? phrase.events.flatMap(id => s.anchors.get(id)?.x ?? []) : []
    if (!phrase || xs.length === 0) return null
    const left = Math.min(...xs) - 14
    return { left, width: Math.max(...xs) + 16 - left, hue: familyLook(phrase.family).hue }
  })
})

const chosen = computed(() => {
  const event = bench.caret
  return systems.value.map(s => (event === null ? undefined : s.anchors.get(event)))
})
/** The other notes of a chosen stretch. */
const stretch = computed(() => {
  const ids = bench.selection.length > 1 ? bench.selection : []
  return systems.value.map(s => ids.flatMap(id => s.anchors.get(id) ?? []))
})
/** Where something is wrong. */
const wrong = computed(() => systems.value.map(s => props.problems.flatMap(id => s.anchors.get(id) ?? [])))
const bright = computed(() => systems.value.map(s => props.lit.flatMap(id => s.anchors.get(id) ?? [])))
/** What sounds now. */
const sounding = computed(() =>
  systems.value.map(s => (player.playing ? s.anchors.get(player.playing) : undefined)),
)

watch(
  [() => bench.focus, () => bench.caret],
  async () => {
    await nextTick()
    if (props.follow)
      host.value
        ?.querySelector(bench.caret ? '.chosen' : '.tint')
        ?.scrollIntoView({ block: 'nearest', behavior: 'auto' })
  },
  { flush: 'post' },
)

/** The nearest note in the system that was clicked. */
function pick(event: MouseEvent, s: DrawnSystem) {
  const x = event.clientX - (event.currentTarget as HTMLElement).getBoundingClientRect().left
  let best: { id: string; distance: number } | null = null
  for (const [id, a] of s.anchors) {
    const distance = Math.abs(a.x - x)
    if (distance < (best?.distance ?? 24)) best = { id, distance }
  }
  if (best) bench.selectEvent(best.id, event.shiftKey)
}

const box = (s: DrawnSystem, a: { x: number; top: number; bottom: number }) => ({
  left: `${a.x - 11}px`,
  top: `${Math.min(a.top, s.staffTop) - 22}px`,
  height: `${Math.max(a.bottom, s.staffBottom) - Math.min(a.top, s.staffTop) + 28}px`,
})

watch(
  () => player.playing,
  async () => {
    await nextTick()
    if (props.follow)
      host.value?.querySelector('.sounding')?.scrollIntoView({ block: 'nearest', behavior: 'auto' })
  },
  { flush: 'post' },
)
</script>

<template>
  <div ref="host" class="score" data-test="score">
    <p v-if="failure" role="alert" class="failure">The score can’t be drawn: {{ failure }}</p>
    <p v-else-if="bench.result && bench.result.tune.measures.length === 0" class="quiet blank">
      No notes yet. Write them here with the letters a to g, tap them on the fingerboard, say them as strings
      and fingers, or type them in the source.
    </p>
    <div
      v-for="(s, i) in systems"
      :key="i"
      class="system"
      :style="{ height: `${s.height}px` }"
      @click="pick($event, s)"
    >
      <div
        v-if="tints[i]"
        class="tint"
        :style="{ left: `${tints[i]!.left}px`, width: `${tints[i]!.width}px`, '--family-hue': tints[i]!.hue }"
      />
      <div
        v-for="(a, k) in wrong[i]"
        :key="`w${k}`"
        class="wrong"
        data-test="wrong"
        :style="{ left: `${a.x - 9}px`, top: `${Math.max(a.bottom, s.staffBottom) + 3}px` }"
      />
      <div v-for="(a, k) in bright[i]" :key="`l${k}`" class="stretch" data-test="lit" :style="box(s, a)" />
      <div v-for="(a, k) in stretch[i]" :key="k" class="stretch" data-test="stretch" :style="box(s, a)" />
      <div v-if="chosen[i]" class="chosen" data-test="chosen" :style="box(s, chosen[i]!)" />
      <div v-if="sounding[i]" class="sounding" data-test="sounding" :style="box(s, sounding[i]!)" />
      <div ref="holders" class="ink" />
    </div>
  </div>
</template>

<style scoped>
.score {
  width: 100%;
  user-select: none;
}
.system {
  position: relative;
  margin-bottom: 12px;
  cursor: pointer;
}
.ink {
  position: relative;
  pointer-events: none;
}
.ink :deep(svg) {
  display: block;
}
.ink :deep(.knock-out) {
  fill: var(--page);
}
.tint,
.chosen,
.sounding {
  scroll-margin: 40px 0;
}
.tint {
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 4px;
  background: hsl(var(--family-hue) 34% var(--family-tint));
  opacity: 0.75;
}
.chosen {
  position: absolute;
  width: 22px;
  border-radius: 11px;
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 30%, transparent);
  outline: 1.5px solid rgb(var(--v-theme-secondary));
}
.wrong {
  position: absolute;
  width: 18px;
  height: 5px;
  border-bottom: 3px double rgb(var(--v-theme-error));
}
.stretch,
.sounding {
  position: absolute;
  width: 22px;
  border-radius: 11px;
}
.stretch {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 20%, transparent);
}
.sounding {
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 26%, transparent);
}
.failure {
  color: rgb(var(--v-theme-error));
}
.blank {
  padding: 24px 0;
}
</style>
