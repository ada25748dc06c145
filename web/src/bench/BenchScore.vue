<script setup lang="ts">
/** The score of the bench: what it shows and what is chosen in it come from the bench, and go back there. */
import { computed } from 'vue'
import type { EventId } from '#core/music/ids'
import type { MarkOptions } from '#drawing/marks'
import Score from '../engraving/Score.vue'
import { useBench } from '../stores/bench'
import { usePlayer } from '../stores/player'
import type { DerivedView } from '#core/desk/views'

const props = withDefaults(
  defineProps<{
    marks?: Partial<MarkOptions>
    follow?: boolean
    problems?: readonly EventId[]
    lit?: readonly EventId[]
    /** Another result than the bench's own: the tune with its repeats written out. */
    shown?: DerivedView | null
    /** Another result of the same measures, under every line. */
    under?: DerivedView | null
  }>(),
  { marks: () => ({}), follow: true, problems: () => [], lit: () => [], shown: null, under: null },
)
const bench = useBench()
const player = usePlayer()
const result = computed(() => props.shown ?? bench.result)
const focus = computed(() => bench.phrases.find(p => p.id === bench.focus) ?? null)
</script>

<template>
  <Score
    v-if="result"
    :tune="result.shown ?? result.tune"
    :tab="result.tab"
    :under="under && { tune: under.shown ?? under.tune, tab: under.tab }"
    :marks="marks"
    :follow="follow"
    :problems="problems"
    :lit="lit"
    :focus="focus"
    :caret="bench.caret"
    :selection="bench.selection"
    :sounding="player.playing"
    @pick="bench.selectEvent"
  >
    <template #empty>
      No notes yet. Write them here with the letters a to g, tap them on the fingerboard, say them as strings
      and fingers, or type them in the source.
    </template>
  </Score>
</template>
