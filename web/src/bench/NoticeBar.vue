<script setup lang="ts">
/** What the bench has to say by itself: work brought back, a clash. */
import { useDocuments } from '../stores/documents'

const docs = useDocuments()
</script>

<template>
  <v-snackbar
    :model-value="docs.notice !== ''"
    :timeout="15000"
    location="bottom start"
    @update:model-value="docs.notice = ''"
  >
    {{ docs.notice }}
    <template #actions><v-btn @click="docs.notice = ''">Close</v-btn></template>
  </v-snackbar>
</template>
