<script setup lang="ts">
import { mdiPlay, mdiRepeat, mdiStop, mdiTuneVariant } from '@mdi/js'
import { computed, ref } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { saveFile } from '../files/saveFile'
import { useBench } from '../stores/bench'
import { FASTEST, SLOWEST, usePlayer } from '../stores/player'

const bench = useBench()
const player = usePlayer()
const rendering = ref(false)

const running = computed(() => player.state !== 'stopped')
const what = computed(() =>
  player.focused
    ? `phrase ${player.focused.label}`
    : bench.selection.length > 1
      ? 'the chosen notes'
      : 'the tune',
)
const droneItems = computed(() => [
  { value: 'none', title: 'none' },
  { value: 'tonic', title: 'keynote, low' },
  ...lettersOf(bench.recipe!.played.instrument, bench.recipe!.played.tuning).map((l, i) => ({
    value: String(i),
    title: `open ${l}`,
  })),
])
const counts = [
  { value: 'none', title: 'none' },
  { value: 'beats', title: 'beats' },
  { value: 'subdivision', title: 'subdivision' },
]

function setTempo(text: string) {
  const n = Math.round(Number(text))
  if (n >= SLOWEST && n <= FASTEST) player.settings.tempo = n
}

async function wav() {
  rendering.value = true
  try {
    saveFile(`${bench.documents!.tune.title || 'tune'}.wav`, await player.exportWav())
  } catch (e) {
    player.problem = `The file could not be made: ${e instanceof Error ? e.message : String(e)}`
  } finally {
    rendering.value = false
  }
}
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
      data-test="play"
      @click="player.toggle()"
    />
    <v-btn
      :icon="mdiRepeat"
      size="small"
      :aria-pressed="player.settings.loop"
      :class="{ on: player.settings.loop }"
      aria-label="Play over and over"
      data-test="loop"
      @click="player.settings.loop = !player.settings.loop"
    />
    <v-text-field
      :model-value="player.settings.tempo"
      type="number"
      :min="SLOWEST"
      :max="FASTEST"
      step="5"
      suffix="%"
      single-line
      class="tempo"
      aria-label="Tempo in per cent"
      data-test="play-tempo"
      @update:model-value="setTempo"
    />
    <span class="count" aria-live="polite" data-test="count">{{ player.count }}</span>
    <v-menu :close-on-content-click="false" location="bottom end">
      <template #activator="{ props: menu }">
        <v-btn
          v-bind="menu"
          :icon="mdiTuneVariant"
          size="small"
          aria-label="How it sounds"
          data-test="sound-menu"
        />
      </template>
      <v-card class="sound stack" data-test="sound">
        <v-select v-model="player.settings.countIn" :items="counts" label="Count-in" data-test="count-in" />
        <v-select v-model="player.settings.drone" :items="droneItems" label="Drone" data-test="drone" />
        <v-switch v-model="player.settings.metronome" label="Metronome" data-test="metronome" />
        <v-switch
          v-model="player.settings.echo"
          label="Echo: the same time again, to play it back"
          data-test="echo"
        />
        <v-switch v-model="player.settings.backing" label="Chords of the tune" data-test="backing" />
        <label class="slider"
          >Swing
          {{
            player.settings.swing === 50
              ? 'none'
              : `${player.settings.swing} : ${100 - player.settings.swing}`
          }}
          <input
            v-model.number="player.settings.swing"
            type="range"
            min="50"
            max="75"
            step="1"
            data-test="swing"
          />
        </label>
        <label class="slider"
          >Volume
          <input
            v-model.number="player.settings.volume"
            type="range"
            min="0"
            max="1"
            step="0.05"
            data-test="volume"
          />
        </label>
        <p class="quiet caution">Keep the level down close to the ear and in headphones.</p>
        <v-btn variant="outlined" :loading="rendering" data-test="wav" @click="wav"
          >Save {{ what }} as WAV</v-btn
        >
      </v-card>
    </v-menu>
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
  width: 88px;
  flex: none;
}
.tempo :deep(.v-field__input),
.tempo :deep(.v-text-field__suffix) {
  padding-top: 0;
  padding-bottom: 0;
  min-height: 32px;
  align-items: center;
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
.sound {
  padding: 18px;
  gap: 10px;
  width: 300px;
}
.slider {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  font-size: 14px;
}
.slider input {
  accent-color: rgb(var(--v-theme-primary));
}
.caution {
  font-size: 12.5px;
  margin: 0;
}
.problem {
  font-size: 13px;
  max-width: 260px;
}
</style>
