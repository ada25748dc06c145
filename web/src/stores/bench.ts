/** The bench as its stations see it: documents, what is made of them, and what is chosen, under one name. */
import { defineStore, storeToRefs } from 'pinia'
import { computed } from 'vue'
import { mended } from '#core/arrangement/edits'
import type { Taught } from '#core/arrangement/recipe'
import { taughtAsPlayed, taughtAsWritten } from '#core/arrangement/taughtPlayed'
import type { FingerPins } from '#core/fingering/fingerPin'
import type { Mend } from '#core/findings/finding'
import type { Edited } from '#core/music/edit/edited'
import { moveByOctaves } from '#core/music/edit/pitches'
import { useDocuments } from './documents'
import { useResults } from './results'
import { useSelection } from './selection'
import { useStudio } from './studio'

export const useBench = defineStore('bench', () => {
  const docs = useDocuments()
  const results = useResults()
  const selection = useSelection()
  const studio = useStudio()
  const { problem: _loading, ...stored } = storeToRefs(docs)
  const { problem: _working, ...worked } = storeToRefs(results)
  const chosen = storeToRefs(selection)
  const problem = computed(() => (docs.loading === 'failed' ? docs.problem : results.problem))

  async function open(id: string) {
    await docs.open(id)
    void studio.load()
  }

  /** Takes an edit of the written tune, and goes to what it says is to be chosen next. */
  function changeTune(edited: Edited, group: string | null = null, pins: FingerPins = {}) {
    if (!docs.documents || edited.tune === docs.documents.tune) return
    if (edited.chosen !== null) selection.put(edited.chosen)
    docs.changeTune(edited.tune, group, pins)
  }

  function mend(m: Mend) {
    if (!docs.documents) return
    if (m.kind === 'moveNote') changeTune(moveByOctaves(docs.documents.tune, [m.note], m.octaves))
    else docs.edit(r => mended(r, m))
  }

  /** What is taught, said of the notes that are played; edits of it are kept for those that are written. */
  const stands = computed(() => worked.result.value?.stands ?? {})
  const taught = computed(() => docs.recipe && taughtAsPlayed(docs.recipe.taught, stands.value))
  const editTaught = (changes: Partial<Taught>, group: string | null = null) =>
    docs.editTaught(taughtAsWritten(changes, stands.value), group)

  const { undo, redo, choose, edit, editPlayed, editShown, rename, pin } = docs
  const { addArrangement, takeArrangement, duplicateArrangement, removeArrangement } = docs
  const { editFacts, restoreVersion, save } = docs
  const { typed, writeSource, readSource } = results
  const { select, selectEvent, walkEvents, walk, walkPhrase, goTo } = selection
  const history = { undo, redo, restoreVersion, save }
  const editing = { edit, editPlayed, editShown, editTaught, editFacts, rename, pin, changeTune, mend }
  const shelved = { choose, addArrangement, takeArrangement, duplicateArrangement, removeArrangement }
  const typing = { typed, writeSource, readSource }
  const walking = { select, selectEvent, walkEvents, walk, walkPhrase, goTo }
  return {
    ...stored,
    ...worked,
    ...chosen,
    problem,
    taught,
    stands,
    open,
    ...history,
    ...editing,
    ...shelved,
    ...typing,
    ...walking,
  }
})
