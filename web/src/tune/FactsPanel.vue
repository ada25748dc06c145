<script setup lang="ts">
/** The identity of the tune, and how it is played. */
import { computed, onMounted, ref } from 'vue'
import { keyName, keyOfSignature } from '#core/music/key'
import { defaultTempo, formatTempo, metreName, parseMetre, parseTempo, type Tempo } from '#core/music/metre'
import { placeMeasures } from '#core/music/timeline'
import { partsOf, setPartOrder } from '#core/music/edit/parts'
import { playOrderText, repeatsOf, writeOutRepeats } from '#core/music/unfold'
import { MOST, type Tune } from '#core/music/tune'
import type { TuneListItem } from '#contract/documents'
import { api } from '../api/client'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { timesText } from '#core/counts'
import ReadField from './ReadField.vue'

const docs = useDocuments()
const part = usePart()
const tune = computed(() => docs.documents!.tune)
const rights = [
  { value: 'unknown', title: 'not known' },
  { value: 'own', title: 'my own' },
  { value: 'free', title: 'free to share' },
  { value: 'protected', title: 'protected' },
]
const times = [1, 2, 3, 4].map(value => ({ value, title: timesText(value) }))
const order = computed(() => playOrderText(tune.value))
const repeats = computed(() => repeatsOf(tune.value))
const list = (text: string) =>
  text
    .split('\n')
    .map(t => t.trim().slice(0, MOST.line))
    .filter(Boolean)
    .slice(0, MOST.titles)
const tags = (text: string) =>
  [
    ...new Set(
      text
        .split(',')
        .map(t => t.trim().slice(0, MOST.tag))
        .filter(Boolean),
    ),
  ].slice(0, MOST.tags)
const tempoText = computed(() => (tune.value.tempo ? formatTempo(tune.value.tempo) : ''))

/** Every key of up to six sharps or flats, the common modes first. */
const keys = (['major', 'minor', 'dorian', 'mixolydian', 'lydian', 'phrygian'] as const).flatMap(mode =>
  Array.from({ length: 13 }, (_, i) => keyOfSignature(i - 6, mode)).filter(k => Math.abs(k.alter) <= 1),
)
const keyItems = keys.map(k => keyName(k))
const setKey = (name: string | null) => {
  const key = keys.find(k => keyName(k) === name)
  if (key) docs.editFacts({ key })
}
/** How the beats of an uneven metre are heard, unless the groups are said. */
const heard = computed(() => {
  const { groups } = placeMeasures(tune.value)[0]?.felt ?? {}
  if (!groups || tune.value.metre.groups) return undefined
  return `felt as ${groups.join('+')}, or type the groups`
})
const clefs = ['treble', 'alto', 'tenor', 'bass'] as const

function strike(id: string) {
  const { struck } = tune.value.play
  docs.editFacts({
    play: {
      ...tune.value.play,
      struck: struck.includes(id) ? struck.filter(s => s !== id) : [...struck, id],
    },
  })
}
const parts = computed(() => partsOf(tune.value))
const orderProblem = ref('')
function setOrder(said: string) {
  const done = setPartOrder(tune.value, said)
  orderProblem.value = done ? '' : `Parts there are: ${parts.value.join(', ')}`
  if (done) part.changeTune({ tune: done, chosen: null })
}
const readTempo = (text: string) => (text.trim() === '' ? ('none' as const) : parseTempo(text))
function setTempo(tempo: Tempo | 'none') {
  if (tempo !== 'none') return docs.editFacts({ tempo })
  const { tempo: _t, ...rest } = tune.value
  part.changeTune({ tune: rest as Tune, chosen: null })
}

/** Settings of the same tune: tunes with the same mark, and those that sound alike. */
const others = ref<readonly TuneListItem[]>([])
const alike = ref<readonly { id: string; title: string; likeness: number }[]>([])
const problem = ref('')
async function look() {
  try {
    const mark = tune.value.settings
    others.value = mark ? (await api.shelf({ settings: mark })).tunes.filter(t => t.id !== docs.tuneId) : []
    const found = await api.alikeTo(tune.value)
    alike.value = found.filter(a => a.id !== docs.tuneId && !others.value.some(o => o.id === a.id))
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}
onMounted(look)

/**
 * Both get the same mark: this one first, since a mark that no other tune carries means nothing. So nothing
 * is half done where the second save fails.
 */
async function link(id: string) {
  const mark = tune.value.settings ?? docs.tuneId
  try {
    if (!tune.value.settings) docs.editFacts({ settings: mark })
    await docs.save()
    const other = await api.tune(id)
    const marked = { version: other.version, source: other.source, tune: { ...other.tune, settings: mark } }
    await api.save(id, { tune: marked, arrangements: [], removed: [] })
    await look()
  } catch (e) {
    problem.value = e instanceof Error ? e.message : String(e)
  }
}
const emit = defineEmits<{ compare: [id: string, title: string] }>()
</script>

<template>
  <div class="facts" data-test="facts">
    <v-text-field
      :model-value="tune.title"
      label="Title"
      data-test="fact-title"
      @update:model-value="t => docs.editFacts({ title: t.slice(0, MOST.line) })"
    />
    <div class="row">
      <v-autocomplete
        :model-value="keyName(tune.key)"
        :items="keyItems"
        label="Key"
        data-test="fact-key"
        @update:model-value="setKey"
      />
      <ReadField
        :text="metreName(tune.metre)"
        label="Metre"
        test="fact-metre"
        :read="parseMetre"
        :hint="heard"
        problem="3/4, 6/8 or 2+2+3/8"
        @read="metre => docs.editFacts({ metre })"
      />
      <v-select
        :model-value="tune.clef"
        :items="clefs"
        label="Clef"
        @update:model-value="clef => docs.editFacts({ clef })"
      />
    </div>
    <div class="row">
      <v-text-field
        :model-value="tune.kind"
        label="Kind (reel, waltz, song …)"
        @update:model-value="t => docs.editFacts({ kind: t.slice(0, MOST.kind) })"
      />
      <ReadField
        :text="tempoText"
        :label="`Tempo (${formatTempo(defaultTempo(tune.metre))} when not said)`"
        test="fact-tempo"
        :read="readTempo"
        problem="a note and how many a minute: 1/4=96"
        @read="setTempo"
      />
    </div>
    <div class="row">
      <v-text-field
        :model-value="tune.composer"
        label="Composer"
        @update:model-value="t => docs.editFacts({ composer: t.slice(0, MOST.line) })"
      />
      <v-text-field
        :model-value="tune.learnedFrom"
        label="Learned from"
        @update:model-value="t => docs.editFacts({ learnedFrom: t.slice(0, MOST.line) })"
      />
    </div>
    <div class="row">
      <v-textarea
        :model-value="tune.otherTitles.join('\n')"
        label="Other titles, one a line"
        rows="2"
        auto-grow
        @change="(e: Event) => docs.editFacts({ otherTitles: list((e.target as HTMLTextAreaElement).value) })"
      />
      <v-textarea
        :model-value="tune.notToBeConfusedWith.join('\n')"
        label="Not to be confused with"
        rows="2"
        auto-grow
        @change="
          (e: Event) => docs.editFacts({ notToBeConfusedWith: list((e.target as HTMLTextAreaElement).value) })
        "
      />
    </div>
    <div class="row">
      <v-select
        :model-value="tune.rights"
        :items="rights"
        label="Rights"
        data-test="rights"
        @update:model-value="r => docs.editFacts({ rights: r as Tune['rights'] })"
      />
      <v-text-field
        :model-value="tune.tags.join(', ')"
        label="Tags, with commas"
        data-test="tags"
        @change="(e: Event) => docs.editFacts({ tags: tags((e.target as HTMLInputElement).value) })"
      />
    </div>
    <p v-if="tune.rights === 'protected'" class="warn" role="note">
      Protected: sheets and files of this tune may be shared only as far as its rights allow.
    </p>
    <v-textarea
      :model-value="tune.notes"
      label="Notes on this setting"
      rows="2"
      auto-grow
      @update:model-value="t => docs.editFacts({ notes: t.slice(0, MOST.notes) })"
    />

    <h2>How it is played</h2>
    <p data-test="play-order">Measures {{ order }}.</p>
    <div class="row">
      <v-select
        :model-value="tune.play.times"
        :items="times"
        label="All of it"
        data-test="times"
        @update:model-value="n => docs.editFacts({ play: { ...tune.play, times: n } })"
      />
      <v-btn
        v-if="repeats.length || tune.play.parts || tune.measures.some(m => m.jump)"
        variant="outlined"
        size="small"
        data-test="unfold"
        @click="part.changeTune(writeOutRepeats(tune))"
        >Write {{ tune.play.parts || tune.measures.some(m => m.jump) ? 'it' : 'the repeats' }} out</v-btn
      >
    </div>
    <v-text-field
      v-if="parts.length > 1"
      :model-value="tune.play.parts?.join(' ') ?? ''"
      label="Parts in the order"
      :placeholder="parts.join(' ')"
      :error-messages="orderProblem"
      data-test="part-order"
      @change="(e: Event) => setOrder((e.target as HTMLInputElement).value)"
    />
    <div v-for="r in repeats" :key="r.id">
      <v-switch
        :model-value="!tune.play.struck.includes(r.id)"
        :label="`repeat measures ${r.from} to ${r.to}`"
        :data-test="`repeat-${r.from}`"
        @update:model-value="strike(r.id)"
      />
    </div>

    <h2>Other settings of this tune</h2>
    <p v-if="others.length === 0 && alike.length === 0" class="quiet">
      None on the shelf, and nothing there sounds like it.
    </p>
    <ul class="settings">
      <li v-for="t in others" :key="t.id">
        <router-link :to="`/tunes/${t.id}/tune`">{{ t.title }}</router-link> ({{ keyName(t.key) }},
        {{ metreName(t.metre) }})
        <button class="link" @click="emit('compare', t.id, t.title)">compare</button>
      </li>
      <li v-for="a in alike" :key="a.id" data-test="alike">
        <router-link :to="`/tunes/${a.id}/tune`">{{ a.title }}</router-link> sounds like it ({{
          Math.round(a.likeness * 100)
        }}%)
        <button class="link" @click="emit('compare', a.id, a.title)">compare</button>
        <button class="link" data-test="link-setting" @click="link(a.id)">it is another setting</button>
      </li>
    </ul>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.facts {
  /* The label of the first field stands on its frame. */
  padding-top: 8px;
}
.facts > * {
  margin-bottom: 10px;
}
.facts h2 {
  font-size: 15px;
  margin: 18px 0 6px;
}
.row {
  display: flex;
  gap: 10px;
  align-items: start;
}
.row > * {
  flex: 1;
}
.row > .v-btn {
  flex: none;
  margin-top: 4px;
}
.warn {
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) 22%, transparent);
  padding: 8px 10px;
  border-radius: 4px;
}
.settings {
  padding-left: 18px;
}
.settings a,
.link {
  font: inherit;
  background: none;
  margin-left: 8px;
  text-decoration: underline;
}
</style>
