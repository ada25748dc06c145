<script setup lang="ts">
/** The score of the bench: what it shows and what is chosen in it come from the bench, and go back there. */
import { computed } from 'vue'
import type { EventId } from '#core/music/ids'
import type { MarkOptions } from '#core/page/marks'
import Score from '../engraving/Score.vue'
import type { ScorePart } from '../engraving/scorePart'
import { usePart } from '../stores/parts'
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
const part = usePart()
const player = usePlayer()
const result = computed(() => props.shown ?? part.result)
const scorePart = (d: DerivedView) => ({ tune: d.shown ?? d.tune, tab: d.tab })
const parts = computed<readonly ScorePart[]>(() => [
  ...(result.value ? [scorePart(result.value)] : []),
  ...(props.under ? [{ ...scorePart(props.under), quiet: true }] : []),
])
const focus = computed(() => part.phrases.find(p => p.id === part.focus) ?? null)
</script>

<template>
  <Score
    v-if="result"
    :parts="parts"
    :marks="marks"
    :follow="follow"
    :problems="problems"
    :lit="lit"
    :focus="focus"
    :caret="part.caret"
    :selection="part.selection"
    :sounding="player.playing"
    @pick="part.selectEvent"
  >
    <template #empty>
      No notes yet. Write them here with the letters a to g, tap them on the fingerboard, say them as strings
      and fingers, or type them in the source.
    </template>
  </Score>
</template>
