<script setup lang="ts">
/** All booklets of the studio. */
import { mdiDeleteOutline, mdiPlus } from '@mdi/js'
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { MOST_BOOKLETS, type Booklet } from '#core/styles/booklet'
import { useBooklets } from '../stores/booklets'
import { useStudio } from '../stores/studio'
import { counted } from '#core/counts'

const store = useBooklets()
const studio = useStudio()
const router = useRouter()
onMounted(() => studio.load())
const make = async () => router.push(`/booklets/${await store.make([])}`)
const dropping = ref<Booklet | null>(null)
async function drop() {
  if (dropping.value) await store.drop(dropping.value.id)
  dropping.value = null
}
const named = (b: Booklet) => b.title || 'Booklet without a title'
</script>

<template>
  <div class="page">
    <div class="head">
      <h1>Booklets</h1>
      <v-btn
        variant="flat"
        color="primary"
        :prepend-icon="mdiPlus"
        data-test="new-booklet"
        :disabled="store.full"
        @click="make"
        >New booklet</v-btn
      >
    </div>
    <p class="quiet">
      Sheets of several tunes in one, with contents and page numbers. Select tunes on the
      <router-link to="/">shelf</router-link>, or begin here.
    </p>
    <p v-if="store.full" role="note">
      A studio keeps {{ MOST_BOOKLETS }} booklets. Delete one to begin another.
    </p>
    <p v-if="studio.problem" role="alert">{{ studio.problem }}</p>
    <ul class="list">
      <li v-for="b in store.list" :key="b.id" data-test="booklet">
        <router-link :to="`/booklets/${b.id}`">{{ named(b) }}</router-link>
        <span class="quiet">{{ counted(b.tunes.length, 'tune') }}{{ b.about ? ` · ${b.about}` : '' }}</span>
        <v-btn
          :icon="mdiDeleteOutline"
          size="x-small"
          variant="text"
          :aria-label="`Delete ${named(b)}`"
          :title="`Delete ${named(b)}`"
          @click="dropping = b"
        />
      </li>
    </ul>
    <v-dialog :model-value="dropping !== null" max-width="420" @update:model-value="dropping = null">
      <v-card class="sure">
        <p>Delete “{{ dropping && named(dropping) }}”? Its tunes stay on the shelf.</p>
        <div>
          <v-btn variant="flat" color="primary" data-test="drop-booklet" @click="drop">Delete it</v-btn>
          <v-btn variant="text" @click="dropping = null">Keep it</v-btn>
        </div>
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.page {
  max-width: 820px;
  margin: 0 auto;
  padding: 26px 28px 60px;
}
.head {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
h1 {
  font-size: 26px;
}
.list {
  list-style: none;
  padding: 0;
  margin: 18px 0 0;
}
.list li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 16px;
  padding: 9px 0;
  border-top: 1px solid var(--rule);
}
p a {
  color: rgb(var(--v-theme-primary));
}
.list a {
  color: rgb(var(--v-theme-primary));
  font-weight: 700;
  font-size: 16px;
  text-decoration: none;
}
.sure {
  padding: 20px;
}
.sure div {
  display: flex;
  gap: 10px;
  margin-top: 14px;
}
</style>
