/** What is chosen on the bench, kept in step with the documents and what they come to. */
import { defineStore, storeToRefs } from 'pinia'
import { watch } from 'vue'
import { useCursor } from './cursor'
import { useDocuments } from './documents'
import { useResults } from './results'

export const useSelection = defineStore('selection', () => {
  const docs = useDocuments()
  const results = useResults()
  const { notes, phrases } = storeToRefs(results)
  const cursor = useCursor({
    // Where the arrangement made notes of its own, what is played is walked through; else what is written,
    // which is there at once.
    tune: () => (results.made ? results.result!.tune : (docs.documents?.tune ?? null)),
    notes,
    phrases,
    moved: () => results.inspect(cursor.selected.value),
  })
  watch(() => docs.tuneId, cursor.clear, { flush: 'sync' })
  watch(
    () => results.result,
    r => {
      if (r) cursor.keepIn(r)
    },
    { flush: 'sync' },
  )
  return cursor
})
