<script setup lang="ts">
/** Says what was undone or redone. */
import { computed } from 'vue'
import { useDocuments } from '../stores/documents'

const docs = useDocuments()
const words = computed(() => {
  if (!docs.stepped) return ''
  const { way, what } = docs.stepped
  return `${way === 'undone' ? 'Undone' : 'Done again'}${what ? `: ${what}` : ''}.`
})
</script>

<template>
  <v-snackbar
    :model-value="docs.stepped !== null"
    :timeout="5000"
    location="bottom start"
    data-test="stepped"
    @update:model-value="docs.stepped = null"
  >
    {{ words }}
  </v-snackbar>
</template>
