<script setup lang="ts">
/**
 * A lane under the score: time across. It follows the chosen note, the focused phrase and the music, and
 * shows where the music is.
 */
import { useElementSize } from '@vueuse/core'
import { nextTick, ref, watch } from 'vue'
import { LEFT, timeX } from './laneModel'
import { usePart } from '../stores/parts'
import { usePlayer } from '../stores/player'
import Playhead from './Playhead.vue'

const props = withDefaults(
  defineProps<{
    width: number
    height: number
    label: string
    about: string
    name: string
    scale?: number
  }>(),
  { scale: 1 },
)
const part = usePart()
const player = usePlayer()
const host = ref<HTMLElement | null>(null)

function follow(quarters: number, always: boolean) {
  if (!host.value) return
  const x = timeX(quarters * props.scale)
  if (always || x < seen + LEFT || x > seen + wide.value - 80) {
    host.value.scrollLeft = x - LEFT - 20
    seen = host.value.scrollLeft
  }
}
/** Scrolled by so much, and so wide: asking the page for it at every frame would lay it out every time. */
let seen = 0
const { width: wide } = useElementSize(host)
const noteScroll = () => void (seen = host.value?.scrollLeft ?? 0)

watch([() => part.selected, () => part.focus], async ([now], [before]) => {
  await nextTick()
  const phrase = now === before ? part.phrases.find(p => p.id === part.focus) : undefined
  const at = phrase ? phrase.start : part.selectedNote?.start
  if (at !== undefined) follow(at, phrase !== undefined)
})
watch(
  () => player.writtenAt,
  at => {
    if (at !== null) follow(at, false)
  },
)
</script>

<template>
  <div
    ref="host"
    class="lane"
    :data-test="name"
    tabindex="0"
    :aria-label="label"
    @scroll.passive="noteScroll"
  >
    <svg :width="width" :height="height" role="img" :aria-label="about">
      <slot />
      <Playhead :height="height" :scale="scale" />
    </svg>
  </div>
</template>

<style scoped>
.lane:focus-visible {
  outline-offset: -2px;
}
.lane {
  overflow-x: auto;
  border-top: 1px solid var(--rule);
  border-bottom: 1px solid var(--rule);
  background: rgb(var(--v-theme-surface));
}
svg {
  display: block;
}
</style>
