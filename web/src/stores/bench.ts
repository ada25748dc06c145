/** The tune on the bench: its documents with undo, what is chosen in them, and what the core derives from them. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Arrangement, Pins } from '#core/arrangement/recipe'
import { mendRecipe, withPin } from '#core/arrangement/mend'
import { newArrangement } from '#core/arrangement/recipe'
import { moveByOctaves } from '#core/music/edit/pitches'
import type { Finding, Mend } from '#core/findings/finding'
import type { FingerPins } from '#core/fingering/fingering'
import { rewriteAbc } from '#core/formats/abc/rewriteAbc'
import { sizeOf } from '#core/instruments/instruments'
import { eventsOf, idsBetween, type Edited } from '#core/music/edit/edited'
import type { InstrumentId, Tune } from '#core/music/tune'
import { api } from '../api/client'
import { callCore, latestLane } from '../worker/client'
import { unpack, type BenchResult, type NoteReport, type SourceResult } from '../worker/contract'
import { dropDraft, findDraft } from './drafts'
import { begin, record, redo as redoOf, undo as undoOf, type History } from './history'
import { useSaving, type Documents } from './saving'

export const useBench = defineStore('bench', () => {
  const tuneId = ref('')
  const loading = ref<'idle' | 'loading' | 'ready' | 'failed'>('idle')
  const problem = ref('')
  const notice = ref('')
  const history = shallowRef<History<Documents> | null>(null)
  const arrangementId = ref('')
  const result = shallowRef<BenchResult | null>(null)
  const reading = shallowRef<SourceResult | null>(null)
  const report = shallowRef<NoteReport | null>(null)
  const selected = ref<string | null>(null)
  /** The event the cursor stands on: the chosen note's, or a rest. Writing goes on after it. */
  const caret = ref<string | null>(null)
  /** The other end of a chosen stretch. */
  const anchor = ref<string | null>(null)
  const focus = ref<string | null>(null)

  const documents = computed(() => history.value?.present ?? null)
  const arrangements = computed(() => documents.value?.arrangements ?? [])
  const recipe = computed(
    () => arrangements.value.find(a => a.id === arrangementId.value)?.arrangement ?? null,
  )
  const phrases = computed(() => result.value?.parts.flatMap(p => p.phrases) ?? [])
  const notes = computed(() => result.value?.notes ?? [])
  const selectedNote = computed(() => notes.value.find(n => n.id === selected.value) ?? null)
  /** Events from the anchor to the cursor, in order; the one at the cursor when nothing more is chosen. */
  const selection = computed(() => {
    const tune = documents.value?.tune
    if (!tune || caret.value === null) return []
    return idsBetween(tune, anchor.value ?? caret.value, caret.value)
  })
  const canUndo = computed(() => (history.value?.past.length ?? 0) > 0)
  const canRedo = computed(() => (history.value?.future.length ?? 0) > 0)

  const saving = useSaving({ tuneId, documents: () => documents.value!, clash: keepBoth })

  function showResult(r: BenchResult) {
    result.value = r
    problem.value = ''
    if (!r.events.includes(caret.value ?? '')) caret.value = anchor.value = null
    if (!r.notes.some(n => n.id === selected.value)) selected.value = noteOf(caret.value)
    askReport()
  }

  const deriving = latestLane(
    (q: { tune: Tune; recipe: Arrangement }) => callCore(core => core.derive(q.tune, q.recipe)).then(unpack),
    showResult,
    e => (problem.value = e.message),
  )
  const inspecting = latestLane(
    (q: { tune: Tune; recipe: Arrangement; id: string }) =>
      callCore(core => core.inspect(q.tune, q.recipe, q.id)),
    r => (report.value = r),
    e => (problem.value = e.message),
  )

  function askDerive() {
    if (documents.value && recipe.value) deriving.ask({ tune: documents.value.tune, recipe: recipe.value })
  }

  function askReport() {
    if (documents.value && recipe.value && selected.value) {
      inspecting.ask({ tune: documents.value.tune, recipe: recipe.value, id: selected.value })
    } else report.value = null
  }

  async function open(id: string) {
    loading.value = 'loading'
    result.value = report.value = reading.value = null
    selected.value = focus.value = caret.value = anchor.value = null
    tuneId.value = id
    try {
      const found = await api.tune(id)
      const docs: Documents = {
        source: found.source,
        tune: found.tune,
        arrangements: found.arrangements.map(({ id, arrangement }) => ({ id, arrangement })),
      }
      history.value = begin(docs)
      arrangementId.value = docs.arrangements[0]?.id ?? ''
      saving.opened(
        docs,
        found.version,
        found.arrangements.map(a => [a.id, a.version] as const),
      )
      // The worker derives while the page is laid out.
      askDerive()
      loading.value = 'ready'
      await takeUpDraft(found.version)
      if (!arrangementId.value) await addArrangement('violin')
      readSource(documents.value!.source)
    } catch (e) {
      loading.value = 'failed'
      problem.value = e instanceof Error ? e.message : String(e)
    }
  }

  /** Work that had not reached the server comes back; when the server moved on meanwhile, it is kept as a tune of its own. */
  async function takeUpDraft(version: number) {
    const draft = findDraft(tuneId.value)
    if (!draft) return
    const mine: Documents = {
      source: draft.source,
      tune: draft.tune,
      arrangements: draft.arrangements.map(({ id, arrangement }) => ({ id, arrangement })),
    }
    if (draft.tuneVersion === version) {
      change(mine)
      notice.value = 'Work that had not been saved yet was brought back.'
    } else await keepBoth(mine)
  }

  /** A clash: the other version stays where it is, mine becomes a tune of its own beside it. */
  async function keepBoth(mine: Documents) {
    const recipe = mine.arrangements.find(a => a.id === arrangementId.value) ?? mine.arrangements[0]!
    const title = `${mine.tune.title} (second version)`
    const copy = await api.createTune(mine.source, { ...mine.tune, title }, recipe.arrangement)
    for (const a of mine.arrangements) if (a !== recipe) await api.addArrangement(copy.id, a.arrangement)
    dropDraft(tuneId.value)
    notice.value = `This tune was changed in another window. Your version is kept on the shelf as “${title}”; here is the other one.`
    await open(tuneId.value)
  }

  /** A new state of the documents: undoable, saved, derived. */
  function change(docs: Documents, group: string | null = null, derived: BenchResult | null = null) {
    history.value = record(history.value!, docs, group)
    if (derived) {
      deriving.cancel()
      showResult(derived)
    } else askDerive()
    saving.edited()
  }

  function edit(changes: Partial<Arrangement>, group: string | null = null) {
    if (!documents.value || !recipe.value) return
    const next = { ...recipe.value, ...changes }
    change(
      {
        ...documents.value,
        arrangements: arrangements.value.map(a =>
          a.id === arrangementId.value ? { ...a, arrangement: next } : a,
        ),
      },
      group,
    )
  }

  /** Sets or (with undefined) takes away one entry of one kind of pin. */
  function pin<K extends keyof Pins>(kind: K, id: string, value: Pins[K][string] | undefined) {
    if (!recipe.value) return
    edit({ pins: withPin(recipe.value.pins, kind, id, value) })
  }

  function step(move: typeof undoOf<Documents>) {
    if (!history.value) return
    const before = documents.value
    history.value = move(history.value)
    if (documents.value === before) return
    if (!arrangements.value.some(a => a.id === arrangementId.value))
      arrangementId.value = arrangements.value[0]?.id ?? ''
    saving.edited()
    askDerive()
    if (documents.value!.source !== before!.source) readSource(documents.value!.source)
  }

  /** Reads the text without changing the tune: findings and places for the source pane. */
  function readSource(text: string | null) {
    if (text !== null) sourceLane.ask({ text, change: false, recipe: null })
    else reading.value = null
  }

  const sourceLane = latestLane(
    (q: { text: string; change: boolean; recipe: Arrangement | null }) =>
      callCore(core => core.read(q.text, documents.value?.tune ?? null, q.recipe)).then(unpack),
    (r, q) => {
      reading.value = r
      // While the text can't be read the last good tune stays, but what was typed is kept too.
      if (!q.change) return
      // What it comes to was worked out on the way, unless the arrangement changed meanwhile.
      const derived = q.recipe === recipe.value && r.tune ? r.derived : null
      change(
        { ...documents.value!, source: q.text, tune: r.tune ?? documents.value!.tune },
        'typing',
        derived,
      )
    },
    e => (problem.value = e.message),
  )

  const typed = (text: string) => sourceLane.ask({ text, change: true, recipe: recipe.value })

  /** The text of a tune that has none yet. */
  async function writeSource(): Promise<string> {
    return (await callCore(core => core.write(documents.value!.tune))).text
  }

  async function addArrangement(instrument: InstrumentId) {
    const made = await api.addArrangement(
      tuneId.value,
      newArrangement(instrument, sizeOf(instrument).name, `For ${instrument}`),
    )
    const added = { id: made.id, arrangement: made.arrangement }
    // It is stored already: undo goes back past it without taking it away.
    const withIt = (d: Documents): Documents => ({ ...d, arrangements: [...d.arrangements, added] })
    const h = history.value!
    history.value = {
      ...h,
      past: h.past.map(withIt),
      present: withIt(h.present),
      future: h.future.map(withIt),
    }
    saving.added(made.id, made.version, documents.value!)
    choose(made.id)
  }

  function choose(id: string) {
    arrangementId.value = id
    askDerive()
  }

  const noteOf = (event: string | null) => notes.value.find(n => n.event === event)?.id ?? null

  function select(id: string | null) {
    selected.value = id
    caret.value = notes.value.find(n => n.id === id)?.event ?? null
    anchor.value = null
    askReport()
  }

  /** Puts the cursor on an event, a rest too; `extend` keeps the other end of the stretch where it is. */
  function selectEvent(event: string | null, extend = false) {
    anchor.value = extend ? (anchor.value ?? caret.value) : null
    caret.value = event
    selected.value = noteOf(event)
    askReport()
  }

  /** Walks from event to event, rests included. */
  function walkEvents(by: number, extend: boolean) {
    const all = documents.value ? eventsOf(documents.value.tune) : []
    const at = all.findIndex(e => e.id === caret.value)
    const next = all[at < 0 ? (by > 0 ? 0 : all.length - 1) : Math.max(0, Math.min(all.length - 1, at + by))]
    if (next) selectEvent(next.id, extend)
  }

  /** Takes an edit of the written tune: its text is written anew, and pins may come with it. */
  function changeTune(edited: Edited, group: string | null = null, pins: FingerPins = {}) {
    const before = documents.value
    if (!before || edited.tune === before.tune) return
    const source = rewriteAbc(before.source, edited.tune)
    const arrangements =
      Object.keys(pins).length === 0
        ? before.arrangements
        : before.arrangements.map(a =>
            a.id === arrangementId.value
              ? {
                  ...a,
                  arrangement: {
                    ...a.arrangement,
                    pins: { ...a.arrangement.pins, fingers: { ...a.arrangement.pins.fingers, ...pins } },
                  },
                }
              : a,
          )
    if (edited.chosen !== null) {
      caret.value = edited.chosen
      anchor.value = null
      selected.value = noteOf(edited.chosen)
    }
    change({ source, tune: edited.tune, arrangements }, group)
    readSource(source)
  }

  /** Facts of the tune; those that stand in the text are written there too. */
  function editFacts(facts: Partial<Tune>) {
    if (documents.value)
      changeTune(
        { tune: { ...documents.value.tune, ...facts }, chosen: null },
        `facts:${Object.keys(facts).join()}`,
      )
  }

  /** An earlier state in the place of this one; undo brings this one back. */
  function restoreVersion(docs: {
    source: string | null
    tune: Tune
    arrangements: Documents['arrangements']
  }) {
    const there = new Map(docs.arrangements.map(a => [a.id, a]))
    // Arrangements made since then stay.
    change({
      source: docs.source,
      tune: docs.tune,
      arrangements: arrangements.value.map(a => there.get(a.id) ?? a),
    })
    readSource(docs.source)
  }

  /** Walks to the next or previous note. */
  function walk(by: number) {
    const list = notes.value.filter(n => !n.tied)
    const at = list.findIndex(n => n.id === selected.value)
    const next =
      list[at < 0 ? (by > 0 ? 0 : list.length - 1) : Math.max(0, Math.min(list.length - 1, at + by))]
    if (next) select(next.id)
  }

  function walkPhrase(by: number) {
    const list = phrases.value
    const at = list.findIndex(p => p.id === (focus.value ?? list[0]?.id))
    const next = list[Math.max(0, Math.min(list.length - 1, focus.value === null ? 0 : at + by))]
    if (!next) return
    focus.value = next.id
    const first = notes.value.find(n => next.events.includes(n.event))
    if (first) select(first.id)
  }

  function mend(m: Mend) {
    if (!recipe.value || !documents.value) return
    if (m.kind === 'moveNote') changeTune(moveByOctaves(documents.value.tune, [m.note], m.octaves))
    else edit(mendRecipe(recipe.value, m))
  }

  function goTo(f: Finding) {
    const note = notes.value.find(n => n.event === f.where.note || n.id === f.where.note)
    if (note) select(note.id)
    else if (f.where.note !== undefined) selectEvent(f.where.note)
  }

  return {
    tuneId, loading, problem, notice, documents, arrangements, arrangementId, recipe, result, reading, report, selected, selectedNote,
    caret, anchor, selection, focus, phrases, notes, canUndo, canRedo, saveState: saving.state, saveProblem: saving.problem,
    open, edit, pin, undo: () => step(undoOf), redo: () => step(redoOf), typed, writeSource, addArrangement, choose, select, selectEvent, walkEvents, changeTune, editFacts, restoreVersion, walk,
    walkPhrase, mend, goTo, save: saving.save,
  } // prettier-ignore
})
