<script setup lang="ts">
/**
 * What the app assumes of a practised hand and bow arm: every tempo ceiling follows from it. A studio may put
 * its own figures.
 */
import { computed, reactive } from 'vue'
import { HAND_MODEL, handModelSchema, type HandModel } from '#core/instruments/handModel'
import { useStudio } from '../stores/studio'

const studio = useStudio()
const model = computed(() => studio.studio.handModel)

const FIELDS: readonly { key: keyof HandModel; label: string; unit: string; step: number }[] = [
  { key: 'settleSeconds', label: 'A shift: to let go and settle', unit: 's', step: 0.01 },
  { key: 'mmPerSecond', label: 'A shift: speed on the way', unit: 'mm/s', step: 50 },
  { key: 'sameFingerSeconds', label: 'More when the same finger slides there', unit: 's', step: 0.01 },
  { key: 'crossingSeconds', label: 'The bow to the next string', unit: 's', step: 0.005 },
  { key: 'skipSeconds', label: 'More for each string it skips', unit: 's', step: 0.01 },
  { key: 'hopSeconds', label: 'One finger to another string', unit: 's', step: 0.01 },
]
/** What is wrong with a figure as typed, by field; it is not kept then. */
const wrong = reactive<Partial<Record<keyof HandModel, string>>>({})
function put(key: keyof HandModel, text: string) {
  const limits = handModelSchema.unwrap().shape[key]
  const value = Number(text)
  if (text.trim() === '' || !limits.safeParse(value).success) {
    wrong[key] = `from ${limits.minValue} to ${limits.maxValue}`
    return
  }
  delete wrong[key]
  if (value !== model.value[key]) void studio.edit(now => ({ handModel: { ...now.handModel, [key]: value } }))
}
const own = computed(() => FIELDS.some(f => model.value[f.key] !== HAND_MODEL[f.key]))
function back() {
  FIELDS.forEach(f => delete wrong[f.key])
  void studio.edit(() => ({ handModel: HAND_MODEL }))
}
</script>

<template>
  <section aria-label="How fast a hand is" class="model" data-test="hand-model">
    <h2>How fast a hand is</h2>
    <p class="quiet">
      “Holds to 112” rests on these figures: assumptions of ours, for any instrument; nobody measured your
      learners. Slower ones make the app more careful.
    </p>
    <table class="plain">
      <tbody>
        <tr v-for="f in FIELDS" :key="f.key">
          <td>
            <label :for="`model-${f.key}`">{{ f.label }}</label>
            <span v-if="wrong[f.key]" class="wrong" role="alert"> {{ wrong[f.key] }}</span>
          </td>
          <td class="number">
            <input
              :id="`model-${f.key}`"
              type="number"
              :step="f.step"
              :value="model[f.key]"
              :aria-invalid="wrong[f.key] !== undefined"
              :data-test="`model-${f.key}`"
              @change="e => put(f.key, (e.target as HTMLInputElement).value)"
            />
          </td>
          <td>{{ f.unit }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="own" type="button" class="link" data-test="model-back" @click="back">
      Back to the app’s own figures
    </button>
  </section>
</template>

<style scoped>
.model {
  margin-top: 34px;
}
.quiet {
  font-size: 13.5px;
}
.wrong {
  color: rgb(var(--v-theme-error));
  font-size: 13px;
}
.link {
  margin-top: 8px;
  font-size: 14px;
}
</style>
