<script setup lang="ts">
import { useBench } from '../stores/bench'
import PhraseBlock from './PhraseBlock.vue'

const bench = useBench()

function focus(id: string) {
  bench.focus = bench.focus === id ? null : id
}
</script>

<template>
  <nav v-if="bench.result" class="ribbon" aria-label="Form of the tune" data-test="ribbon">
    <div
      v-for="(part, i) in bench.result.parts"
      :key="i"
      class="part"
      :style="{ flexGrow: part.phrases.reduce((t, p) => t + p.bars, 0) }"
    >
      <span class="label" :title="part.repeated ? 'repeated' : ''"
        >{{ part.label }}<template v-if="part.repeated">:</template></span
      >
      <PhraseBlock
        v-for="p in part.phrases"
        :key="p.id"
        :phrase="p"
        :focused="bench.focus === p.id"
        follows
        :style="{ flex: `${Math.max(1, p.bars)} 1 0` }"
        @click="focus(p.id)"
      />
    </div>
  </nav>
</template>

<style scoped>
.ribbon {
  display: flex;
  gap: 12px;
  padding: 8px 18px 8px 4px;
  overflow-x: auto;
}
.part {
  display: flex;
  gap: 3px;
  align-items: center;
  flex-basis: 0;
}
.label {
  font-weight: 700;
  font-size: 13px;
  padding-right: 3px;
  color: var(--faint);
}
</style>
