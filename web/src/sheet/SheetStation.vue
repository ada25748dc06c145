<script setup lang="ts">
/**
 * The page itself, large; beside it styles first, detail second. What is clicked on the page can be broken
 * there, or followed to where it is decided.
 */
import { useStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue'
import FindingList from '../bench/FindingList.vue'
import { usePart } from '../stores/parts'
import { useBow } from '../stores/bow'
import { useSheet } from '../stores/sheet'
import { useStudio } from '../stores/studio'
import AddedMarks from '../bow/AddedMarks.vue'
import BreakGrips from './BreakGrips.vue'
import ExportPanel from './ExportPanel.vue'
import PlacePanel from './PlacePanel.vue'
import SheetChoices from './SheetChoices.vue'
import StylePanel from './StylePanel.vue'

const part = usePart()
const store = useSheet()
const studio = useStudio()
onMounted(() => studio.load())
onUnmounted(store.follow())
onUnmounted(useBow().follow())
const holders = ref<HTMLElement[]>([])
watch(
  () => store.pages,
  async list => {
    await nextTick()
    list.forEach((p, i) => holders.value[i]?.replaceChildren(p.svg))
  },
  { flush: 'post', immediate: true },
)

const cautions = computed(() =>
  (part.result?.findings ?? []).filter(f => f.code.startsWith('tuning.') || f.severity === 'error'),
)
const ZOOMS = [
  { value: 'width', title: 'as wide as the page' },
  { value: 'whole', title: 'whole pages' },
  { value: 'two', title: 'two side by side' },
  { value: 'real', title: 'as it prints' },
] as const
const zoom = useStorage<(typeof ZOOMS)[number]['value']>('nokta.zoom', 'width')

/** The nearest note under the click. */
function pick(event: MouseEvent, page: number) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const scale = Number(store.pages[page]!.svg.getAttribute('width')) / box.width
  const [x, y] = [(event.clientX - box.left) * scale, (event.clientY - box.top) * scale]
  const near = store.pages[page]!.spots.filter(s => y >= s.top && y <= s.bottom && Math.abs(s.x - x) < 26)
  const best = near.toSorted((a, b) => Math.abs(a.x - x) - Math.abs(b.x - x))[0]
  if (best) part.selectEvent(best.event, false)
}
const pageSize = computed(
  () =>
    `@page { size: ${store.recipe.paper === 'Letter' ? 'letter' : store.recipe.paper} portrait; margin: 0 }`,
)
</script>

<template>
  <div v-if="part.result" class="sheet">
    <component :is="'style'">{{ pageSize }}</component>
    <section tabindex="0" class="pages" :class="zoom" aria-label="The page as it prints" data-test="pages">
      <div v-for="(page, i) in store.pages" :key="i" class="paper">
        <div ref="holders" class="drawn" @click="pick($event, i)" />
        <BreakGrips :page="page" :holders="holders" />
      </div>
    </section>
    <aside tabindex="0" class="options no-print" aria-label="The sheet">
      <ExportPanel />
      <p v-if="store.problem" role="alert" class="problem">{{ store.problem }}</p>
      <AddedMarks />
      <PlacePanel v-if="part.caret" />
      <StylePanel />
      <SheetChoices />
      <v-select v-model="zoom" :items="ZOOMS" label="On screen" data-test="zoom" />
      <FindingList v-if="cautions.length" :findings="cautions" @go="part.goTo" />
    </aside>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  grid-template-rows: minmax(0, 1fr);
  gap: 22px;
  padding-left: 4px;
}
.pages,
.options {
  overflow-y: auto;
  padding: 16px 0 40px;
}
.options {
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding-right: 18px;
}
.options > * {
  flex: none;
}
.pages {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-content: flex-start;
  gap: 18px;
}
.paper {
  --page: #fff;
  position: relative;
  color: #000;
  background: #fff;
  box-shadow: 0 1px 6px rgb(0 0 0 / 22%);
  cursor: pointer;
}
.width .paper {
  width: min(100%, 900px);
}
.whole .paper {
  height: calc(100vh - 230px);
}
.two .paper {
  width: calc(50% - 12px);
}
.paper :deep(svg) {
  display: block;
  max-width: 100%;
  height: auto;
}
.width .paper :deep(svg),
.two .paper :deep(svg) {
  width: 100%;
}
.drawn {
  height: 100%;
}
.whole .paper :deep(svg) {
  width: auto;
  height: 100%;
}
.paper :deep(.knock-out) {
  fill: #fff;
}
.problem {
  color: rgb(var(--v-theme-error));
}
@media print {
  .sheet {
    display: block;
    padding: 0;
  }
  .pages {
    display: block;
    padding: 0;
    overflow: visible;
  }
  .pages .paper {
    width: auto;
    height: auto;
    box-shadow: none;
    break-after: page;
  }
  .pages .paper :deep(svg) {
    width: auto;
    height: auto;
  }
}
</style>
