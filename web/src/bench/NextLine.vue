<script setup lang="ts">
/** Under a tune that was just put on the shelf: what is there already, and what comes next. */
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'
import { counted } from '#core/counts'
import { useDocuments } from '../stores/documents'
import { useIntake } from '../stores/intake'
import { useParts } from '../stores/parts'

const docs = useDocuments()
const intake = useIntake()
const part = useParts().inUse
const at = (station: string) => `/tunes/${docs.tuneId}/${station}`
const doubts = computed(() => intake.fresh?.doubts ?? 0)
</script>

<template>
  <p class="next" role="note" data-test="next">
    <span>
      Fingers and bows are proposed for the {{ part.recipe?.played.instrument }}.
      <template v-if="doubts"
        ><router-link :to="at('tune')">{{ counted(doubts, 'place') }} in the text</router-link> to look at
        first.
      </template>
      Next: <router-link :to="at('form')">check the phrases</router-link>,
      <router-link :to="at('levels')">make an easier version</router-link> or
      <router-link :to="at('sheet')">print the sheet</router-link>.
    </span>
    <v-btn
      :icon="mdiClose"
      size="x-small"
      aria-label="Hide what comes next"
      title="Hide what comes next"
      @click="intake.fresh = null"
    />
  </p>
</template>

<style scoped>
.next {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
  padding: 0 8px 2px 4px;
}
.next a {
  color: rgb(var(--v-theme-primary));
}
</style>
