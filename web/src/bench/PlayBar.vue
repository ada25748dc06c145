<script setup lang="ts">
import { mdiPlay, mdiRepeat, mdiStop, mdiTuneVariant } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { usePart } from '../stores/parts'
import { FASTEST, SLOWEST, usePlayer } from '../stores/player'

const part = usePart()
const player = usePlayer()

const running = computed(() => player.state !== 'stopped')
const what = computed(() =>
  player.focused
    ? `phrase ${player.focused.label}`
    : part.selection.length > 1
      ? 'the chosen notes'
      : 'the tune',
)
function setTempo(text: string) {
  const n = Math.round(Number(text))
  if (n >= SLOWEST && n <= FASTEST) player.settings.tempo = n
}

const SoundMenu = defineAsyncComponent(() => import('./SoundMenu.vue'))
const opener = ref<HTMLElement | null>(null)
const toggleSound = (event: MouseEvent) =>
  (opener.value = opener.value ? null : (event.currentTarget as HTMLElement))
</script>

<template>
  <div class="play" data-test="play-bar">
    <v-btn
      :icon="running ? mdiStop : mdiPlay"
      size="small"
      variant="flat"
      color="primary"
      :loading="player.state === 'loading'"
      :aria-label="running ? 'Stop' : `Play ${what}`"
      :title="running ? 'Stop' : `Play ${what}`"
      data-test="play"
      @click="player.toggle()"
    />
    <v-btn
      :icon="mdiRepeat"
      size="small"
      :aria-pressed="player.settings.loop"
      :class="{ on: player.settings.loop }"
      aria-label="Loop"
      title="Loop"
      data-test="loop"
      @click="player.settings.loop = !player.settings.loop"
    />
    <label class="tempo" data-test="play-tempo"
      ><input
        type="number"
        :value="player.settings.tempo"
        :min="SLOWEST"
        :max="FASTEST"
        step="5"
        aria-label="Tempo in per cent"
        @input="setTempo(($event.target as HTMLInputElement).value)"
      />&nbsp;%</label
    >
    <span class="count" aria-live="polite" data-test="count">{{ player.count || player.turn }}</span>
    <v-btn
      :icon="mdiTuneVariant"
      size="small"
      aria-label="Sound"
      title="Sound"
      aria-haspopup="dialog"
      :aria-expanded="opener !== null"
      data-test="sound-menu"
      @click="toggleSound"
    />
    <SoundMenu v-if="opener" :target="opener" :what="what" @close="opener = null" />
    <span v-if="player.problem" class="problem" role="status">{{ player.problem }}</span>
  </div>
</template>

<style scoped>
.play {
  display: flex;
  align-items: center;
  gap: 4px;
}
.tempo {
  flex: none;
  font-variant-numeric: tabular-nums;
}
.tempo input {
  width: 58px;
  padding: 5px 2px 5px 8px;
  font: inherit;
  text-align: right;
  color: inherit;
  background: transparent;
  border: 1px solid var(--faint);
  border-radius: 4px;
}
.on {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 45%, transparent);
}
.count {
  min-width: 30px;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.problem {
  font-size: 13px;
  max-width: 260px;
}
</style>
