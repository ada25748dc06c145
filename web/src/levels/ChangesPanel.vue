<script setup lang="ts">
/**
 * What this version changes, phrase by phrase: taken or refused one by one, or with all that are alike; heard
 * against the tune as it is.
 */
import { computed } from 'vue'
import { isWrittenFor } from '#core/instruments/writtenFor'
import { addedSlurs, decided, partLeft, withPlayed } from '#core/arrangement/edits'
import { counted } from '#core/counts'
import { slurId } from '#core/arranging/versionSlurs'
import { partThatAsks } from '#core/arranging/parts'
import {
  changeViews,
  keptWords,
  slurViews,
  strayWords,
  tempoWords,
  type ChangeView,
} from '#core/words/arranging'
import { octavesText } from '#core/words/arrangement'
import { aboveWords } from '#core/words/grading'
import { capital, measureText } from '#core/words/places'
import { keyName } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import type { MeasureChoice } from '#core/arranging/easing'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useLevels } from '../stores/levels'
import { usePlayer, type Passage } from '../stores/player'

const under = defineModel<boolean>('under', { required: true })
const docs = useDocuments()
const part = usePart()
const store = useLevels()
const player = usePlayer()
const views = computed(() =>
  changeViews(
    { written: docs.documents!.tune, toWritten: part.result!.toWritten },
    part.recipe.played.changes,
  ).toSorted((a, b) => a.measure - b.measure),
)
const slower = computed(() => tempoWords(docs.documents!.tune, part.recipe.played.tempo))
/** An instrument's own tune, all of it in another octave. */
const octave = computed(() => {
  const { played } = part.recipe
  const own = isWrittenFor(docs.documents!.tune, played.instrument)
  return own && typeof played.octave === 'number' && played.octave !== 0 ? octavesText(played.octave) : null
})
/** The one part that all of what is too hard stands in. */
const asking = computed(() => partThatAsks(store.parts, store.blocked, part.result?.origin))
const strayed = computed(() => store.kept && strayWords(store.kept, views.value, part.recipe.played.level))
/** Slurs of two that the version added, and those of them that are taken. */
const slurs = computed(() => slurViews(part.recipe, part.result!.tune, id => part.result!.origin[id] ?? [id]))
const slursTaken = computed(() => slurs.value.filter(s => s.accepted).length)
/** The event a slur is taken over to: the ids of its lines are made from it. */
const slurred = (list: readonly ChangeView[]) =>
  part.recipe.played.eased?.slurred?.filter(e => list.some(v => v.id === slurId('slur', e))) ?? []
const betterKey = computed(() => {
  const made = store.better
  return made && keyName(made.played.key ?? docs.documents!.tune.key)
})
const all = computed(() => [...views.value, ...slurs.value].toSorted((a, b) => a.measure - b.measure))
const taken = computed(() => all.value.filter(v => v.accepted).length)
const alike = (v: ChangeView) =>
  (v.kind === 'slur' ? slurs : views).value.filter(o => o.kind === v.kind && o.sentence === v.sentence)
/** Phrases of the tune as it is, each with its changes; what belongs to none comes first. */
const phrases = computed(() => store.plain?.parts.flatMap(p => p.phrases) ?? [])
const groups = computed(() => {
  const of = (v: ChangeView) => phrases.value.find(p => p.events.includes(v.at))
  const list = [undefined, ...phrases.value].map(phrase => ({
    phrase,
    views: all.value.filter(v => of(v) === phrase),
  }))
  return list.filter(g => g.views.length > 0)
})
const decide = (list: readonly ChangeView[], accepted: boolean) =>
  part.edit(r => {
    const changed = list
      .filter(v => v.kind !== 'slur')
      .reduce((recipe, v) => decided(recipe, v.id, accepted), r)
    return addedSlurs(changed, slurred(list), accepted)
  })
/** The note that stands there now, whether the change made it or not. */
function goTo(v: ChangeView) {
  const event = Object.entries(part.result!.origin).find(([, from]) => from.includes(v.at))?.[0] ?? v.at
  part.selectEvent(event, false)
}
/** Only what an easier version changes can be had otherwise; an added ornament is taken or left. */
const canDiffer = (v: ChangeView) => v.accepted && EASED.has(v.kind) && part.recipe.played.eased !== undefined
const EASED = new Set(['thin', 'lighten', 'even', 'onBeat', 'replace', 'fold'])
const choiceText = (c: MeasureChoice) => c.pitches.map(formatPitch).join(' ')
/** Phrase by phrase, first as it is, then as it is here. */
function hear() {
  const { plain } = store
  if (!plain) return
  const origin = part.result!.origin
  player.hear(
    phrases.value.flatMap((p): Passage[] => {
      const own = new Set(p.events)
      const here = part.result!.events.filter(e => own.has(e) || origin[e]?.some(o => own.has(o)))
      return [
        { events: p.events, name: `${p.label} as it is`, of: plain },
        { events: here, name: `${p.label} here` },
      ]
    }),
  )
}
</script>

<template>
  <div v-if="views.length || slower || octave || store.blocked.length" class="changes" data-test="changes">
    <h2>
      Changes <small v-if="all.length">{{ taken }} of {{ all.length }} taken</small>
    </h2>
    <p v-if="slower" data-test="slower">
      {{ slower }}
      <button
        type="button"
        class="link"
        data-test="own-tempo"
        @click="part.edit(r => withPlayed(r, { tempo: null }))"
      >
        at the tune’s own tempo
      </button>
    </p>
    <p v-if="slurs.length" data-test="added-slurs">
      {{ counted(slursTaken, 'slur') }} of two on one string added.
      <button type="button" class="link" data-test="without-slurs" @click="decide(slurs, slursTaken === 0)">
        {{ slursTaken ? 'leave them out' : 'have them again' }}
      </button>
    </p>
    <p v-if="octave" data-test="octave-moved">All of it {{ octave }}: that is where it lies in the hand.</p>
    <p v-if="store.kept" data-test="kept">{{ keptWords(store.kept) }}</p>
    <p v-if="strayed" class="blocked" role="note" data-test="strayed">{{ strayed }}</p>
    <p v-if="betterKey" class="row">
      <button type="button" class="link" data-test="better-key" @click="store.takeBetter">
        Have it in {{ betterKey }}
      </button>
      <span class="quiet">the key where this level lies best</span>
    </p>
    <p v-if="store.blocked.length" class="blocked" role="note" data-test="blocked">
      {{ aboveWords(store.blocked, part.recipe.played.level!) }}
      <button
        v-if="asking"
        type="button"
        class="link"
        data-test="leave-part"
        @click="part.edit(r => partLeft(r, asking!.measures, true))"
      >
        leave out part {{ asking.label }}, which asks for it
      </button>
    </p>
    <p v-if="store.plain" class="row">
      <button v-if="player.turn" type="button" class="link" @click="player.stop()">Stop</button>

      <button v-else type="button" class="link" data-test="hear-difference" @click="hear">
        Hear the difference
      </button>
      <label><input v-model="under" type="checkbox" data-test="under" /> the tune as it is, under it</label>
    </p>
    <p v-if="part.recipe.played.eased && part.recipe.played.level" class="row">
      <button type="button" class="link" :disabled="store.making" data-test="another" @click="store.another">
        Another version
      </button>
      <span class="quiet">the next best one that differs, in this key</span>
    </p>
    <template v-for="g in groups" :key="g.phrase?.id ?? ''">
      <h3 v-if="g.phrase">{{ g.phrase.label }} {{ g.phrase.name }}</h3>
      <ul>
        <li v-for="v in g.views" :key="v.id" :class="{ refused: !v.accepted }">
          <input
            :id="`change-${v.id}`"
            type="checkbox"
            :checked="v.accepted"
            :aria-label="`${capital(measureText(v.measure))}: ${v.sentence}`"
            data-test="change"
            @change="decide([v], ($event.target as HTMLInputElement).checked)"
          />
          <span
            ><button type="button" @click="goTo(v)">
              <b>{{ v.measure || 'pickup' }}</b> {{ v.sentence
              }}<small v-if="v.why" class="why">{{ v.why }}</small>
            </button>
            <button
              v-if="alike(v).length > 1 && alike(v)[0] === v"
              type="button"
              class="link all"
              data-test="all-alike"
              @click="decide(alike(v), !v.accepted)"
            >
              {{ v.accepted ? 'refuse' : 'take' }} all {{ alike(v).length }} alike
            </button>
            <button
              v-if="canDiffer(v)"
              type="button"
              class="link all"
              :disabled="store.making"
              :aria-expanded="store.choices?.event === v.at"
              data-test="otherwise"
              @click="store.choices?.event === v.at ? (store.choices = null) : store.otherwise(v.at)"
            >
              this measure otherwise
            </button>
            <ol v-if="store.choices?.event === v.at" class="choices">
              <li v-for="(c, i) in store.choices.list" :key="i">
                <span>{{ choiceText(c) }}</span>
                <button type="button" class="link" data-test="hear-choice" @click="store.hearChoice(c)">
                  hear
                </button>
                <button type="button" class="link" data-test="take-choice" @click="store.choose(c)">
                  take it
                </button>
              </li>
              <li v-if="store.choices.list.length === 0">There is no other way at this level.</li>
            </ol></span
          >
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.changes {
  margin-top: 16px;
}
h2 {
  font-size: 15px;
}
h3 {
  margin: 8px 0 0;
  font-size: 13.5px;
}
.row {
  display: flex;
  gap: 16px;
}
.all {
  margin-left: 8px;
  font-size: 12.5px !important;
}
h2 small {
  font-weight: 400;
  color: var(--faint);
}
p {
  font-size: 14px;
  margin: 4px 0;
}
.blocked {
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
ul {
  list-style: none;
  padding: 0;
  margin: 4px 0 0;
}
li {
  display: grid;
  grid-template-columns: 22px 1fr;
  align-items: start;
}
li > input {
  margin-top: 5px;
}
.row button {
  white-space: nowrap;
}
li button {
  padding: 2px 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  text-align: left;
  cursor: pointer;
}
.choices {
  margin: 2px 0 6px;
  padding-left: 18px;
  list-style: none;
}
.choices li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: 13.5px;
}
.why {
  display: block;
  color: var(--faint);
  font-size: 12.5px;
}
.refused button {
  color: var(--faint);
  text-decoration: line-through;
}
</style>
