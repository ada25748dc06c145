<script setup lang="ts">
/** Takes what is dropped or pasted anywhere on the page, and offers it as tunes. */
import { useEventListener } from '@vueuse/core'
import { defineAsyncComponent } from 'vue'
import { useRouter } from 'vue-router'
import { typing } from '../keyboard/typing'
import { readFiles, useIntake } from '../stores/intake'
import { useShelf } from '../stores/shelf'

const AddTune = defineAsyncComponent(() => import('./AddTune.vue'))
const intake = useIntake()
const shelf = useShelf()
const router = useRouter()

useEventListener(window, 'dragover', event => {
  if (!typing(event.target)) event.preventDefault()
})
useEventListener(window, 'drop', event => {
  if (!typing(event.target)) void take(event, event.dataTransfer)
})
useEventListener(window, 'paste', event => {
  if (!typing(event.target)) void take(event, event.clipboardData)
})

async function take(event: Event, data: DataTransfer | null) {
  if (!data || intake.open) return
  // A link that is dragged carries its address as text.
  const text = data.types.includes('text/uri-list') ? '' : data.getData('text/plain')
  if (data.files.length === 0 && text.trim() === '') return
  event.preventDefault()
  if (data.files.length > 0) intake.begin({ files: await readFiles(data.files) })
  else intake.begin({ text })
}

async function done(ids: readonly string[], doubts: number) {
  intake.open = false
  if (ids.length === 1) {
    intake.fresh = { id: ids[0]!, doubts }
    await router.push(`/tunes/${ids[0]}/hand`)
  } else if (ids.length > 1) {
    intake.takenIn = ids
    if (router.currentRoute.value.name !== 'shelf') await router.push('/')
    else await shelf.load()
  }
}
</script>

<template>
  <v-dialog v-model="intake.open" max-width="820" scrollable aria-label="Add tunes">
    <AddTune v-if="intake.open" :given="intake.given" @done="done" @close="intake.open = false" />
  </v-dialog>
</template>
