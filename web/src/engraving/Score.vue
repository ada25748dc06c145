<script setup lang="ts">
/**
 * A score: one SVG a system, broken by measured width, redrawn only where something changed. It is told all
 * it shows, and says what is clicked.
 */
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, onScopeDispose, ref, shallowRef, watch } from 'vue'
import type { EventId } from '#core/music/ids'
import { notate } from '#core/page/notation'
import { aligned, systemsOf, type PagePart, type System } from '#core/page/systems'
import { apartWords } from '#core/words/sheet'
import { familyLook } from '../theme/families'
import { ALL_MARKS, type MarkOptions } from '#core/page/marks'
import { pageMeasurer, PX, UNITS } from '#drawing/measurer'
import { whenFaceLoads } from './face'
import { drawSystem, OUTSIDE, rowsOf } from '#drawing/system'
import { bracketOf, leftOf, type DrawnSystem } from '#drawing/systemParts'
import type { ScorePart } from './scorePart'

/** Events tinted as one, with the family that gives the hue. */
export interface Tint {
  readonly events: readonly EventId[]
  readonly family: number
}

const props = withDefaults(
  defineProps<{
    /** What stands under each other, line by line; the first one leads. */
    parts: readonly ScorePart[]
    showTab?: boolean
    marks?: Partial<MarkOptions>
    /** What is chosen is scrolled into view. */
    follow?: boolean
    problems?: readonly EventId[]
    /** Notes to light: what differs between two phrases. */
    lit?: readonly EventId[]
    focus?: Tint | null
    caret?: EventId | null
    selection?: readonly EventId[]
    /** What sounds now. */
    sounding?: EventId | null
  }>(),
  {
    showTab: false,
    marks: () => ({}),
    follow: true,
    problems: () => [],
    lit: () => [],
    focus: null,
    caret: null,
    selection: () => [],
    sounding: null,
  },
)
/** An event of a part, by its place among those that are given. */
const emit = defineEmits<{ pick: [event: EventId, extend: boolean, part: number] }>()
const host = ref<HTMLElement | null>(null)
const { width } = useElementSize(host)
/** Part by part within each line: as many to a line as there are parts. */
const systems = shallowRef<readonly DrawnSystem[]>([])
/** Where each line's bracket stands, where the parts have names. */
const brackets = shallowRef<readonly number[]>([])
const failure = ref('')

/** On screen a staff space is ten pixels. */
const SPACE = UNITS / PX
const cache = new Map<string, DrawnSystem>()
/** What can't stand under the first: that is said, not left out in silence. */
const placed = computed(() => aligned(props.parts))
const lineUp = computed<readonly PagePart[]>(() =>
  placed.value.together.map(({ tune, tab, label, marks }) => ({
    notated: notate(tune),
    tab,
    ...(label !== undefined && { label }),
    ...(marks && { marks }),
  })),
)
const named = computed(() => lineUp.value.some(p => p.label !== undefined))

/** All that a drawn system depends on, as text: the same text, the same drawing. */
function keyOf({ notated, tab, label, marks }: PagePart, system: System, o: object): string {
  const music = system.measures.map(m => notated.tune.measures[m.index]!)
  const own = new Set(music.flatMap(m => m.events.map(e => e.id)))
  const slurs = notated.tune.slurs.filter(s => own.has(s.from) || own.has(s.to))
  const measures = system.measures.map(m => tab.measures[m.index])
  return JSON.stringify([
    o,
    system,
    measures,
    music,
    slurs,
    notated.measures[system.measures[0]!.index]!.placed.key,
    notated.tune.clef,
    tab.lineLabels,
    label,
    marks,
  ])
}

/**
 * Systems drawn before the page is shown for the first time; the others follow while it can be used already.
 */
const AT_ONCE = 2
let rest: ReturnType<typeof setTimeout> | undefined

function draw() {
  const full = Math.floor(width.value)
  if (full < 200) return
  clearTimeout(rest)
  const began = performance.now()
  const marks = { ...ALL_MARKS, ...props.marks }
  const rows = rowsOf(props.showTab, marks)
  const o = { width: full, space: SPACE, tab: props.showTab, marks }
  const used = new Map<string, DrawnSystem>()
  const take = (system: System) =>
    lineUp.value.map(p => {
      const key = keyOf(p, system, o)
      const drawn = cache.get(key) ?? drawSystem(p, system, o)
      used.set(key, drawn)
      return drawn
    })
  guarded(() => {
    const options = { width: (full - OUTSIDE) / PX, space: SPACE, measurer: pageMeasurer, rows }
    const list = systemsOf(lineUp.value, options)
    const now = systems.value.length === 0 ? list.slice(0, AT_ONCE) : list
    systems.value = now.flatMap(take)
    brackets.value = named.value ? list.map(s => leftOf(s, o)) : []
    const later = list.slice(now.length)
    const spent = performance.now() - began
    if (later.length === 0) return done(used, spent)
    rest = setTimeout(() => {
      const again = performance.now()
      guarded(() => (systems.value = [...systems.value, ...later.flatMap(take)]))
      done(used, spent + performance.now() - again)
    })
  })
}

function guarded(work: () => void) {
  try {
    work()
    failure.value = ''
  } catch (e) {
    failure.value = e instanceof Error ? e.message : String(e)
  }
}

function done(used: ReadonlyMap<string, DrawnSystem>, spent: number) {
  cache.clear()
  used.forEach((v, k) => cache.set(k, v))
  // Read by the bench: the time drawing took.
  performance.measure('nokta:draw', { start: performance.now() - spent, duration: spent })
}

// The marks by what they say: a parent that is drawn anew hands over a new object each time.
watch([lineUp, width, () => props.showTab, () => JSON.stringify(props.marks)], draw, { immediate: true })
let gone = false
onScopeDispose(() => {
  gone = true
  clearTimeout(rest)
})
whenFaceLoads(() => {
  if (!gone) draw()
})

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
const tints = computed<(Box | null)[]>(() =>
  systems.value.map(s => {
    const xs = (props.focus?.events ?? []).flatMap(id => s.anchors.get(id)?.x ?? [])
    if (!props.focus || xs.length === 0) return null
    const left = Math.min(...xs) - 14
    return { left, width: Math.max(...xs) + 16 - left, hue: familyLook(props.focus.family).hue }
  }),
)

const anchorsOf = (ids: readonly EventId[]) =>
  systems.value.map(s => ids.flatMap(id => s.anchors.get(id) ?? []))
const anchorOf = (id: EventId | null) => systems.value.map(s => (id === null ? undefined : s.anchors.get(id)))
const chosen = computed(() => anchorOf(props.caret))
/** The other notes of a chosen stretch. */
const stretch = computed(() => anchorsOf(props.selection.length > 1 ? props.selection : []))
/** Where something is wrong. */
const wrong = computed(() => anchorsOf(props.problems))
const bright = computed(() => anchorsOf(props.lit))
const playing = computed(() => anchorOf(props.sounding))

async function scrollTo(selector: string) {
  await nextTick()
  if (props.follow)
    host.value?.querySelector(selector)?.scrollIntoView({ block: 'nearest', behavior: 'auto' })
}
watch([() => props.focus, () => props.caret], () => scrollTo(props.caret ? '.chosen' : '.tint'), {
  flush: 'post',
})
/** The system the music is in: only with another one is there anything to scroll. */
const systemPlaying = computed(() => playing.value.findIndex(a => a !== undefined))
watch(systemPlaying, at => at >= 0 && scrollTo('.sounding'), { flush: 'post' })

/** The nearest note in the system that was clicked. */
function pick(event: MouseEvent, s: DrawnSystem, part: number) {
  const x = event.clientX - (event.currentTarget as HTMLElement).getBoundingClientRect().left
  let best: { id: EventId; distance: number } | null = null
  for (const [id, a] of s.anchors) {
    const distance = Math.abs(a.x - x)
    if (distance < (best?.distance ?? 24)) best = { id, distance }
  }
  if (best) emit('pick', best.id, event.shiftKey, props.parts.indexOf(placed.value.together[part]!))
}

const count = computed(() => Math.max(1, lineUp.value.length))
/** Parts stand close within a line. */
const inLine = (i: number) => i % count.value < count.value - 1
const isQuiet = (i: number) => placed.value.together[i % count.value]?.quiet === true

/** The bracket of the line that begins with this system, as a drawing over all its parts. */
function bracketOver(i: number): string | null {
  const left = brackets.value[i / count.value]
  const own = systems.value.slice(i, i + count.value)
  if (left === undefined || own.length < count.value) return null
  const above = own.slice(0, -1).reduce((t, s) => t + s.height, 0)
  return bracketOf(left, own[0]!.staffTop, above + own.at(-1)!.staffBottom).outerHTML
}

const box = (s: DrawnSystem, a: { x: number; top: number; bottom: number }) => ({
  left: `${a.x - 11}px`,
  top: `${Math.min(a.top, s.staffTop) - 22}px`,
  height: `${Math.max(a.bottom, s.staffBottom) - Math.min(a.top, s.staffTop) + 28}px`,
})
</script>

<template>
  <div ref="host" class="score" data-test="score">
    <p v-if="failure" role="alert" class="failure">The score can’t be drawn: {{ failure }}</p>
    <p v-else-if="!lineUp[0]?.notated.measures.length" class="quiet blank"><slot name="empty" /></p>
    <p v-else-if="placed.apart.length > 0" class="quiet" role="note" data-test="under-apart">
      {{ apartWords(placed.apart.map(p => p.label)) }}
    </p>
    <div
      v-for="(s, i) in systems"
      :key="i"
      class="system"
      :class="{ grey: isQuiet(i), over: inLine(i), last: count > 1 && !inLine(i) }"
      :style="{ height: `${s.height}px` }"
      @click="pick($event, s, i % count)"
    >
      <!-- eslint-disable-next-line vue/no-v-html -- drawn here, of numbers alone -->
      <svg v-if="i % count === 0 && bracketOver(i)" class="brackets" v-html="bracketOver(i)" />
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
      <div v-if="playing[i]" class="sounding" data-test="sounding" :style="box(s, playing[i]!)" />
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
.system.over {
  margin-bottom: 0;
}
.system.last {
  margin-bottom: 26px;
}
.system.grey {
  color: var(--faint);
}
.brackets {
  position: absolute;
  top: 0;
  left: 0;
  width: 100%;
  height: 1px;
  overflow: visible;
  pointer-events: none;
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
