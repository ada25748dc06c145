<script setup lang="ts">
/**
 * Where the music is in a lane. By itself, so that what stands still in the lane is not drawn anew with every
 * frame.
 */
import { timeX } from './laneModel'
import { usePlayer } from '../stores/player'

withDefaults(defineProps<{ height: number; scale?: number }>(), { scale: 1 })
const player = usePlayer()
</script>

<template>
  <line
    v-if="player.writtenAt !== null"
    class="playhead"
    :x1="timeX(player.writtenAt * scale)"
    :x2="timeX(player.writtenAt * scale)"
    y1="0"
    :y2="height"
  />
</template>

<style scoped>
.playhead {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
</style>
