<script setup lang="ts">
/** Instruments by keys: the level of each, at a glance; the best marked with the dot. */
import { computed } from 'vue'
import { bestKeys, compareRows, keysOfMode, type KeyRow } from '#core/grading/keyRows'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { formatTuning } from '#core/instruments/tunings'
import { keyName, sameKey, signature, type Key } from '#core/music/key'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { gradeWords, strengthWords } from '#core/words/grading'
import { useDocuments } from '../stores/documents'
import { useLevels } from '../stores/levels'
import { counted } from '#core/counts'

const docs = useDocuments()
const store = useLevels()
const own = computed(() => docs.documents!.tune.key)
const keys = computed(() => keysOfMode(own.value).toSorted((a, b) => signature(a) - signature(b)))
const lines = computed(() => {
  const names = new Map<string, { instrument: KeyRow['instrument']; tuning: string | null }>()
  for (const i of store.instruments) names.set(i, { instrument: i, tuning: null })
  for (const r of store.rows)
    if (r.tuning)
      names.set(`${r.instrument} ${formatTuning(r.tuning)}`, {
        instrument: r.instrument,
        tuning: formatTuning(r.tuning),
      })
  // Each instrument's tunings stand under it, home first.
  const sorted = store.instruments.flatMap(i => [...names.values()].filter(l => l.instrument === i))
  return sorted.map(l => ({
    ...l,
    cells: keys.value.map(
      key =>
        store.rows.find(
          r =>
            r.instrument === l.instrument &&
            (r.tuning ? formatTuning(r.tuning) : null) === l.tuning &&
            sameKey(r.key, key),
        ) ?? null,
    ),
  }))
})
/** "B♭": the mode, which all have alike, stands at the head of the lines. */
const short = (k: Key) => keyName(k).replace(' flat', '♭').replace(' sharp', '♯').split(' ')[0]
const octaves = (n: number) =>
  n === 0 ? '' : `, ${counted(Math.abs(n), 'octave')} ${n < 0 ? 'lower' : 'higher'}`
/** "violin in D major, tuned A3 E4 A4 E5". */
const titleOf = (r: KeyRow) =>
  `${INSTRUMENTS[r.instrument].name} in ${keyName(r.key)}${r.tuning ? `, tuned ${formatTuning(r.tuning)}` : ''}`
const cell = computed(() => store.cell)
/** Under a table of more lines the best keys would be out of sight. */
const MOST_LINES = 6
const bestOf = computed(() => {
  const found = bestKeys(store.rows, own.value)
  return store.instruments.flatMap(i => found.find(b => b.instrument === i) ?? [])
})
const against = computed(() => {
  const c = cell.value
  const now =
    c && store.rows.find(r => r.instrument === c.instrument && !r.tuning && sameKey(r.key, own.value))
  return c && now && now !== c && compareRows(c, now) < 0
    ? `The tune’s own key is level ${now.level} there.`
    : ''
})
</script>

<template>
  <div class="keys" data-test="key-table">
    <div class="ask" @pointerenter="store.expectSearch" @focusin="store.expectSearch">
      <label v-for="i in INSTRUMENT_IDS" :key="i"
        ><input v-model="store.instruments" type="checkbox" :value="i" :data-test="`with-${i}`" />
        {{ INSTRUMENTS[i].name }}</label
      >

      <label
        ><input v-model="store.tunings" type="checkbox" data-test="with-tunings" /> cross-tunings too</label
      >
      <v-btn
        v-if="!store.progress"
        size="small"
        color="primary"
        variant="flat"
        :disabled="store.instruments.length === 0"
        data-test="search-keys"
        @click="store.search"
        >Try every key</v-btn
      >

      <template v-else>
        <progress :value="store.progress.done" :max="store.progress.of" aria-label="Keys tried" />
        <span class="number">{{ store.progress.done }} of {{ store.progress.of }}</span>
        <v-btn size="small" variant="outlined" data-test="cancel-keys" @click="store.cancel">Cancel</v-btn>
      </template>
    </div>
    <p v-if="store.problem" role="alert">{{ store.problem }}</p>
    <div v-if="store.rows.length" class="found" :class="{ long: lines.length > MOST_LINES }">
      <table class="table">
        <thead>
          <tr>
            <td class="mode">{{ own.mode }}</td>
            <th v-for="k in keys" :key="keyName(k)" :class="{ own: sameKey(k, own) }" :title="keyName(k)">
              {{ short(k) }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in lines" :key="`${l.instrument}${l.tuning}`">
            <th>
              <span v-if="!l.tuning">{{ INSTRUMENTS[l.instrument].name }}</span>
              <small v-else class="tuning">{{ l.tuning }}</small>
            </th>
            <td v-for="(c, i) in l.cells" :key="i" :class="{ own: sameKey(keys[i]!, own) }">
              <button
                v-if="c"
                type="button"
                class="cell"
                :class="[`l${c.level}`, { chosen: c === cell }]"
                :aria-label="`${titleOf(c)}: level ${c.level}`"
                data-test="key-cell"
                @click="store.cell = c"
              >
                {{ c.level
                }}<span v-if="store.best.has(c)" class="dot" title="No other key is better in everything" />
              </button>
              <span
                v-else
                class="none"
                :title="
                  l.tuning
                    ? 'Off the instrument, harder than at home, or nothing gained by it'
                    : 'Off the instrument'
                "
                >–</span
              >
            </td>
          </tr>
        </tbody>
      </table>
      <div class="side">
        <div v-if="cell" class="detail" data-test="key-detail">
          <p>
            <b>{{ titleOf(cell) }}{{ octaves(cell.octave) }}</b> ({{ cell.range[0] }} to {{ cell.range[1] }}):
            {{ gradeWords(cell.grade) }} {{ Math.round(cell.openShare * 100) }}% open strings,
            {{ counted(cell.crossings, 'crossing') }}, {{ counted(cell.shifts, 'shift') }}. {{ against }}
          </p>
          <v-btn
            size="small"
            variant="flat"
            color="primary"
            data-test="make-arrangement"
            @click="store.make(cell)"
            >Make this arrangement</v-btn
          >
        </div>
        <p v-else-if="store.common.length" class="common" data-test="common-keys">
          For {{ store.instruments.length }} instruments together:
          <template v-for="(c, i) in store.common" :key="keyName(c.key)"
            ><b>{{ keyName(c.key) }}</b> (level {{ c.rows.map(r => r.level).join(', ') }}){{
              i < store.common.length - 1 ? '; ' : '.'
            }}
          </template>
        </p>
      </div>
      <section v-if="!store.progress" class="lists" aria-label="Best keys" data-test="best-keys">
        <div v-for="b in bestOf" :key="b.instrument">
          <h2>{{ INSTRUMENTS[b.instrument].name }}</h2>
          <button
            v-for="{ row, strengths } in b.rows"
            :key="`${keyName(row.key)}${row.tuning}`"
            type="button"
            :class="{ chosen: row === cell }"
            data-test="best-key"
            @click="store.cell = row"
          >
            <b>{{ keyName(row.key) }}</b><template v-if="row.tuning">
              in {{ formatTuning(row.tuning) }}</template
            >: {{ strengthWords(row, strengths) }}
          </button>
        </div>
      </section>
    </div>
    <p v-else-if="!store.progress" class="quiet">
      Every key and octave is fingered and bowed for each instrument, and its level told: the lowest at which
      all of it can be played.
    </p>
  </div>
</template>

<style scoped>
.keys {
  padding: 10px 18px 12px 6px;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  margin-bottom: 8px;
  font-size: 14px;
}
.number {
  font-variant-numeric: tabular-nums;
}
.found {
  display: grid;
  grid-template: 'table side' 'lists lists' / auto minmax(200px, 1fr);
  gap: 4px 28px;
  align-items: start;
}
/* Beside a long table the best keys are still in sight. */
.found.long {
  grid-template: 'table side' 'table lists' 1fr / auto minmax(200px, 1fr);
}
.table {
  grid-area: table;
  border-collapse: collapse;
}
.side {
  grid-area: side;
  font-size: 14px;
}
.tuning {
  padding-left: 14px;
  color: var(--faint);
}
.lists {
  grid-area: lists;
  columns: 250px;
  column-gap: 16px;
  font-size: 14px;
}
.lists > div {
  break-inside: avoid;
  padding-bottom: 4px;
}
.lists h2 {
  margin: 0;
  padding: 2px 8px;
  font-size: 13px;
  font-weight: 400;
}
.lists h2::first-letter {
  text-transform: uppercase;
}
.lists button {
  display: block;
  width: 100%;
  padding: 2px 8px;
  border-radius: 4px;
  text-align: left;
}
.lists button:hover,
.lists button.chosen {
  background: color-mix(in srgb, rgb(var(--v-theme-primary)) 10%, transparent);
}
th {
  font-size: 13px;
  font-weight: 400;
  text-align: left;
  padding: 2px 10px 2px 0;
  white-space: nowrap;
}
thead th {
  text-align: center;
  padding: 2px 0;
}
th.own {
  font-weight: 700;
}
td {
  padding: 1px;
  text-align: center;
}
td.mode {
  font-size: 13px;
  text-align: left;
}
td.own {
  box-shadow: inset 0 -2px 0 currentColor;
}
.cell {
  position: relative;
  width: 46px;
  height: 30px;
  border: 0;
  border-radius: 4px;
  font: inherit;
  font-weight: 700;
  color: inherit;
  cursor: pointer;
  background: color-mix(in srgb, rgb(var(--v-theme-secondary)) var(--weight), transparent);
}
@media (max-width: 1150px) {
  .cell {
    width: 36px;
  }
}
.l1,
.l2 {
  --weight: 0%;
  box-shadow: inset 0 0 0 1px var(--rule);
}
.l3 {
  --weight: 8%;
}
.l4 {
  --weight: 16%;
}
.l5 {
  --weight: 26%;
}
.l6 {
  --weight: 36%;
}
.l7,
.l8 {
  --weight: 48%;
}
.cell.chosen {
  outline: 2px solid rgb(var(--v-theme-primary));
}
.dot {
  position: absolute;
  right: 5px;
  top: 5px;
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: rgb(var(--v-theme-primary));
}
.none {
  color: var(--faint);
}
.detail {
  padding: 2px 8px 8px;
  border-bottom: 1px solid var(--rule);
}
tbody th::first-letter,
.detail p::first-letter {
  text-transform: uppercase;
}
.detail p {
  margin-bottom: 8px;
}
.common {
  padding: 2px 8px;
}
</style>
