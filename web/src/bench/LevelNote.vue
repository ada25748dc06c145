<script setup lang="ts">
/** Says where the notes ask for more than the level of the arrangement, and makes the version that does not. */
import { onUnmounted } from 'vue'
import { useDocuments } from '../stores/documents'
import { useLevelAsked } from '../stores/levelAsked'
import { useLevels } from '../stores/levels'
import { usePart } from '../stores/parts'

const docs = useDocuments()
const part = usePart()
const asked = useLevelAsked()
onUnmounted(asked.follow())
const levels = useLevels()
</script>

<template>
  <span v-if="asked.more" class="more" role="status" data-test="asks-more">
    {{ asked.more }}
    <router-link v-if="part.recipe.played.eased" :to="`/tunes/${docs.tuneId}/levels`" class="link"
      >see which</router-link
    >
    <button
      v-else
      type="button"
      class="link"
      data-test="make-version"
      :disabled="levels.making"
      @click="levels.makeEasier(part.recipe.played.level!)"
    >
      make the level {{ part.recipe.played.level }} version
    </button>
  </span>
</template>

<style scoped>
.more {
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
.link {
  font: inherit;
  background: none;
  padding: 0;
}
</style>
