<script setup lang="ts">
/** What was put away: each comes back, or is thrown away for good, which is asked first. */
import { onMounted, ref, shallowRef } from 'vue'
import type { AwayTune } from '#contract/documents'
import { api } from '../api/client'
import { useAttempt } from '../stores/attempt'
import { useShelf } from '../stores/shelf'

const emit = defineEmits<{ close: [] }>()
const shelf = useShelf()
const tunes = shallowRef<readonly AwayTune[] | null>(null)
const { problem, attempt } = useAttempt()
/** The one that is asked about; 'all' of them. */
const asked = ref<string | null>(null)

const load = () => attempt(async () => void (tunes.value = await api.away()))
onMounted(load)

const bringBack = (t: AwayTune) =>
  attempt(async () => {
    await shelf.bringBack([t.id])
    await load()
  })
const throwAway = (list: readonly AwayTune[]) =>
  attempt(async () => {
    asked.value = null
    for (const t of list) await api.throwAway(t.id)
    await load()
  })
const day = (iso: string) => new Date(iso).toLocaleDateString()
</script>

<template>
  <v-card class="away" data-test="away-dialog">
    <h2>Archived tunes</h2>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-if="tunes?.length === 0">No tune is archived.</p>
    <table v-else-if="tunes" class="plain">
      <tbody>
        <tr v-for="t in tunes" :key="t.id" data-test="away-tune">
          <td>{{ t.title || 'Untitled' }}</td>
          <td class="quiet">{{ day(t.putAway) }}</td>
          <td v-if="asked === t.id" class="ask" role="alert">
            With its arrangements and versions, for good?
            <button class="link" data-test="throw-away-now" @click="throwAway([t])">throw away</button>
            <button class="link" @click="asked = null">keep</button>
          </td>
          <td v-else class="ask">
            <button class="link" data-test="bring-back" @click="bringBack(t)">bring back</button>
            <button class="link" data-test="throw-away" @click="asked = t.id">throw away</button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="tunes && tunes.length > 0" class="quiet">
      A tune that is thrown away is in no later backup; those that were made before keep it until they go.
    </p>
    <div class="actions">
      <template v-if="tunes && tunes.length > 1">
        <span v-if="asked === 'all'" role="alert"
          >All {{ tunes.length }}, for good?
          <button class="link" data-test="throw-all-now" @click="throwAway(tunes)">throw them away</button>
          <button class="link" @click="asked = null">keep</button></span
        >
        <button v-else class="link" data-test="throw-all" @click="asked = 'all'">throw all away</button>
      </template>
      <v-btn @click="emit('close')">Close</v-btn>
    </div>
  </v-card>
</template>

<style scoped>
.away {
  padding: 22px 24px;
}
.ask {
  text-align: right;
}
.link {
  font: inherit;
  font-size: 13.5px;
  margin-left: 12px;
  background: none;
  text-decoration: underline;
}
.actions {
  display: flex;
  justify-content: flex-end;
  align-items: baseline;
  gap: 16px;
  margin-top: 14px;
}
</style>
