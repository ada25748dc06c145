<script setup lang="ts">
/**
 * The bow where the music is: the stick from frog to tip, and the point that touches the string. By itself,
 * so that nothing else is drawn with every frame.
 */
import { computed } from 'vue'
import { usePlayer } from '../stores/player'
import { placeAt, type StrokeLine } from './strokeLine'

const props = defineProps<{
  lines: readonly StrokeLine[]
  x: (quarters: number) => number
  y: (place: number) => number
}>()
const player = usePlayer()
const now = computed(() => {
  if (player.writtenAt === null) return null
  const found = placeAt(props.lines, player.writtenAt)
  return { x: props.x(player.writtenAt), found }
})
</script>

<template>
  <g v-if="now" class="bow" data-test="bow-at-playhead">
    <path class="stick" :d="`M${now.x - 5} ${y(0)} L${now.x - 5} ${y(1)} L${now.x} ${y(1) + 4}`" />
    <rect class="frog" :x="now.x - 8" :y="y(0) - 3" width="9" height="13" rx="1.5" />
    <line class="hair" :x1="now.x" :x2="now.x" :y1="y(0)" :y2="y(1)" />
    <template v-if="now.found">
      <circle class="contact" :cx="now.x" :cy="y(now.found.place)" r="6" />
      <path
        class="way"
        :d="
          now.found.line.direction === 'down'
            ? `M${now.x + 9} ${y(now.found.place) - 4} l5 5 l5 -5`
            : `M${now.x + 9} ${y(now.found.place) + 4} l5 -5 l5 5`
        "
      />
    </template>
  </g>
</template>

<style scoped>
.stick,
.way {
  fill: none;
  stroke: rgb(var(--v-theme-secondary));
  stroke-width: 2.4;
  stroke-linejoin: round;
}
.frog {
  fill: rgb(var(--v-theme-secondary));
}
.hair {
  stroke: currentColor;
  stroke-width: 1;
  opacity: 0.7;
}
.contact {
  fill: rgb(var(--v-theme-primary));
  stroke: var(--page);
  stroke-width: 1.5;
}
</style>
