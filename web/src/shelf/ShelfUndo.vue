<script setup lang="ts">
/** Says what was put away or taken in last, and takes it back. */
defineProps<{
  away: { readonly ids: readonly string[]; readonly title: string } | null
  takenIn: readonly string[]
}>()
const emit = defineEmits<{ bringBack: []; putBack: []; seen: ['away' | 'in'] }>()
</script>

<template>
  <v-snackbar
    :model-value="away !== null"
    :timeout="15000"
    location="bottom start"
    @update:model-value="emit('seen', 'away')"
  >
    {{ away?.title }} {{ away && away.ids.length > 1 ? 'were' : 'was' }} archived.
    <template #actions>
      <v-btn color="secondary" data-test="undo-away" @click="emit('bringBack')">Undo</v-btn>
    </template>
  </v-snackbar>
  <v-snackbar
    :model-value="takenIn.length > 1"
    :timeout="20000"
    location="bottom start"
    @update:model-value="emit('seen', 'in')"
  >
    {{ takenIn.length }} tunes are on the shelf.
    <template #actions>
      <v-btn color="secondary" data-test="undo-import" @click="emit('putBack')">Undo</v-btn>
    </template>
  </v-snackbar>
</template>
