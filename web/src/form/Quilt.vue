<script setup lang="ts">
/**
 * The quilt: a row for each part, a cell for each phrase. Seams between cells are dragged, or moved by key,
 * from note to note.
 */
import { computed, ref } from 'vue'
import { joinAt, moveBoundary } from '#core/arrangement/corrections'
import PhraseBlock from '../bench/PhraseBlock.vue'
import { usePart } from '../stores/parts'
import type { FormPartView, PhraseView } from '#core/desk/views'

const part = usePart()
const parts = computed(() => part.result?.parts ?? [])
const width = (part: FormPartView) => part.phrases.reduce((t, x) => t + x.bars, 0)
const widest = computed(() => Math.max(1, ...parts.value.map(width)))
const starts = computed(() => new Map(part.notes.map(n => [n.event, n])))

interface Seam {
  readonly before: PhraseView
  readonly after: PhraseView
}
/** The seam under the hand, and where it would go. */
const held = ref<(Seam & { to: string; x: number }) | null>(null)

/** Events at which the later phrase of a seam may begin: none of the two may lose all its notes. */
const places = ({ before, after }: Seam) => [...before.events.slice(1), ...after.events.slice(0, -1)]

const described = (event: string) => {
  const n = starts.value.get(event)
  return n ? `before ${n.pitch}, measure ${n.measure}` : 'before a rest'
}

function move(seam: Seam, to: string) {
  part.editTaught(moveBoundary(part.taught!, seam.after.id, to))
  part.focus = to
}

function press(seam: Seam, event: PointerEvent) {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  held.value = { ...seam, to: seam.after.id, x: 0 }
}

/** The note nearest to the pointer, by time, in the two cells beside the seam. */
function drag(event: PointerEvent) {
  const seam = held.value
  if (!seam) return
  const handle = event.currentTarget as HTMLElement
  const [left, right] = [handle.previousElementSibling, handle.nextElementSibling].map(e =>
    e!.getBoundingClientRect(),
  )
  const time = (x: number) =>
    x < left!.right
      ? seam.before.start + ((x - left!.left) / left!.width) * (seam.before.end - seam.before.start)
      : seam.after.start + ((x - right!.left) / right!.width) * (seam.after.end - seam.after.start)
  const at = time(event.clientX)
  const distance = (id: string) => Math.abs((starts.value.get(id)?.start ?? Infinity) - at)
  const to = places(seam).reduce((a, b) => (distance(b) < distance(a) ? b : a), seam.after.id)
  held.value = { ...seam, to, x: event.clientX - handle.getBoundingClientRect().left }
}

function drop() {
  const seam = held.value
  held.value = null
  if (seam && seam.to !== seam.after.id) move(seam, seam.to)
}

function key(seam: Seam, event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (by !== undefined) {
    const all = [...seam.before.events, ...seam.after.events]
    const to = all[all.indexOf(seam.after.id) + by]
    if (to !== undefined && places(seam).includes(to)) move(seam, to)
  } else if (event.key === 'Delete' || event.key === 'Backspace') {
    part.editTaught(joinAt(part.taught!, seam.after.id))
    part.focus = seam.before.id
  } else return
  event.preventDefault()
  event.stopPropagation()
}
const seamName = (before: string, p: { readonly label: string; readonly id: string }) =>
  `Seam between ${before} and ${p.label}, ${described(p.id)}: arrows move it by a note, Delete joins the two`
</script>

<template>
  <section class="quilt" aria-label="Quilt of the form" data-test="quilt">
    <p v-if="part.result && parts.length === 0" class="quiet">No phrases yet: the tune has no notes.</p>
    <div v-for="(row, i) in parts" :key="i" class="row">
      <span class="part"
        >{{ row.label }}<small v-if="row.again"> again</small><small v-if="row.repeated"> twice</small></span
      >
      <div class="cells" :style="{ width: `${(100 * width(row)) / widest}%` }">
        <template v-for="(p, k) in row.phrases" :key="k">
          <button
            v-if="k > 0"
            type="button"
            class="seam"
            :class="{ held: held?.after.id === p.id }"
            :aria-label="seamName(row.phrases[k - 1]!.label, p)"
            :title="`${described(p.id)} – drag it, or move it with the arrow keys`"
            data-test="seam"
            @pointerdown="press({ before: row.phrases[k - 1]!, after: p }, $event)"
            @pointermove="drag"
            @pointerup="drop"
            @pointercancel="held = null"
            @keydown="key({ before: row.phrases[k - 1]!, after: p }, $event)"
          >
            <span
              v-if="held?.after.id === p.id && held.x !== 0"
              class="ghost"
              :style="{ left: `${held.x}px` }"
            >
              <em>{{ described(held.to) }}</em>
            </span>
          </button>
          <PhraseBlock
            :phrase="p"
            :focused="part.focus === p.id"
            tall
            :style="{ flex: `${Math.max(0.5, p.bars)} 1 0` }"
            @click="part.focus = p.id"
          />
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 6px;
}
.part {
  width: 74px;
  flex: none;
  font-weight: 700;
}
.part small {
  font-weight: 400;
  color: var(--faint);
}
.cells {
  display: flex;
  max-width: calc(100% - 84px);
}
.seam {
  position: relative;
  flex: none;
  width: 12px;
  cursor: ew-resize;
  touch-action: none;
  border-radius: 3px;
}
.seam::before {
  content: '';
  position: absolute;
  inset: 22px 5px;
  border-left: 2px dotted var(--faint);
}
.seam:hover::before,
.seam.held::before {
  inset: 4px 5px;
  border-left: 2px solid rgb(var(--v-theme-secondary));
}
.ghost {
  position: absolute;
  top: -4px;
  bottom: -4px;
  border-left: 2px solid rgb(var(--v-theme-secondary));
  z-index: 2;
  pointer-events: none;
}
.ghost em {
  position: absolute;
  top: -20px;
  left: 4px;
  font-style: normal;
  font-size: 12.5px;
  white-space: nowrap;
  padding: 1px 6px;
  border-radius: 3px;
  background: rgb(var(--v-theme-surface));
  border: 1px solid var(--rule);
}
</style>
