<script setup lang="ts">
/**
 * The way to learn the tune: what is new in each phrase, and the steps in order, to keep or leave out; prints
 * as a lesson outline.
 */
import { computed, ref } from 'vue'
import { stepSentence } from '#core/words/form'
import { ASSUMED, minutesOf, outline } from '#core/teach/outline'
import { saveFile } from '../files/saveFile'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import type { Teaching } from '#core/desk/views'
import { measuresText } from '#core/words/places'

const props = defineProps<{ teaching: Teaching }>()
const docs = useDocuments()
const part = usePart()
const plan = computed(() => props.teaching.plan)
const taught = computed(() => part.taught!)
const byLabel = computed(() => new Map(part.phrases.map(p => [p.label, p])))
const orders = [
  { value: 'written', title: 'as written' },
  { value: 'least new', title: 'least new first' },
  { value: 'hardest', title: 'hardest first' },
]
const edit = part.editTaught
const toggle = (id: string) =>
  edit({
    left: taught.value.left.includes(id)
      ? taught.value.left.filter(x => x !== id)
      : [...taught.value.left, id],
  })
function sing(id: string, text: string) {
  const { [id]: _old, ...rest } = taught.value.lines
  edit({ lines: text ? { ...rest, [id]: text.slice(0, 300) } : rest }, `sing:${id}`)
}
const percent = (share: number) => `${Math.round(share * 100)}%`
const total = computed(() => minutesOf(plan.value, taught.value))

const problem = ref('')
async function print() {
  try {
    const title = docs.documents!.tune.title
    const phrases = new Map(part.phrases.map(p => [p.label, { id: p.id, name: p.name }]))
    const lines = outline({ title, plan: plan.value, taught: taught.value, phrases })
    const { outlinePdf } = await import('../paper/pdf')
    saveFile(`${title} lesson.pdf`, await outlinePdf(lines, 'A4', title))
    problem.value = ''
  } catch (e) {
    problem.value = `The outline can’t be made: ${e instanceof Error ? e.message : String(e)}`
  }
}
</script>

<template>
  <div class="learn" data-test="learn">
    <div class="head">
      <v-select
        :model-value="taught.order"
        :items="orders"
        label="Order"
        class="order"
        data-test="plan-order"
        @update:model-value="edit({ order: $event })"
      />
      <span
        >About <b data-test="plan-minutes">{{ total }}</b> minutes</span
      >
      <v-btn variant="outlined" size="small" data-test="print-outline" @click="print"
        >Lesson outline as PDF</v-btn
      >
    </div>
    <p v-if="problem" role="alert">{{ problem }}</p>
    <table class="plain" data-test="new-material">
      <thead>
        <tr>
          <th>Phrase</th>
          <th class="number">Notes</th>
          <th class="number">New</th>
          <th>Known after it</th>
          <th>To mind</th>
          <th>A line to sing it by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in plan.phrases" :key="p.label">
          <td>
            <b>{{ p.label }}</b> {{ byLabel.get(p.label)?.name }}
          </td>
          <td class="number">{{ p.notes }}</td>
          <td class="number">{{ p.newNotes }}</td>
          <td class="known">
            <span class="share"><span :style="{ width: `${100 * p.knownAfter}%` }" /></span>
            {{ percent(p.knownAfter) }}
          </td>
          <td>
            <span v-if="p.doNotRush">harder than what comes before: do not rush. </span>
            <span v-if="p.newRhythm">rhythm first. </span>
            <span v-if="p.awkward.length"
              >{{ measuresText(p.awkward) }} by {{ p.awkward.length === 1 ? 'itself' : 'themselves' }}.</span
            >
          </td>
          <td>
            <input
              :value="taught.lines[byLabel.get(p.label)?.id ?? ''] ?? ''"
              class="line"
              :aria-label="`A line to sing ${p.label} by`"
              :data-test="`sing-${p.label}`"
              @change="sing(byLabel.get(p.label)!.id, ($event.target as HTMLInputElement).value)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <ol class="steps" data-test="steps">
      <li v-for="s in plan.steps" :key="s.id" :class="{ left: taught.left.includes(s.id) }">
        <span>{{ stepSentence(s) }}</span>
        <span class="number">{{ s.minutes }} min</span>
        <button class="leave" data-test="leave-step" @click="toggle(s.id)">
          {{ taught.left.includes(s.id) ? 'take up again' : 'leave out' }}
        </button>
      </li>
    </ol>
    <p class="quiet">{{ ASSUMED }}</p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 20px;
  margin-bottom: 10px;
}
.order {
  flex: 0 0 200px;
}
.share {
  display: inline-block;
  width: 90px;
  height: 7px;
  margin-right: 8px;
  border-radius: 4px;
  background: var(--rule);
  overflow: hidden;
}
.share span {
  display: block;
  height: 100%;
  background: rgb(var(--v-theme-primary));
}
.known {
  white-space: nowrap;
}
.line {
  width: 100%;
  min-width: 140px;
  padding: 3px 6px;
  font: inherit;
  color: inherit;
  background: transparent;
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.steps {
  margin: 16px 0 10px;
  padding-left: 26px;
  max-width: 900px;
}
.steps li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.steps li > span:first-child {
  display: inline-block;
  width: calc(100% - 190px);
}
.steps .number {
  display: inline-block;
  width: 62px;
}
.steps .left > span {
  text-decoration: line-through;
  color: var(--faint);
}
.leave {
  margin-left: 16px;
  text-decoration: underline;
  color: var(--faint);
}
</style>
