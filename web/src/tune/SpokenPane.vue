<script setup lang="ts">
/**
 * The arrangement as string-and-finger text, both ways. While one types, the text is the teacher's; edits
 * made elsewhere write it anew.
 */
import { ref, watch } from 'vue'
import type { Finding } from '#core/findings/finding'
import type { Tune } from '#core/music/tune'
import FindingList from '../bench/FindingList.vue'
import { useDocuments } from '../stores/documents'
import { usePart } from '../stores/parts'
import { useEntry } from '../stores/entry'
import { askPart, latestLane } from '../worker/client'
import SourcePane from './SourcePane.vue'

const docs = useDocuments()
const part = usePart()
const entry = useEntry()
const text = ref('')
const findings = ref<readonly Finding[]>([])
const problem = ref('')
const pane = ref<InstanceType<typeof SourcePane> | null>(null)
/** The tune this text last made: a change of it came from here. */
let ours: Tune | null = null
let spans: readonly (readonly [string, number, number])[] = []

const speaking = latestLane(
  (q: { tune: Tune }) => askPart('speak', { ...part.asked, tune: q.tune }),
  (r, q) => {
    if (q.tune === ours) return
    text.value = r.text
    findings.value = r.findings
  },
  e => (problem.value = e.message),
)
watch(
  [() => docs.documents?.tune, () => part.result],
  ([tune]) => {
    if (tune && tune !== ours && part.result) speaking.ask({ tune })
  },
  { immediate: true },
)

const listening = latestLane(
  (q: { text: string; tune: Tune }) => askPart('listen', { ...part.asked, tune: q.tune }, q.text),
  (r, q) => {
    findings.value = r.findings
    spans = r.spans
    problem.value = ''
    // The score moved on while we listened: the text is heard again against it.
    if (docs.documents?.tune !== q.tune)
      return listening.ask({ text: text.value, tune: docs.documents!.tune })
    if (!r.tune) return
    ours = r.tune
    part.changeTune({ tune: r.tune, chosen: null }, 'speaking', entry.keepPins ? r.pins : {})
  },
  e => (problem.value = e.message),
)

function typed(value: string) {
  text.value = value
  ours = docs.documents!.tune
  listening.ask({ text: value, tune: docs.documents!.tune })
}

function atCursor(offset: number) {
  const span = spans.find(([, from, to]) => offset >= from && offset <= to)
  if (span) part.selectEvent(span[0])
}

function go(f: Finding) {
  if (f.where.line !== undefined) pane.value?.goTo(f.where.line, f.where.column ?? 1)
  part.goTo(f)
}
</script>

<template>
  <div>
    <SourcePane
      ref="pane"
      :text="text"
      :findings="findings"
      kind="spoken"
      @typed="typed"
      @cursor="atCursor"
    />
    <p v-if="problem" role="alert">{{ problem }}</p>
    <FindingList v-if="findings.length" :findings="findings" class="list" @go="go" />
    <details class="help">
      <summary>How to say it</summary>
      <table class="plain">
        <tbody>
          <tr>
            <th>A 0 1 2</th>
            <td>string, then fingers; the string holds until the next</td>
          </tr>
          <tr>
            <th>&lt;2 &nbsp; 3&gt;</th>
            <td>lowered, raised by a half step from home</td>
          </tr>
          <tr>
            <th>4o</th>
            <td>a natural harmonic: only touched there</td>
          </tr>
          <tr>
            <th>-</th>
            <td>the note before lasts one place longer</td>
          </tr>
          <tr>
            <th>2:3 &nbsp; 1:1/2</th>
            <td>a length of its own, in places (see unit)</td>
          </tr>
          <tr>
            <th>r &nbsp; 0~ &nbsp; ( )</th>
            <td>rest, tie, slur</td>
          </tr>
          <tr>
            <th>D0+A0</th>
            <td>two strings together</td>
          </tr>
          <tr>
            <th>{0 1 2}</th>
            <td>triplet</td>
          </tr>
          <tr>
            <th>@3 &nbsp; @half</th>
            <td>position of the hand, until the next</td>
          </tr>
          <tr>
            <th>g1 2 &nbsp; "Em"</th>
            <td>a grace note; a chord name</td>
          </tr>
          <tr>
            <th>| &nbsp; |: :| &nbsp; [1 [2 &nbsp; |]</th>
            <td>bars, repeats, endings, the end</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
</template>

<style scoped>
.list {
  margin-top: 8px;
  max-height: 200px;
  overflow: auto;
}
.help {
  margin-top: 10px;
  font-size: 14px;
}
.help summary {
  cursor: pointer;
}
.help th {
  white-space: nowrap;
  font-family: ui-monospace, monospace;
}
</style>
