<script setup lang="ts">
/**
 * Two phrases laid over each other: the dots of one on the dots of the other, what differs lit; fingers and
 * bows in rows under them.
 */
import { computed, ref, shallowRef, watch } from 'vue'
import type { Overlay, OverlayNote } from '#core/teach/overlay'
import { usePart } from '../stores/parts'
import { usePlayer } from '../stores/player'
import { familyLook } from '../theme/families'
import { askPart, latestLane } from '../worker/client'
import { counted } from '#core/counts'

const emit = defineEmits<{ differing: [ids: readonly string[]] }>()
const part = usePart()
const player = usePlayer()
const focused = computed(() => part.phrases.find(p => p.id === part.focus) ?? null)
const others = computed(() => part.phrases.filter(p => p.id !== part.focus))
const chosen = ref<string | null>(null)
/** The one chosen, the nearest kin, or what comes before. */
const other = computed(() => {
  const kin = focused.value?.kin[0]?.phrase
  return (
    others.value.find(p => p.id === chosen.value) ??
    others.value.find(p => p.label === kin) ??
    others.value.find(p => p.kin[0]?.phrase === focused.value?.label) ??
    others.value[0] ??
    null
  )
})
watch(
  () => part.focus,
  () => (chosen.value = null),
)

const overlay = shallowRef<Overlay | null>(null)
const problem = ref('')
const asking = latestLane(
  (q: { first: string; second: string }) => askPart('overlay', part.asked, q.first, q.second),
  o => {
    overlay.value = o
    emit('differing', o ? o.voices.flatMap(v => v.filter(n => n.differs).map(n => n.id)) : [])
  },
  e => (problem.value = e.message),
)
watch(
  [() => part.result, focused, other],
  () => {
    if (part.result && focused.value && other.value)
      asking.ask({ first: other.value.id, second: focused.value.id })
    else overlay.value = null
  },
  { immediate: true },
)

const WIDTH = 860
const STEP = 7
const TOP = 14
const ROW = 17
const scale = computed(() =>
  overlay.value ? (WIDTH - 90) / Math.max(0.5, overlay.value.to - overlay.value.from) : 1,
)
const x = (at: number) => 80 + (at - (overlay.value?.from ?? 0)) * scale.value
const y = (height: number) => TOP + ((overlay.value?.highest ?? 0) - height) * STEP
const under = computed(() => TOP + (overlay.value?.highest ?? 0) * STEP + 22)
const hue = (k: number) => familyLook([other.value, focused.value][k]?.family ?? 0).hue
const sounding = (v: readonly OverlayNote[]) => v.filter(n => n.height !== null)
const count = computed(() => overlay.value?.voices[1].filter(n => n.differs && n.height !== null).length ?? 0)
const told = computed(() =>
  count.value === 0
    ? 'Note for note the same.'
    : `${counted(count.value, 'note differs', 'notes differ')}: lit here and in the score.`,
)
const hear = (which: 'first' | 'second' | 'turn') => {
  const [a, b] = [other.value!, focused.value!].map(p => ({ events: p.events, name: p.label }))
  player.hear(which === 'first' ? [a!] : which === 'second' ? [b!] : [a!, b!])
}
</script>

<template>
  <div v-if="focused && other" class="compare" data-test="compare">
    <div class="head">
      <v-select
        :model-value="other.id"
        :items="others.map(p => ({ value: p.id, title: p.name ? `${p.label} ${p.name}` : p.label }))"
        :label="`Lay ${focused.label} over`"
        class="which"
        data-test="compare-with"
        @update:model-value="chosen = $event"
      />
      <span data-test="compare-told">{{ told }}</span>
      <span class="hear">
        <v-btn size="small" variant="outlined" @click="hear('first')">Hear {{ other.label }}</v-btn>
        <v-btn size="small" variant="outlined" @click="hear('second')">Hear {{ focused.label }}</v-btn>
        <v-btn size="small" variant="outlined" data-test="hear-turn" @click="hear('turn')">In turn</v-btn>
      </span>
    </div>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <svg
      v-if="overlay"
      :viewBox="`0 0 ${WIDTH} ${under + 2 * ROW * 2 + 6}`"
      class="laid"
      role="img"
      :aria-label="`${overlay.labels[1]} laid over ${overlay.labels[0]}. ${told}`"
    >
      <g v-for="(voice, k) in overlay.voices" :key="k" :style="{ '--hue': hue(k) }">
        <template v-for="n in sounding(voice)" :key="n.id">
          <rect
            v-if="n.differs"
            class="lit"
            :x="x(n.at) - 7"
            :y="y(n.height!) - 8"
            :width="Math.max(14, n.length * scale - 1)"
            height="16"
            rx="8"
          />
          <line
            :class="k === 0 ? 'under' : 'over'"
            :x1="x(n.at)"
            :x2="x(n.at + n.length) - 6"
            :y1="y(n.height!) + (k === 0 ? 2 : -2)"
            :y2="y(n.height!) + (k === 0 ? 2 : -2)"
          />
          <circle
            :class="k === 0 ? 'under' : 'over'"
            :cx="x(n.at)"
            :cy="y(n.height!) + (k === 0 ? 2 : -2)"
            r="4.4"
          />
        </template>
      </g>
      <g v-for="(voice, k) in overlay.voices" :key="`rows${k}`">
        <text class="name" x="0" :y="under + k * 2 * ROW + 12">{{ overlay.labels[k] }} fingers</text>
        <text class="name" x="0" :y="under + k * 2 * ROW + ROW + 12">bow</text>
        <template v-for="n in sounding(voice)" :key="n.id">
          <text
            class="mark"
            :class="{ strange: n.differs || n.otherFinger }"
            :x="x(n.at)"
            :y="under + k * 2 * ROW + 12"
          >
            {{ n.finger }}
          </text>
          <text
            v-if="n.bow"
            class="mark"
            :class="{ strange: n.otherBow }"
            :x="x(n.at)"
            :y="under + k * 2 * ROW + ROW + 12"
          >
            {{ n.bow === 'down' ? '⊓' : 'v' }}
          </text>
        </template>
      </g>
    </svg>
  </div>
  <p v-else class="quiet">Choose a phrase in the quilt: it is laid over its nearest kin.</p>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 16px;
  flex-wrap: wrap;
}
.which {
  flex: 0 0 190px;
}
.hear {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
.laid {
  display: block;
  width: 100%;
  max-width: 1100px;
  margin-top: 10px;
}
circle.over {
  fill: rgb(var(--v-theme-on-surface));
}
line.over {
  stroke: rgb(var(--v-theme-on-surface));
  stroke-width: 2;
}
circle.under {
  fill: var(--page);
  stroke: hsl(var(--hue) 45% 42%);
  stroke-width: 2;
}
line.under {
  stroke: hsl(var(--hue) 45% 42%);
  stroke-width: 2;
}
.lit {
  fill: color-mix(in srgb, rgb(var(--v-theme-secondary)) 34%, transparent);
}
.name {
  font-size: 12px;
  fill: var(--faint);
}
.mark {
  font-size: 12px;
  fill: currentColor;
  text-anchor: middle;
}
.strange {
  font-weight: 700;
  text-decoration: underline;
}
</style>
