/** The documents on the bench: a tune and its arrangements, with undo, saved by themselves. */
import { defineStore } from 'pinia'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { duplicated, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { FingerPins } from '#core/fingering/fingerPin'
import { rewriteAbc } from '#core/formats/abc/rewriteAbc'
import { firstRecipe } from '#core/arrangement/first'
import { type InstrumentId, type Tune } from '#core/music/tune'
import { api } from '../api/client'
import { changedWords } from '#core/words/changed'
import { ownStorage, tabStorage } from './drafts'
import { begin, record, redo as redoOf, undo as undoOf, type History } from './history'
import { keepHistory, keptHistory } from './keptHistory'
import { useOthers } from './others'
import { documentsOf } from './reconcile'
import { useSaving, type Documents } from './saving'
import { useSiblings } from './siblings'

export type { Documents } from './saving'

/** Fingers that an edit of the tune pins in an arrangement. */
interface PinsOf {
  readonly arrangement: string
  readonly pins: FingerPins
}

export const useDocuments = defineStore('documents', () => {
  const tuneId = ref('')
  const loading = ref<'idle' | 'loading' | 'ready' | 'failed'>('idle')
  const problem = ref('')
  const notice = ref('')
  /** What was undone or redone last, in words. */
  const stepped = shallowRef<{ readonly way: 'undone' | 'redone'; readonly what: string } | null>(null)
  const history = shallowRef<History<Documents> | null>(null)
  const arrangementId = ref('')
  const documents = computed(() => history.value?.present ?? null)
  const arrangements = computed(() => documents.value?.arrangements ?? [])
  const recipe = computed(
    () => arrangements.value.find(a => a.id === arrangementId.value)?.arrangement ?? null,
  )
  const choose = (id: string) => void (arrangementId.value = id)
  const canUndo = computed(() => (history.value?.past.length ?? 0) > 0)
  const canRedo = computed(() => (history.value?.future.length ?? 0) > 0)
  const storage = ownStorage()
  const siblings = useSiblings(tune => void others.follow(tune))
  onScopeDispose(siblings.close)
  const saving = useSaving({
    window: siblings.name,
    storage,
    documents: () => documents.value!,
    clash: () => others.clashed(),
    saved: siblings.saved,
  })
  const bench = { tuneId, loading, notice, history, documents, arrangementId, recipe, choose }
  const others = useOthers({ bench, saving, siblings, storage })

  async function open(id: string) {
    saving.left()
    loading.value = 'loading'
    history.value = null
    stepped.value = null
    tuneId.value = id
    try {
      const found = await api.tune(id)
      if (tuneId.value !== id) return
      arrangementId.value = found.arrangements[0]?.id ?? ''
      const docs = documentsOf(found)
      history.value = begin(docs)
      saving.opened(docs, found)
      loading.value = 'ready'
      await others.takeUpDrafts(found)
      if (tuneId.value === id) takeUpHistory(id)
      if (tuneId.value === id && !arrangementId.value) addArrangement('violin')
    } catch (e) {
      loading.value = 'failed'
      problem.value = e instanceof Error ? e.message : String(e)
    }
  }

  /** What could be undone before a reload can be undone after it. */
  function takeUpHistory(id: string) {
    if (history.value!.past.length > 0) return
    history.value = keptHistory(tabStorage(), id, documents.value!) ?? history.value
  }
  const keepOverReload = () => {
    if (history.value && tuneId.value) keepHistory(tabStorage(), tuneId.value, history.value)
  }

  /** A new state of the documents: undoable, and saved. */
  function change(docs: Documents, group: string | null = null) {
    history.value = record(history.value!, docs, group)
    stepped.value = null
    saving.edited()
  }

  function step(way: 'undone' | 'redone', move: typeof undoOf<Documents>) {
    if (!history.value) return
    const before = documents.value
    history.value = move(history.value)
    if (!before || !documents.value || documents.value === before) return
    stepped.value = { way, what: changedWords(before, documents.value) }
    if (!recipe.value) arrangementId.value = arrangements.value[0]?.id ?? ''
    saving.edited()
  }

  /** An edit of an arrangement, as a function of what it is; giving the very same back changes nothing. */
  function editArrangement(id: string, how: (r: Arrangement) => Arrangement, group: string | null = null) {
    const now = arrangements.value.find(a => a.id === id)?.arrangement
    if (!documents.value || !now) return
    const next = how(now)
    if (next === now) return
    const own = (a: Documents['arrangements'][number]) => (a.id === id ? { ...a, arrangement: next } : a)
    change({ ...documents.value, arrangements: arrangements.value.map(own) }, group)
  }

  const addArrangement = (instrument: InstrumentId) =>
    takeArrangements([firstRecipe(documents.value!.tune, instrument, `For ${instrument}`)])
  /** Arrangements made elsewhere join the others, in one go; the first of them is the one in use. */
  function takeArrangements(list: readonly Arrangement[]) {
    if (!documents.value || list.length === 0) return
    const made = list.map(arrangement => ({ id: crypto.randomUUID(), arrangement }))
    change({ ...documents.value, arrangements: [...arrangements.value, ...made] })
    choose(made[0]!.id)
  }
  function duplicateArrangement() {
    if (recipe.value) takeArrangements([duplicated(recipe.value, `${recipe.value.name} (copy)`)])
  }
  /** Takes the arrangement in use away; undo brings it back. A tune keeps at least one. */
  function removeArrangement() {
    if (!documents.value || arrangements.value.length < 2) return
    const at = arrangements.value.findIndex(a => a.id === arrangementId.value)
    const left = arrangements.value.toSpliced(at, 1)
    change({ ...documents.value, arrangements: left })
    choose(left[Math.min(at, left.length - 1)]!.id)
  }

  /** Another state of the written tune: its text is written anew, and pins of an arrangement may come with it. */
  function changeTune(tune: Tune, group: string | null = null, with_: PinsOf | null = null) {
    const before = documents.value
    if (!before || tune === before.tune) return
    const source = rewriteAbc(before.source, tune)
    const pins = with_?.pins ?? {}
    const withPins = (r: Arrangement) =>
      withPlayed(r, { pins: { ...r.played.pins, fingers: { ...r.played.pins.fingers, ...pins } } })
    const next =
      Object.keys(pins).length === 0
        ? before.arrangements
        : before.arrangements.map(a =>
            a.id === with_?.arrangement ? { ...a, arrangement: withPins(a.arrangement) } : a,
          )
    change({ source, tune, arrangements: next }, group)
  }

  /** Facts of the tune; those that stand in the text are written there too. */
  function editFacts(facts: Partial<Tune>) {
    if (documents.value)
      changeTune({ ...documents.value.tune, ...facts }, `facts:${Object.keys(facts).join()}`)
  }

  /**
   * An earlier state in the place of this one; undo brings this one back. Arrangements made since then stay.
   */
  function restoreVersion(docs: Documents) {
    const then = new Map(docs.arrangements.map(a => [a.id, a]))
    const here = arrangements.value.map(a => then.get(a.id) ?? a)
    const gone = docs.arrangements.filter(a => !here.some(h => h.id === a.id))
    change({ source: docs.source, tune: docs.tune, arrangements: [...here, ...gone] })
  }

  return {
    tuneId,
    loading,
    problem,
    notice,
    documents,
    arrangements,
    arrangementId,
    recipe,
    canUndo,
    canRedo,
    saveState: saving.state,
    saveProblem: saving.problem,
    open,
    change,
    undo: () => step('undone', undoOf),
    redo: () => step('redone', redoOf),
    stepped,
    keepOverReload,
    choose,
    editArrangement,
    addArrangement,
    takeArrangements,
    duplicateArrangement,
    removeArrangement,
    changeTune,
    editFacts,
    restoreVersion,
    save: saving.save,
  }
})
