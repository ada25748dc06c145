/** The tune on the bench: its documents with undo, what is chosen in them, and what the core derives from them. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Arrangement, Pins } from '#core/arrangement/recipe'
import { mendRecipe, withPin } from '#core/arrangement/mend'
import { newArrangement } from '#core/arrangement/recipe'
import { moveByOctaves } from '#core/music/edit/pitches'
import type { Mend } from '#core/findings/finding'
import type { FingerPins } from '#core/fingering/fingering'
import { rewriteAbc } from '#core/formats/abc/rewriteAbc'
import { sizeOf } from '#core/instruments/instruments'
import type { Edited } from '#core/music/edit/edited'
import type { InstrumentId, Tune } from '#core/music/tune'
import { api } from '../api/client'
import { callCore, latestLane } from '../worker/client'
import { unpack, type BenchResult, type NoteReport, type SourceResult } from '../worker/contract'
import { useCursor } from './cursor'
import { dropDraft, findDraft } from './drafts'
import { begin, record, redo as redoOf, undo as undoOf, type History } from './history'
import { useStudio } from './studio'
import { useSaving, type Documents } from './saving'

export const useBench = defineStore('bench', () => {
  const studio = useStudio()
  const tuneId = ref('')
  const loading = ref<'idle' | 'loading' | 'ready' | 'failed'>('idle')
  const problem = ref('')
  const notice = ref('')
  const history = shallowRef<History<Documents> | null>(null)
  const arrangementId = ref('')
  const result = shallowRef<BenchResult | null>(null)
  const reading = shallowRef<SourceResult | null>(null)
  const report = shallowRef<NoteReport | null>(null)
  const documents = computed(() => history.value?.present ?? null)
  const arrangements = computed(() => documents.value?.arrangements ?? [])
  const recipe = computed(
    () => arrangements.value.find(a => a.id === arrangementId.value)?.arrangement ?? null,
  )
  const phrases = computed(() => result.value?.parts.flatMap(p => p.phrases) ?? [])
  const notes = computed(() => result.value?.notes ?? [])
  const cursor = useCursor({ tune: () => documents.value?.tune ?? null, notes, phrases, moved: askReport })
  const canUndo = computed(() => (history.value?.past.length ?? 0) > 0)
  const canRedo = computed(() => (history.value?.future.length ?? 0) > 0)

  const saving = useSaving({ tuneId, documents: () => documents.value!, clash: keepBoth })

  function showResult(r: BenchResult) {
    result.value = r
    problem.value = ''
    cursor.keepIn(r)
  }

  const deriving = latestLane(
    (q: { tune: Tune; recipe: Arrangement }) =>
      callCore(core => core.derive(q.tune, q.recipe, studio.studio.handModel)).then(unpack),
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

  // The studio's assumptions about hands come a moment later, when they are not ours.
  watch(() => studio.studio.handModel, askDerive)

  function askReport() {
    if (documents.value && recipe.value && cursor.selected.value) {
      inspecting.ask({ tune: documents.value.tune, recipe: recipe.value, id: cursor.selected.value })
    } else report.value = null
  }

  async function open(id: string) {
    loading.value = 'loading'
    result.value = report.value = reading.value = null
    cursor.clear()
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
      void studio.load()
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
      callCore(core =>
        core.read(q.text, documents.value?.tune ?? null, q.recipe, studio.studio.handModel),
      ).then(unpack),
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
      cursor.put(edited.chosen)
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

  function mend(m: Mend) {
    if (!recipe.value || !documents.value) return
    if (m.kind === 'moveNote') changeTune(moveByOctaves(documents.value.tune, [m.note], m.octaves))
    else edit(mendRecipe(recipe.value, m))
  }

  const { selected, caret, anchor, focus, selectedNote, selection, select, selectEvent, walkEvents, walk, walkPhrase, goTo } = cursor // prettier-ignore
  return {
    tuneId, loading, problem, notice, documents, arrangements, arrangementId, recipe, result, reading, report, selected, selectedNote,
    caret, anchor, selection, focus, phrases, notes, canUndo, canRedo, saveState: saving.state, saveProblem: saving.problem,
    open, edit, pin, undo: () => step(undoOf), redo: () => step(redoOf), typed, writeSource, addArrangement, choose, select, selectEvent, walkEvents, changeTune, editFacts, restoreVersion, walk,
    walkPhrase, mend, goTo, save: saving.save,
  } // prettier-ignore
})
