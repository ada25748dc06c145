<script setup lang="ts">
/** A grip at the end of every line of the page: pulled to another bar, the line ends there. */
import { computed, ref } from 'vue'
import { beginsInstead } from '#core/arrangement/edits'
import { usePart } from '../stores/parts'
import { useSheet } from '../stores/sheet'
import type { Bar, DrawnPage, LineEnd } from '#drawing/pages'

const p = defineProps<{ page: DrawnPage; holders: readonly HTMLElement[] }>()
const part = usePart()
const store = useSheet()
const width = computed(() => Number(p.page.svg.getAttribute('width')))
const height = computed(() => Number(p.page.svg.getAttribute('height')))
const across = (x: number) => `${(x / width.value) * 100}%`
const down = (y: number) => `${(y / height.value) * 100}%`

/** What is pulled, and the bar under the hand; its mark is drawn over whatever page it lies on. */
const pulled = ref<LineEnd | null>(null)
const over = ref<{ bar: Bar; mark: { left: string; top: string; height: string } } | null>(null)

/** The nearest bar to a place on the screen, on any page. */
function barAt(x: number, y: number, after: number) {
  let best: { bar: Bar; far: number; left: number; top: number; height: number } | null = null
  store.pages.forEach((page, i) => {
    const box = p.holders[i]?.firstElementChild?.getBoundingClientRect()
    if (!box) return
    const scale = box.width / Number(page.svg.getAttribute('width'))
    for (const bar of page.bars.filter(b => b.index > after)) {
      const [bx, top, bottom] = [
        box.left + bar.x * scale,
        box.top + bar.top * scale,
        box.top + bar.bottom * scale,
      ]
      // Whoever pulls goes along the lines: the height counts for more.
      const far = Math.abs(bx - x) + 4 * Math.max(0, top - y, y - bottom)
      if (!best || far < best.far) best = { bar, far, left: bx, top, height: bottom - top }
    }
  })
  return best as { bar: Bar; far: number; left: number; top: number; height: number } | null
}
function start(event: PointerEvent, end: LineEnd) {
  pulled.value = end
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent) {
  if (!pulled.value) return
  const near = barAt(event.clientX, event.clientY, pulled.value.from)
  over.value = near
    ? { bar: near.bar, mark: { left: `${near.left}px`, top: `${near.top}px`, height: `${near.height}px` } }
    : null
}
function drop() {
  const [end, to] = [pulled.value, over.value?.bar]
  pulled.value = over.value = null
  if (end && to && to.measure !== end.next.measure)
    part.edit(r =>
      beginsInstead(r, end.next.measure, to.measure, { how: end.how, later: to.index > end.next.index }),
    )
}
</script>

<template>
  <span
    v-for="end in page.ends"
    :key="end.next.measure"
    class="grip no-print"
    :class="end.how"
    title="Pull: the line ends at another bar"
    data-test="break-grip"
    :style="{ left: across(end.x), top: down(end.top), height: down(end.bottom - end.top) }"
    @pointerdown.stop.prevent="start($event, end)"
    @pointermove="move"
    @pointerup="drop"
    @pointercancel="pulled = over = null"
    @click.stop
  />
  <Teleport to="body">
    <span v-if="over" class="landing no-print" :style="over.mark" />
  </Teleport>
</template>

<style scoped>
.grip {
  position: absolute;
  width: 10px;
  margin-left: -1px;
  border-radius: 0 5px 5px 0;
  background: rgb(var(--v-theme-primary));
  opacity: 0;
  cursor: ew-resize;
  touch-action: none;
}
.grip.page {
  border-radius: 0 0 5px 5px;
  background: rgb(var(--v-theme-secondary));
}
.paper:hover .grip {
  opacity: 0.35;
}
.grip:hover,
.grip:active {
  opacity: 1 !important;
}
.landing {
  position: fixed;
  z-index: 50;
  width: 4px;
  margin-left: -2px;
  background: rgb(var(--v-theme-primary));
  pointer-events: none;
}
</style>
