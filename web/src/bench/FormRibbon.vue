<script setup lang="ts">
import { usePart } from '../stores/parts'
import PhraseBlock from './PhraseBlock.vue'

const part = usePart()

function focus(id: string) {
  part.focus = part.focus === id ? null : id
}
</script>

<template>
  <nav v-if="part.result" class="ribbon" aria-label="Form of the tune" data-test="ribbon">
    <div
      v-for="(row, i) in part.result.parts"
      :key="i"
      class="part"
      :style="{ flexGrow: row.phrases.reduce((t, p) => t + p.bars, 0) }"
    >
      <span class="label" :title="row.repeated ? 'repeated' : ''"
        >{{ row.label }}<template v-if="row.repeated">:</template></span
      >
      <PhraseBlock
        v-for="p in row.phrases"
        :key="p.id"
        :phrase="p"
        :focused="part.focus === p.id"
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
