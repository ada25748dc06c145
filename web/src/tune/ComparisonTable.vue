<script setup lang="ts">
import type { Comparison } from '#core/music/compareTunes'

defineProps<{ comparison: Comparison; was: string; is: string }>()
</script>

<template>
  <div data-test="comparison">
    <p>
      {{ comparison.same }} measures are the same<template
        v-if="comparison.measures.length + comparison.facts.length === 0"
        >; nothing differs</template
      >.
    </p>
    <table v-if="comparison.measures.length + comparison.facts.length" class="plain">
      <thead>
        <tr>
          <th></th>
          <th>{{ was }}</th>
          <th>{{ is }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in comparison.facts" :key="f.name">
          <th>{{ f.name }}</th>
          <td>{{ f.was || '–' }}</td>
          <td>{{ f.is || '–' }}</td>
        </tr>
        <tr v-for="(m, i) in comparison.measures" :key="i">
          <th>Measure {{ m.after ?? m.before }}</th>
          <td>{{ m.was || '–' }}</td>
          <td>{{ m.is || '–' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
