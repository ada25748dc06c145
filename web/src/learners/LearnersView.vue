<script setup lang="ts">
/** Learners: who plays what, how far the hand reaches, what is known. As little as is needed. */
import { mdiDeleteOutline, mdiDownload, mdiPlus } from '@mdi/js'
import { computed, onMounted, ref } from 'vue'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import type { Learner } from '#core/instruments/learner'
import { LEVELS, type Level } from '#core/levels/levels'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { saveFile } from '../files/saveFile'
import { useLearners } from '../stores/learners'
import { useStudio } from '../stores/studio'
import SkillList from './SkillList.vue'

const studio = useStudio()
const store = useLearners()
onMounted(() => studio.load())
const entry = ref('')
async function add() {
  if (entry.value.trim() === '') return
  await store.add(entry.value)
  entry.value = ''
}
const learner = computed(() => store.chosen)
const change = (part: Partial<Learner>) => learner.value && store.change(learner.value.id, part)
const instruments = INSTRUMENT_IDS.map(value => ({ value, title: INSTRUMENTS[value].name }))
const sizes = computed(() =>
  learner.value ? INSTRUMENTS[learner.value.instrument].sizes.map(s => s.name) : [],
)
const levels = LEVELS.map(value => ({ value, title: `level ${value}` }))
/** A number, or nothing; what lies outside is not taken. */
const number = (text: string, low: number, high: number) => {
  const n = Number(text)
  return text.trim() === '' ? null : n >= low && n <= high ? n : undefined
}
function take(key: 'span' | 'fastest', text: string, low: number, high: number) {
  const n = number(text, low, high)
  if (n !== undefined) void change({ [key]: n })
}
const erasing = ref(false)
async function erase() {
  if (learner.value) await store.erase(learner.value.id)
  erasing.value = false
}
function download(l: Learner) {
  const { id: _, ...rest } = l
  saveFile(`${l.name}.json`, new Blob([JSON.stringify(rest, null, 2)], { type: 'application/json' }))
}
</script>

<template>
  <div class="page">
    <h1>Learners</h1>
    <p class="quiet">
      A name or initials are enough. What is kept here stays on this machine, no backup holds it, and it goes
      when you erase it.
    </p>
    <p v-if="studio.problem" role="alert">{{ studio.problem }}</p>
    <div class="columns">
      <nav aria-label="Learners" class="list">
        <form class="new" @submit.prevent="add">
          <v-text-field v-model="entry" label="New learner" maxlength="60" data-test="learner-name" />
          <v-btn type="submit" variant="flat" color="primary" :prepend-icon="mdiPlus" data-test="add-learner"
            >Add</v-btn
          >
        </form>
        <button
          v-for="l in store.list"
          :key="l.id"
          type="button"
          class="who"
          :aria-current="l.id === learner?.id"
          data-test="learner"
          @click="store.chosenId = l.id"
        >
          <b>{{ l.name }}</b> <small>{{ l.instrument }}, level {{ l.level }}</small>
        </button>
      </nav>
      <section
        v-if="learner"
        :key="learner.id"
        class="about"
        :aria-label="learner.name"
        data-test="about-learner"
      >
        <div class="facts">
          <v-text-field
            :model-value="learner.name"
            label="Name or initials"
            maxlength="60"
            @change="
              (e: Event) =>
                (e.target as HTMLInputElement).value.trim() &&
                change({ name: (e.target as HTMLInputElement).value.trim() })
            "
          />
          <v-select
            :model-value="learner.instrument"
            :items="instruments"
            label="Plays"
            data-test="learner-instrument"
            @update:model-value="
              (i: InstrumentId) => change({ instrument: i, size: sizeOf(i).name, span: null })
            "
          />
          <v-select
            :model-value="learner.size"
            :items="sizes"
            label="Size"
            @update:model-value="size => change({ size })"
          />
          <v-select
            :model-value="learner.level"
            :items="levels"
            label="Level (marks its skills as known)"
            data-test="learner-level"
            @update:model-value="(level: Level) => change({ level })"
          />
          <v-text-field
            :model-value="learner.span ?? ''"
            type="number"
            min="20"
            max="260"
            label="Reach from 1 to 4, mm"
            hint="opened without strain; 20 to 260"
            @change="(e: Event) => take('span', (e.target as HTMLInputElement).value, 20, 260)"
          />
          <v-text-field
            :model-value="learner.fastest ?? ''"
            type="number"
            min="0.5"
            max="20"
            step="0.5"
            label="Notes a second at ease"
            hint="left empty: as the level has it"
            @change="(e: Event) => take('fastest', (e.target as HTMLInputElement).value, 0.5, 20)"
          />
        </div>
        <v-textarea
          :model-value="learner.notes"
          label="For the teacher"
          rows="2"
          auto-grow
          maxlength="4000"
          @change="(e: Event) => change({ notes: (e.target as HTMLTextAreaElement).value })"
        />
        <SkillList :learner="learner" @set="(skill, state) => store.setSkill(learner!, skill, state)" />
        <p class="ways">
          <v-btn
            variant="outlined"
            size="small"
            :prepend-icon="mdiDownload"
            data-test="export-learner"
            @click="download(learner)"
            >All that is kept, as a file</v-btn
          >
          <v-btn
            v-if="!erasing"
            variant="outlined"
            size="small"
            :prepend-icon="mdiDeleteOutline"
            data-test="erase-learner"
            @click="erasing = true"
            >Erase</v-btn
          >
          <template v-else>
            <span role="alert"
              >Erase {{ learner.name }} for good? Arrangements made for them stay, without the name.</span
            >
            <v-btn variant="flat" color="error" size="small" data-test="erase-sure" @click="erase"
              >Erase for good</v-btn
            >
            <v-btn variant="text" size="small" @click="erasing = false">Keep</v-btn>
          </template>
        </p>
      </section>
      <p v-else class="quiet about">{{ store.list.length ? 'Choose a learner.' : 'Nobody yet.' }}</p>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
  margin: 0 auto;
  padding: 22px 24px 60px;
}
.columns {
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
  gap: 40px;
  margin-top: 16px;
}
.new {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
  align-items: start;
}
.who {
  display: flex;
  align-items: baseline;
  gap: 10px;
  width: 100%;
  padding: 9px 10px;
  border: 0;
  border-bottom: 1px solid var(--rule);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.who[aria-current='true'] {
  box-shadow: inset 4px 0 0 rgb(var(--v-theme-primary));
  background: rgb(var(--v-theme-surface));
}
.who small {
  color: var(--faint);
}
.facts {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 10px 16px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  margin-top: 18px;
  font-size: 14px;
}
</style>
