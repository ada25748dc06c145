<script setup lang="ts">
/** Earlier states of this tune: kept by themselves, or by name; compared with now, and brought back. */
import { onMounted, ref, shallowRef, watch } from 'vue'
import { compareTunes, type Comparison } from '#core/music/compareTunes'
import type { Version, VersionItem } from '#contract/documents'
import { api } from '../api/client'
import { useAttempt } from '../stores/attempt'
import { useDocuments } from '../stores/documents'
import ComparisonTable from './ComparisonTable.vue'

const docs = useDocuments()
const versions = ref<readonly VersionItem[]>([])
const name = ref('')
const { problem, attempt } = useAttempt()
const shown = shallowRef<{ version: Version; comparison: Comparison } | null>(null)

const load = () => attempt(async () => (versions.value = (await api.versions(docs.tuneId)).versions))
onMounted(load)
watch(
  () => docs.saveState,
  (state, before) => state === 'saved' && before === 'saving' && void load(),
)

const keep = () =>
  attempt(async () => {
    await docs.save()
    await api.keepVersion(docs.tuneId, name.value.trim() || 'Kept')
    name.value = ''
    await load()
  })
const rename = (v: VersionItem, text: string) =>
  attempt(() => api.renameVersion(v.id, text.slice(0, 120)).then(load))
const compare = (v: VersionItem) =>
  attempt(async () => {
    const version = await api.version(v.id)
    shown.value = { version, comparison: compareTunes(version.tune, docs.documents!.tune) }
  })
function restore() {
  docs.restoreVersion(shown.value!.version)
  shown.value = null
}
const when = (v: VersionItem) =>
  new Date(v.createdAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div data-test="versions">
    <div class="row">
      <v-text-field
        v-model="name"
        label="Name for the tune as it is now"
        data-test="version-name"
        @keydown.enter="keep"
      />
      <v-btn variant="outlined" data-test="keep-version" @click="keep">Keep it</v-btn>
    </div>
    <p class="quiet">
      While you work, earlier states are kept by themselves every ten minutes; those with a name stay for
      good.
    </p>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-if="versions.length === 0" class="quiet">No earlier state yet.</p>
    <table v-else class="plain">
      <tbody>
        <tr v-for="v in versions" :key="v.id" data-test="version">
          <td>{{ when(v) }}</td>
          <td>
            <input
              class="name"
              :value="v.name"
              placeholder="no name"
              aria-label="Name of this version"
              @change="e => rename(v, (e.target as HTMLInputElement).value)"
            />
          </td>
          <td class="number">{{ v.measures }} measures</td>
          <td><button class="link" data-test="compare" @click="compare(v)">compare</button></td>
        </tr>
      </tbody>
    </table>
    <template v-if="shown">
      <h2>{{ shown.version.name || 'Then' }} and now</h2>
      <ComparisonTable :comparison="shown.comparison" was="then" is="now" />
      <v-btn variant="outlined" data-test="restore" @click="restore">Bring that state back</v-btn>
      <span class="quiet"> Undo takes it back again.</span>
    </template>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
h2 {
  font-size: 15px;
  margin: 16px 0 6px;
}
.name {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 0;
  border-bottom: 1px dashed var(--rule);
  width: 100%;
}
.number {
  white-space: nowrap;
}
</style>
