<script setup lang="ts">
/** Pairs of tunes whose melodies are alike, whatever their titles. */
import { onMounted, onUnmounted, ref } from 'vue'
import { keyName } from '#core/music/key'
import type { TuneListItem } from '#contract/documents'
import { api } from '../api/client'

const emit = defineEmits<{ away: [tune: TuneListItem]; close: [] }>()
const pairs = ref<readonly { a: TuneListItem; b: TuneListItem; likeness: number }[] | null>(null)
const problem = ref('')
/** Given as the dialog closes: the server looks no further. */
const gone = new AbortController()
onUnmounted(() => gone.abort())

async function load() {
  try {
    pairs.value = (await api.duplicates(gone.signal)).pairs
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}
onMounted(load)

function putAway(t: TuneListItem) {
  pairs.value = pairs.value!.filter(p => p.a.id !== t.id && p.b.id !== t.id)
  emit('away', t)
}
</script>

<template>
  <v-card class="alike" data-test="alike-dialog">
    <h2>Tunes that sound alike</h2>
    <p class="quiet">Compared by melody: key, octave, note values and title do not matter.</p>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="pairs?.length === 0">No two tunes on the shelf sound alike.</p>
    <table v-else-if="pairs" class="plain">
      <tbody>
        <tr v-for="p in pairs" :key="p.a.id + p.b.id" data-test="pair">
          <td class="number">{{ Math.round(p.likeness * 100) }}%</td>
          <td v-for="t in [p.a, p.b]" :key="t.id">
            <router-link :to="`/tunes/${t.id}/tune`">{{ t.title || 'Untitled' }}</router-link><br /><small
              class="quiet"
              >{{ keyName(t.key) }}, {{ t.measures }} measures
            </small>
            <button class="link" @click="putAway(t)">archive</button>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="actions"><v-btn @click="emit('close')">Close</v-btn></div>
  </v-card>
</template>

<style scoped>
.alike {
  padding: 22px 24px;
}
.alike a,
.link {
  font: inherit;
  font-size: 13px;
  background: none;
  text-decoration: underline;
}
.actions {
  display: flex;
  justify-content: flex-end;
  margin-top: 14px;
}
</style>
