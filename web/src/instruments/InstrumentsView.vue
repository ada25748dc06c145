<script setup lang="ts">
/** Sizes, tapes, hands, tunings and a tuner, for one instrument at a time. */
import { useStorage } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { homeTuning, type Tuning } from '#core/instruments/tunings'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { BOW, HAND } from '#core/taste/kinds'
import TabRow from '../bench/TabRow.vue'
import { useStudio } from '../stores/studio'
import { useTaste } from '../stores/taste'
import HandModelPanel from './HandModelPanel.vue'
import HandsPanel from './HandsPanel.vue'
import RetunePanel from './RetunePanel.vue'
import TapesPanel from './TapesPanel.vue'
import TastePanel from './TastePanel.vue'
import TunerPanel from './TunerPanel.vue'

const studio = useStudio()
const taste = useTaste()
onMounted(() => studio.load())
const id = useStorage<InstrumentId>('nokta.instrument', 'violin')
const tabs = INSTRUMENT_IDS.map(value => ({ value, name: INSTRUMENTS[value].name }))
const size = ref(sizeOf(id.value).name)
const measured = ref<number | null>(null)
const target = ref<Tuning>(homeTuning(id.value))
watch(id, now => {
  size.value = sizeOf(now).name
  measured.value = null
  target.value = homeTuning(now)
})
const length = computed(() => measured.value ?? sizeOf(id.value, size.value).string)
</script>

<template>
  <div class="page">
    <h1>Instruments</h1>
    <TabRow v-model="id" :tabs="tabs" name="instrument" class="row" />
    <p v-if="studio.problem" role="alert">{{ studio.problem }}</p>
    <div class="columns">
      <div>
        <TapesPanel :id="id" v-model:size="size" v-model:measured="measured" :length="length" />
        <HandsPanel :id="id" />
        <HandModelPanel />
        <TastePanel
          name="taste"
          of="fingers"
          :kind="HAND"
          :taste="studio.studio.taste"
          @turn="taste.fingers.turn"
          @forget="taste.fingers.forget"
        >
          Fingers you set teach Nokta a little of what you like; levels, spans and what a hand can do stay as
          they are.
        </TastePanel>
        <TastePanel
          name="bow-taste"
          of="bow marks"
          :kind="BOW"
          :taste="studio.studio.bowTaste"
          @turn="taste.bow.turn"
          @forget="taste.bow.forget"
        >
          Slurs and other marks you take, refuse or set do the same for what Nokta proposes.
        </TastePanel>
      </div>
      <div>
        <RetunePanel :id="id" v-model:target="target" />
        <TunerPanel :id="id" :tuning="target" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
  margin: 0 auto;
  padding: 22px 24px 60px;
}
.page :deep(h2) {
  font-size: 19px;
}
.row {
  margin: 14px 0 20px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 44px;
}
</style>
