<script setup lang="ts">
import { computed } from 'vue'
import { kinSentence } from '#core/words/form'
import type { PhraseView } from '#core/desk/views'
import { usePlayer } from '../stores/player'
import { familyLook } from '../theme/families'

const props = defineProps<{
  phrase: PhraseView
  focused: boolean
  tall?: boolean
  /** Shows where the music is in it. */
  follows?: boolean
}>()
const player = usePlayer()

const look = computed(() => familyLook(props.phrase.family))
/** Letter of the family, with a stroke for every changed version. */
const kinMark = computed(
  () => String.fromCharCode(97 + (props.phrase.family % 26)) + '′'.repeat(Math.min(3, props.phrase.variant)),
)
const described = computed(
  () =>
    `${props.phrase.name || props.phrase.label}, ${props.phrase.bars} bars` +
    (props.phrase.kin[0] ? `. ${kinSentence(props.phrase.kin[0])}` : ''),
)
/** How far through the phrase the music is, 0 to 1; null where it is not. */
const sounding = computed(() => {
  const { start, end, events } = props.phrase
  const { playing, writtenAt } = player
  if (!props.follows || !playing || writtenAt === null || !events.includes(playing)) return null
  return Math.max(0, Math.min(1, (writtenAt - start) / Math.max(0.001, end - start)))
})
</script>

<template>
  <button
    type="button"
    class="block family"
    :class="{ focused, tall }"
    :style="look.style"
    :aria-pressed="focused"
    :title="described"
    data-test="phrase"
  >
    <span class="names">
      <b>{{ phrase.label }}</b>
      <span class="kin">{{ kinMark }}</span>
      <span v-if="phrase.name" class="own">{{ phrase.name }}</span>
    </span>
    <svg class="contour" viewBox="0 0 100 24" preserveAspectRatio="none" aria-hidden="true">
      <line
        v-for="([x, y], i) in phrase.contour"
        :key="i"
        :x1="2 + x * 95"
        :x2="2 + x * 95"
        :y1="21 - y * 18"
        :y2="21 - y * 18"
        stroke="currentColor"
        stroke-width="4"
        stroke-linecap="round"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    <span v-if="sounding !== null" class="at" :style="{ left: `${sounding * 100}%` }" />
  </button>
</template>

<style scoped>
.at {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2.5px;
  background: rgb(var(--v-theme-primary));
}
.block {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 46px;
  height: 50px;
  padding: 3px 7px 4px;
  border-radius: 3px;
  border: 1.5px solid transparent;
  text-align: left;
  overflow: hidden;
}
.block.tall {
  height: 74px;
}
.block.focused {
  border-color: currentColor;
}
.names {
  display: flex;
  gap: 6px;
  font-size: 12.5px;
  line-height: 1.25;
  white-space: nowrap;
}
.kin {
  font-style: italic;
}
.own {
  overflow: hidden;
  text-overflow: ellipsis;
}
.contour {
  flex: 1;
  width: 100%;
  min-height: 0;
}
</style>
