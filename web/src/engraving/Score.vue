<script setup lang="ts">
/**
 * A score: one SVG a system, broken by measured width, redrawn only where something changed. It is told all
 * it shows, and says what is clicked.
 */
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import type { EventId } from '#core/music/ids'
import { apartWords } from '#core/words/sheet'
import { familyLook } from '../theme/families'
import type { MarkOptions } from '#core/page/marks'
import type { DrawnSystem } from '#drawing/systemParts'
import type { ScorePart } from './scorePart'
import { useSystems } from './useSystems'

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
const { systems, brackets, lineUp, placed, failure } = useSystems(width, props)

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
      <svg v-if="i % count === 0 && brackets[i / count]" class="brackets" v-html="brackets[i / count]" />
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
