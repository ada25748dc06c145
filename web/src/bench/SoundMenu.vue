<script setup lang="ts">
/**
 * How it sounds: count-in, drone, metronome, swing; and what is heard saved as a file. Made when it is
 * opened.
 */
import { computed, ref } from 'vue'
import { lettersOf } from '#core/instruments/instruments'
import { canSwing } from '#core/playback/perform'
import { saveFile } from '../files/saveFile'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import MixerRows from '../sound/MixerRows.vue'
import { TUNE_TRACK, usePlayer } from '../stores/player'

defineProps<{ target: HTMLElement; what: string }>()
const emit = defineEmits<{ close: [] }>()
const docs = useDocuments()
const part = usePart()
const player = usePlayer()
const rendering = ref(false)
const droneItems = computed(() => [
  { value: 'none', title: 'none' },
  { value: 'tonic', title: 'keynote, low' },
  ...lettersOf(part.recipe.played.instrument, part.recipe.played.tuning).map((l, i) => ({
    value: String(i),
    title: `open ${l}`,
  })),
])
const swings = computed(() => canSwing(docs.documents!.tune.metre))
const swing = computed(() => {
  const { swing: share } = player.settings
  if (!swings.value) return 'none: no pairs of eighths in this metre'
  return share === 50 ? 'none' : `${share} : ${100 - share}`
})
/** What sounds beside the tune, as it is set. */
const tracks = computed(() => {
  const s = player.settings
  return [
    { id: TUNE_TRACK, label: 'Tune', heard: true },
    { id: 'clicks', label: 'Clicks', heard: s.metronome || s.echo || s.countIn !== 'none' },
    { id: 'drone', label: 'Drone', heard: s.drone !== 'none' },
    { id: 'backing', label: 'Chords', heard: s.backing },
  ].filter(t => t.heard)
})
const counts = [
  { value: 'none', title: 'none' },
  { value: 'beats', title: 'beats' },
  { value: 'subdivision', title: 'subdivision' },
]

async function wav() {
  rendering.value = true
  try {
    saveFile(`${docs.documents!.tune.title || 'tune'}.wav`, await player.exportWav())
  } catch (e) {
    player.problem = `The file could not be made: ${e instanceof Error ? e.message : String(e)}`
  } finally {
    rendering.value = false
  }
}
</script>

<template>
  <v-menu
    :model-value="true"
    :target="target"
    :close-on-content-click="false"
    :transition="false"
    location="bottom end"
    @update:model-value="emit('close')"
  >
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
        >Swing {{ swing }}
        <input
          v-model.number="player.settings.swing"
          type="range"
          min="50"
          max="75"
          step="1"
          :disabled="!swings"
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
      <MixerRows v-if="tracks.length > 1" v-model="player.settings.mix" :tracks="tracks" />
      <p class="quiet caution">Keep the level down close to the ear and in headphones.</p>
      <v-btn variant="outlined" :loading="rendering" data-test="wav" @click="wav"
        >Save {{ what }} as WAV</v-btn
      >
    </v-card>
  </v-menu>
</template>

<style scoped>
.sound {
  padding: 18px;
  gap: 10px;
  width: 380px;
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
</style>
