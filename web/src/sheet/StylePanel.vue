<script setup lang="ts">
/** Named styles: those that ship and the studio's own; what is chosen can be kept under a name. */
import { ref } from 'vue'
import { mdiClose } from '@mdi/js'
import { useSheet } from '../stores/sheet'

const store = useSheet()
const name = ref('')
async function keep() {
  await store.keepStyle(name.value)
  name.value = ''
}
</script>

<template>
  <section aria-label="Styles">
    <div class="styles" role="radiogroup" aria-label="Style">
      <span v-for="s in store.styles" :key="s.sheet.style" class="style">
        <button
          type="button"
          role="radio"
          :aria-checked="store.recipe.style === s.sheet.style"
          data-test="style"
          @click="store.take(s)"
        >
          {{ s.sheet.style }}
        </button>
        <v-btn
          v-if="store.isOwn(s)"
          :icon="mdiClose"
          size="x-small"
          variant="text"
          :aria-label="`Take the style ${s.sheet.style} away`"
          :title="`Take the style ${s.sheet.style} away`"
          @click="store.dropStyle(s)"
        />
      </span>
    </div>
    <form v-if="store.recipe.style === ''" class="keep" @submit.prevent="keep">
      <v-text-field
        v-model="name"
        label="Keep this as a style"
        density="compact"
        hide-details
        maxlength="60"
        data-test="style-name"
      />
      <v-btn type="submit" variant="outlined" size="small" data-test="keep-style">Keep</v-btn>
    </form>
  </section>
</template>

<style scoped>
.styles {
  display: grid;
  gap: 4px;
}
.style {
  display: flex;
  align-items: center;
}
.style button[role='radio'] {
  flex: 1;
  padding: 7px 10px;
  border: 1px solid var(--rule);
  border-radius: 6px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.style button[aria-checked='true'] {
  border-color: rgb(var(--v-theme-primary));
  box-shadow: inset 4px 0 0 rgb(var(--v-theme-primary));
  font-weight: 700;
}
.keep {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
