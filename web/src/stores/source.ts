/** The tune as text: read as it is typed, for its findings and places, and written where there is none. */
import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import type { PartDocuments } from '#core/desk/part'
import type { SourceResult } from '#core/desk/views'
import { askPart, latestLane, readText } from '../worker/client'
import { useDocuments } from './documents'
import { useParts } from './parts'

export const useSource = defineStore('source', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const reading = shallowRef<SourceResult | null>(null)
  let typing = false
  const lane = latestLane(
    (q: { text: string; part: PartDocuments; change: boolean }) => readText(q.part, q.text, q.change),
    (r, q) => {
      reading.value = r
      // While the text can't be read the last good tune stays, but what was typed is kept too.
      if (!q.change || !docs.documents) return
      const next = { ...docs.documents, source: q.text, tune: r.tune ?? docs.documents.tune }
      // What it comes to was worked out on the way, unless the arrangement changed meanwhile.
      const known = q.part.recipe === part.recipe && r.tune ? r.derived : null
      typing = true
      part.takeOver(known, () => docs.change(next, 'typing'))
      typing = false
    },
    e => (part.problem = e.message),
  )

  /** The text as it was typed, now. */
  function typed(text: string) {
    if (part.asked) lane.ask({ text, part: part.asked, change: true })
  }

  /**
   * How many look at the text: only for them is it read when it came otherwise than by typing, for its
   * findings and places.
   */
  const readers = ref(0)
  watch(
    [() => docs.documents?.source, () => readers.value > 0] as const,
    ([text, wanted]) => {
      if (text === undefined || text === null) reading.value = null
      else if (wanted && !typing && part.asked) lane.ask({ text, part: part.asked, change: false })
    },
    { flush: 'sync' },
  )
  watch(
    () => docs.tuneId,
    () => (reading.value = null),
    { flush: 'sync' },
  )
  /** From now on the text is read; until what is given back is called. */
  function follow(): () => void {
    readers.value++
    return () => void readers.value--
  }

  /** The text of a tune that has none yet. */
  const write = async () => (await askPart('write', part.asked!)).text

  return { reading, typed, write, follow }
})
