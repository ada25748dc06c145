<script setup lang="ts">
/** The keys of the bench. */
import { COMMANDS, WRITE_COMMANDS } from './keys'

const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <v-dialog :model-value="true" max-width="560" scrollable @update:model-value="emit('close')">
    <v-card class="help">
      <h2>Keys</h2>
      <table class="plain">
        <tbody>
          <tr v-for="c in COMMANDS" :key="c.shown">
            <th>{{ c.shown }}</th>
            <td>{{ c.does }}</td>
          </tr>
          <tr>
            <th>Ctrl + Z</th>
            <td>undo; Ctrl + Y, or with Shift: redo</td>
          </tr>
          <tr>
            <th>Space</th>
            <td>play and stop</td>
          </tr>
          <tr>
            <th>w</th>
            <td>write notes (on the Tune station)</td>
          </tr>
        </tbody>
      </table>
      <h2>While notes are written</h2>
      <table class="plain">
        <tbody>
          <tr v-for="c in WRITE_COMMANDS" :key="c.shown">
            <th>{{ c.shown }}</th>
            <td>{{ c.does }}</td>
          </tr>
          <tr>
            <th>Shift + ← →</th>
            <td>choose more notes; Ctrl + A all of them; Ctrl + C, X, V copy, cut and paste</td>
          </tr>
        </tbody>
      </table>
      <v-btn variant="outlined" @click="emit('close')">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help {
  padding: 22px 24px;
  overflow-y: auto;
  gap: 14px;
}
</style>
