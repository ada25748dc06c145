<script setup lang="ts">
/** What there is to look at in the hand, by kind. */
import { computed, ref } from 'vue'
import type { Finding } from '#core/findings/finding'
import FindingList from '../bench/FindingList.vue'
import { usePart } from '../stores/parts'

const props = defineProps<{ findings: readonly Finding[] }>()
const part = usePart()

const KINDS = [
  { value: 'all', title: 'everything', codes: [''] },
  {
    value: 'reach',
    title: 'out of reach',
    codes: ['finger.too', 'finger.levelReach', 'finger.span', 'finger.noDoubleStop'],
  },
  { value: 'shift', title: 'shifts too fast', codes: ['finger.shiftFast'] },
  { value: 'pins', title: 'pins and rules', codes: ['finger.pin', 'finger.rule'] },
  { value: 'tuning', title: 'tuning', codes: ['tuning.'] },
] as const
const kind = ref<(typeof KINDS)[number]['value']>('all')
const of = (k: (typeof KINDS)[number]) => props.findings.filter(f => k.codes.some(c => f.code.startsWith(c)))
const kinds = computed(() =>
  KINDS.filter(k => k.value === 'all' || of(k).length > 0).map(k => ({
    value: k.value,
    title: `${k.title} (${of(k).length})`,
  })),
)
const shown = computed(() => of(KINDS.find(k => k.value === kind.value)!))
</script>

<template>
  <section aria-label="Findings" data-test="hand-findings">
    <v-select v-model="kind" :items="kinds" label="Show" data-test="finding-kind" class="school" />
    <FindingList v-if="shown.length" :findings="shown" mends @go="part.goTo" @mend="part.mend" />
    <p v-else class="quiet">Nothing to look at: every note has its place and every shift its time.</p>
  </section>
</template>

<style scoped>
.school {
  margin-top: 12px;
}
</style>
