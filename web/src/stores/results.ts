/**
 * What the core makes of the documents on the bench: asked for at every change, the newest question first.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { NoteId } from '#core/music/ids'
import { askPart, derivedOf, latestLane } from '../worker/client'
import type { PartDocuments } from '#core/desk/part'
import type { DerivedView, NoteReport, SourceResult } from '#core/desk/views'
import { useDocuments } from './documents'
import { useStudio } from './studio'

export const useResults = defineStore('results', () => {
  const docs = useDocuments()
  const studio = useStudio()
  const problem = ref('')
  const result = shallowRef<DerivedView | null>(null)
  const reading = shallowRef<SourceResult | null>(null)
  const report = shallowRef<NoteReport | null>(null)
  const phrases = computed(() => result.value?.parts.flatMap(p => p.phrases) ?? [])
  const notes = computed(() => result.value?.notes ?? [])
  /** The arrangement has notes of its own in the place of written ones. */
  const made = computed(() => Object.keys(result.value?.origin ?? {}).length > 0)

  /** The question every other one is built on; null while there is nothing to ask about. */
  const asked = computed<PartDocuments | null>(() =>
    docs.documents && docs.recipe
      ? { tune: docs.documents.tune, recipe: docs.recipe, context: studio.context }
      : null,
  )

  function show(r: DerivedView) {
    result.value = r
    problem.value = ''
  }
  const deriving = latestLane(derivedOf, show, e => (problem.value = e.message))

  /**
   * While typed text is taken: what it comes to was worked out with its reading, and need not be asked for
   * again.
   */
  let typing: { readonly derived: DerivedView | null } | null = null
  watch(
    asked,
    q => {
      if (typing?.derived) {
        deriving.cancel()
        show(typing.derived)
      } else if (q) deriving.ask(q)
    },
    { flush: 'sync' },
  )
  watch(() => docs.tuneId, clear, { flush: 'sync' })

  function clear() {
    deriving.cancel()
    result.value = report.value = reading.value = null
    problem.value = ''
  }

  const inspecting = latestLane(
    (q: { asked: PartDocuments; id: NoteId }) => askPart('inspect', q.asked, q.id),
    r => (report.value = r),
    e => (problem.value = e.message),
  )
  /** Asks about one note; about none, the report goes. */
  function inspect(id: NoteId | null) {
    if (asked.value && id !== null) inspecting.ask({ asked: asked.value, id })
    else report.value = null
  }

  const sourceLane = latestLane(
    (q: { text: string; part: PartDocuments; change: boolean }) => askPart('read', q.part, q.text, q.change),
    (r, q) => {
      reading.value = r
      // While the text can't be read the last good tune stays, but what was typed is kept too.
      if (!q.change || !docs.documents) return
      // What it comes to was worked out on the way, unless the arrangement changed meanwhile.
      typing = { derived: q.part.recipe === docs.recipe && r.tune ? r.derived : null }
      docs.change({ ...docs.documents, source: q.text, tune: r.tune ?? docs.documents.tune }, 'typing')
      typing = null
    },
    e => (problem.value = e.message),
  )

  /** The text as it was typed, now. */
  const typed = (text: string) => asked.value && sourceLane.ask({ text, part: asked.value, change: true })

  /**
   * How many look at the text: only for them is it read when it came otherwise than by typing, for its
   * findings and places.
   */
  const readers = ref(0)
  watch(
    [() => docs.documents?.source, () => readers.value > 0] as const,
    ([text, wanted]) => {
      if (text === undefined || text === null) reading.value = null
      else if (wanted && !typing && asked.value) sourceLane.ask({ text, part: asked.value, change: false })
    },
    { flush: 'sync' },
  )
  /** From now on the text is read; until what is given back is called. */
  function readSource(): () => void {
    readers.value++
    return () => void readers.value--
  }

  /** The text of a tune that has none yet. */
  const writeSource = async () => (await askPart('write', asked.value!)).text

  return {
    problem,
    result,
    reading,
    report,
    phrases,
    notes,
    made,
    asked,
    clear,
    inspect,
    typed,
    writeSource,
    readSource,
  }
})
