<script setup lang="ts">
/**
 * The shape of the hand on one string: a cell for each half step, fingers where they stand; neighbours in
 * neighbouring cells touch.
 */
import { computed } from 'vue'
import type { StringShape } from '#core/teach/shapes'
import { digitText } from '#core/instruments/digits'

const props = defineProps<{ shape: StringShape; anchor: number; letter: string }>()
/** From a half step behind the first finger to the fourth finger stretched. */
const cells = computed(() => {
  const far = Math.max(props.anchor + 6, ...props.shape.fingers.map(f => f.offset))
  const near = Math.min(Math.max(1, props.anchor - 1), ...props.shape.fingers.map(f => f.offset))
  return Array.from({ length: far - near + 1 }, (_, i) => ({
    offset: near + i,
    digits: props.shape.fingers.filter(f => f.offset === near + i).map(f => digitText(f.finger, f.mark)),
  }))
})
const touching = computed(
  () =>
    new Set(
      props.shape.fingers
        .slice(1)
        .flatMap((b, i) => (b.offset - props.shape.fingers[i]!.offset === 1 ? [b.offset] : [])),
    ),
)
const words = computed(() => {
  const pairs = props.shape.touching.map(([a, b]) => `${a} and ${b} touch`)
  return `${props.letter}: ${pairs.length > 0 ? pairs.join(', ') : 'no fingers touch'}`
})
</script>

<template>
  <div class="strip" role="img" :aria-label="words" :title="words" data-test="shape">
    <b>{{ letter }}</b>
    <span
      v-for="c in cells"
      :key="c.offset"
      class="cell"
      :class="{ used: c.digits.length, joined: touching.has(c.offset) }"
      >{{ c.digits.join('/') }}</span
    >
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  align-items: center;
  margin: 3px 0;
}
.strip b {
  width: 22px;
}
.cell {
  width: 27px;
  height: 24px;
  border: 1px solid var(--rule);
  border-left-width: 0;
  text-align: center;
  font-size: 13.5px;
  line-height: 22px;
}
.cell:nth-child(2) {
  border-left-width: 1px;
}
.used {
  font-weight: 700;
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 16%, transparent);
}
.joined {
  border-left: 1px solid transparent;
}
</style>
