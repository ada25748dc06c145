<script setup lang="ts">
/**
 * A fingerboard to write with: a tap on a string is a note. Drawn to scale, nut on the left, highest string
 * on top.
 */
import { computed, ref } from 'vue'
import { fromNut } from '#core/instruments/geometry'
import { stringLength } from '#core/arrangement/handOptions'
import { INSTRUMENTS, lettersOf } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { usualFinger } from '#core/instruments/usualFinger'
import { spellInKey } from '#core/music/edit/spelling'
import { prettyPitch } from '#core/music/pitch'
import { usePart } from '../stores/parts'
import { useEntry } from '../stores/entry'

const part = usePart()
const entry = useEntry()
const recipe = computed(() => part.recipe)
const upTo = ref(9)
const together = ref(false)

const WIDTH = 760
const NUT = 64
const GAP = 30
const TOP = 22
const length = computed(() => stringLength(recipe.value.played))
const strings = computed(() => recipe.value.played.tuning ?? homeTuning(recipe.value.played.instrument))
const letters = computed(() => lettersOf(recipe.value.played.instrument, recipe.value.played.tuning))
const offsets = computed(() => Array.from({ length: upTo.value + 1 }, (_, i) => i))
const reach = computed(() => fromNut(length.value, upTo.value + 0.6))
const at = (offset: number) =>
  NUT + (fromNut(length.value, Math.max(0, offset)) / reach.value) * (WIDTH - NUT - 10)
/** A stopped note is touched between the half steps on both sides. */
const left = (offset: number) => (offset === 0 ? 26 : at(offset - 0.5))
const right = (offset: number) => (offset === 0 ? NUT - 4 : at(offset + 0.5))
const height = computed(() => TOP + strings.value.length * GAP)

const places = computed(() =>
  strings.value.flatMap((open, string) =>
    offsets.value.map(offset => {
      const sounding = open + offset
      const pitch = spellInKey(
        sounding + INSTRUMENTS[recipe.value.played.instrument].writtenAbove,
        part.result!.tune.key,
      )
      const finger = usualFinger(recipe.value.played.instrument, offset, {
        bassHand: recipe.value.played.schools.bassHand,
      })
      return { string, offset, name: prettyPitch(pitch), finger }
    }),
  ),
)
const here = computed(() => part.selectedNote)
const isHere = (string: number, offset: number) =>
  here.value?.string === string && here.value.offset === offset

function tap(string: number, offset: number, event: MouseEvent) {
  entry.tap(string, offset, together.value || event.shiftKey)
}
</script>

<template>
  <div class="tap">
    <svg
      :viewBox="`0 0 ${WIDTH} ${height}`"
      role="group"
      aria-label="Fingerboard to write with"
      data-test="tap-board"
    >
      <line
        v-for="o in offsets.slice(1)"
        :key="o"
        class="half-step"
        :x1="at(o)"
        :x2="at(o)"
        :y1="TOP - 6"
        :y2="height - 14"
      />
      <line class="nut" :x1="NUT" :x2="NUT" :y1="TOP - 8" :y2="height - 12" />
      <g v-for="(l, i) in letters" :key="l">
        <line
          class="string"
          :x1="NUT"
          :x2="WIDTH"
          :y1="TOP + i * GAP"
          :y2="TOP + i * GAP"
          :stroke-width="1 + i * 0.5"
        />
        <text x="4" :y="TOP + i * GAP + 4.5" class="letter">{{ l }}</text>
      </g>
      <g
        v-for="p in places"
        :key="`${p.string}:${p.offset}`"
        class="place"
        :class="{ here: isHere(p.string, p.offset) }"
        role="button"
        :aria-label="`${p.name}, ${letters[p.string]} string, ${p.finger === 0 ? 'open' : `finger ${p.finger}`}`"
        :data-place="`${p.string}:${p.offset}`"
        @click="tap(p.string, p.offset, $event)"
      >
        <rect
          :x="left(p.offset)"
          :y="TOP + p.string * GAP - GAP / 2"
          :width="right(p.offset) - left(p.offset)"
          :height="GAP"
        />
        <circle :cx="p.offset === 0 ? 44 : at(p.offset)" :cy="TOP + p.string * GAP" r="11.5" />
        <text :x="p.offset === 0 ? 44 : at(p.offset)" :y="TOP + p.string * GAP + 4.5" text-anchor="middle">
          {{ p.name }}
        </text>
      </g>
    </svg>
    <div class="choices">
      <v-switch v-model="together" label="together with the note before" density="compact" />
      <v-switch
        v-model="entry.keepPins"
        label="pin string and finger"
        density="compact"
        data-test="keep-pins"
      />
      <button class="reach" @click="upTo = upTo === 9 ? 19 : 9">
        {{ upTo === 9 ? 'the whole fingerboard' : 'first positions only' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.tap {
  border-top: 1px solid var(--rule);
  padding: 8px 0 4px;
}
svg {
  width: 100%;
  display: block;
  user-select: none;
}
text {
  font-family: var(--face);
  font-size: 11.5px;
  fill: currentColor;
  pointer-events: none;
}
.letter {
  font-weight: 700;
  font-size: 14px;
}
.half-step {
  stroke: var(--rule);
}
.nut {
  stroke: currentColor;
  stroke-width: 4;
}
.string {
  stroke: var(--faint);
}
.place {
  cursor: pointer;
}
.place rect {
  fill: transparent;
}
.place circle {
  fill: rgb(var(--v-theme-surface));
  stroke: var(--rule);
}
.place:hover circle {
  stroke: rgb(var(--v-theme-primary));
  stroke-width: 2;
}
.place.here circle {
  fill: color-mix(in srgb, rgb(var(--v-theme-secondary)) 45%, rgb(var(--v-theme-surface)));
  stroke: rgb(var(--v-theme-secondary));
}
.choices {
  display: flex;
  align-items: center;
  gap: 22px;
  font-size: 13px;
}
.reach {
  font: inherit;
  color: rgb(var(--v-theme-primary));
  background: none;
  text-decoration: underline;
}
</style>
