<script setup lang="ts">
/** One booklet: its tunes in their order on the left, its pages as they open on the right. */
import { useStorage } from '@vueuse/core'
import { computed, nextTick, onUnmounted, ref, watch } from 'vue'
import { STYLES } from '#core/styles/sheetRecipe'
import { useBooklets } from '../stores/booklets'
import { useStudio } from '../stores/studio'
import BookletExport from './BookletExport.vue'
import BookletTunes from './BookletTunes.vue'

const p = defineProps<{ id: string }>()
const store = useBooklets()
const studio = useStudio()
watch(
  () => p.id,
  which => store.open(which),
  { immediate: true },
)
watch(
  () => store.booklet,
  (now, before) => before && now !== before && store.draw(),
)
onUnmounted(store.close)

const OWN = 'as each is set'
const styles = computed(() => [...STYLES, ...studio.studio.styles])
const styleNames = computed(() => [OWN, ...styles.value.map(s => s.sheet.style)])
const styleName = computed(() => store.booklet?.style?.sheet.style ?? OWN)
const setStyle = (name: string) =>
  store.change({ style: styles.value.find(s => s.sheet.style === name) ?? null })
const zoom = useStorage<'spreads' | 'width'>('nokta.booklet.zoom', 'spreads')
const ZOOMS = [
  { value: 'spreads', title: 'as it opens' },
  { value: 'width', title: 'page by page, large' },
]

const holders = ref<HTMLElement[]>([])
watch(
  () => store.pages,
  async list => {
    await nextTick()
    list.forEach((page, i) => holders.value[i]?.replaceChildren(page.svg))
  },
  { flush: 'post', immediate: true },
)
const pageSize = computed(
  () => `@page { size: ${store.booklet?.paper === 'Letter' ? 'letter' : 'A4'} portrait; margin: 0 }`,
)
const text = (e: Event) => (e.target as HTMLInputElement).value
</script>

<template>
  <div v-if="store.booklet" class="booklet">
    <component :is="'style'">{{ pageSize }}</component>
    <aside tabindex="0" class="side no-print" aria-label="The booklet">
      <p class="up"><router-link to="/booklets">Booklets</router-link></p>
      <v-text-field
        :model-value="store.booklet.title"
        label="Title"
        maxlength="120"
        data-test="booklet-title"
        @change="(e: Event) => store.change({ title: text(e) })"
      />
      <v-text-field
        :model-value="store.booklet.about"
        label="Under the title: for whom, which term"
        maxlength="200"
        data-test="booklet-about"
        @change="(e: Event) => store.change({ about: text(e) })"
      />
      <BookletTunes />
      <div class="selects">
        <v-select
          :model-value="styleName"
          :items="styleNames"
          label="Style"
          data-test="booklet-style"
          @update:model-value="setStyle"
        />
        <v-select
          :model-value="store.booklet.paper"
          :items="['A4', 'Letter']"
          label="Paper"
          @update:model-value="paper => store.change({ paper })"
        />
      </div>
      <label class="tick"
        ><input
          type="checkbox"
          :checked="store.booklet.contents"
          data-test="booklet-contents"
          @change="store.change({ contents: !store.booklet.contents })"
        />
        contents in front</label
      >
      <label class="tick"
        ><input
          type="checkbox"
          :checked="store.booklet.facing"
          @change="store.change({ facing: !store.booklet.facing })"
        />
        a tune of several pages opens on a left page</label
      >
      <v-select v-model="zoom" :items="ZOOMS" label="On screen" />
      <BookletExport />
      <p v-if="studio.problem || store.problem" role="alert" class="problem">
        {{ store.problem || studio.problem }}
      </p>
    </aside>
    <section
      tabindex="0"
      class="pages"
      :class="zoom"
      aria-label="The pages as they open"
      data-test="booklet-pages"
    >
      <p v-if="store.progress" class="working no-print" role="status">
        Drawing tune {{ store.progress.done + 1 }} of {{ store.progress.of }}
      </p>

      <div
        v-for="(_, i) in store.pages"
        :key="i"
        ref="holders"
        class="paper"
        :class="i % 2 === 0 ? 'right' : 'left'"
      />
    </section>
  </div>
  <p v-else-if="studio.problem" role="alert" class="lost">{{ studio.problem }}</p>
  <p v-else-if="store.id === id" class="lost">
    There is no such booklet. <router-link to="/booklets">All booklets</router-link>
  </p>
</template>

<style scoped>
.booklet {
  display: grid;
  grid-template-columns: 372px minmax(0, 1fr);
  height: calc(100vh - 46px);
}
.side,
.pages {
  overflow-y: auto;
}
.side {
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 14px 18px 40px;
  border-right: 1px solid var(--rule);
}
.side > * {
  flex: none;
}
.up {
  margin: 0;
  font-size: 14px;
}
.up a,
.lost a {
  color: rgb(var(--v-theme-primary));
}
.selects {
  display: grid;
  grid-template-columns: 1fr 104px;
  gap: 10px;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 14px;
}
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  align-content: start;
  gap: 18px 0;
  padding: 22px 28px 60px;
  background: var(--sunk, transparent);
}
.pages.spreads {
  grid-template-columns: repeat(2, minmax(0, 1fr));
  max-width: 900px;
  width: 100%;
  margin: 0 auto;
}
.pages.width {
  grid-template-columns: minmax(0, 860px);
  justify-content: center;
}
.working {
  grid-column: 1 / -1;
  margin: 0;
  color: var(--faint);
}
.paper {
  --page: #fff;
  color: #000;
  background: #fff;
  box-shadow: 0 1px 6px rgb(0 0 0 / 22%);
}
.spreads .paper.right {
  grid-column: 2;
}
.spreads .paper.left {
  grid-column: 1;
}
.paper :deep(svg) {
  display: block;
  width: 100%;
  height: auto;
}
.paper :deep(.knock-out) {
  fill: #fff;
}
.problem {
  color: rgb(var(--v-theme-error));
  margin: 0;
}
.lost {
  margin: 60px auto;
  text-align: center;
}
@media print {
  .booklet,
  .pages,
  .pages.spreads {
    display: block;
    height: auto;
    max-width: none;
    padding: 0;
    overflow: visible;
  }
  .pages .paper {
    width: auto;
    box-shadow: none;
    break-after: page;
  }
  .pages .paper :deep(svg) {
    width: auto;
  }
}
</style>
