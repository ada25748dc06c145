<script setup lang="ts">
/** A finger digit in an SVG, centred on (x, y); the open string is a plain oval. */
import { computed } from 'vue'

const props = withDefaults(defineProps<{ x: number; y: number; shown: string; size?: number }>(), {
  size: 12,
})

/** The chevron beside a single digit, drawn so that it stays legible when small. */
const chevron = computed(() => {
  const m = /^(‹?)([1-4T])(›?)$/.exec(props.shown)
  if (!m || (!m[1] && !m[3])) return null
  const [side, s] = [m[1] ? -1 : 1, props.size]
  const tip = props.x + side * s * 0.62
  const d = `M${tip - side * s * 0.22} ${props.y - s * 0.26} L${tip} ${props.y} L${tip - side * s * 0.22} ${props.y + s * 0.26}`
  return { digit: m[2]!, d, x: props.x - side * s * 0.1 }
})
</script>

<template>
  <ellipse
    pointer-events="none"
    v-if="shown === '0'"
    :cx="x"
    :cy="y"
    :rx="size * 0.25"
    :ry="size * 0.37"
    fill="none"
    stroke="currentColor"
    stroke-width="1.6"
  />
  <g v-else-if="chevron" pointer-events="none">
    <text
      :x="chevron.x"
      :y="y + size * 0.35"
      :font-size="size"
      font-weight="700"
      text-anchor="middle"
      fill="currentColor"
      >{{ chevron.digit }}</text
    >
    <path :d="chevron.d" fill="none" stroke="currentColor" stroke-width="1.6" />
  </g>
  <text
    pointer-events="none"
    v-else
    :x="x"
    :y="y + size * 0.35"
    :font-size="size"
    font-weight="700"
    text-anchor="middle"
    fill="currentColor"
    >{{ shown }}</text
  >
</template>
