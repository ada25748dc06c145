/**
 * One arrangement of the open tune as a page holds it: its recipe, what it comes to, what is chosen in it,
 * and every edit of it. Several may be open beside each other.
 */
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { mended, pinned, withPlayed, withShown, withTaught } from '#core/arrangement/edits'
import type { Arrangement, Pins, Played, Shown, Taught } from '#core/arrangement/recipe'
import { taughtAsPlayed, taughtAsWritten } from '#core/arrangement/taughtPlayed'
import type { PartDocuments } from '#core/desk/part'
import type { DerivedView, NoteReport } from '#core/desk/views'
import type { Mend } from '#core/findings/finding'
import type { FingerPins } from '#core/fingering/fingerPin'
import type { Edited } from '#core/music/edit/edited'
import { moveByOctaves } from '#core/music/edit/pitches'
import type { NoteId } from '#core/music/ids'
import { askPart, derivedOf, latestLane } from '../worker/client'
import { useCursor } from './cursor'
import { useDocuments } from './documents'
import { useStudio } from './studio'

/** The longest name of an arrangement that its field takes. */
const LONGEST_NAME = 120

/** @param idOf the arrangement it is; it may become another one */
export function openPart(idOf: () => string) {
  const docs = useDocuments()
  const id = computed(idOf)
  const recipe = computed(() => docs.arrangements.find(a => a.id === id.value)?.arrangement ?? null)
  const derived = useDerived(recipe)
  const { result, asked, problem } = derived
  const phrases = computed(() => result.value?.parts.flatMap(p => p.phrases) ?? [])
  const notes = computed(() => result.value?.notes ?? [])
  /** It has notes of its own in the place of written ones. */
  const made = computed(() => Object.keys(result.value?.origin ?? {}).length > 0)

  const report = shallowRef<NoteReport | null>(null)
  const inspecting = latestLane(
    (q: { asked: PartDocuments; note: NoteId }) => askPart('inspect', q.asked, q.note),
    r => (report.value = r),
    e => (problem.value = e.message),
  )
  /** Asks about one note; about none, the report goes. */
  function inspect(note: NoteId | null) {
    if (asked.value && note !== null) inspecting.ask({ asked: asked.value, note })
    else report.value = null
  }

  const {
    clear,
    keepIn,
    put,
    anchor: _,
    ...cursor
  } = useCursor({
    // Where the arrangement made notes of its own, what is played is walked through; else what is written,
    // which is there at once.
    tune: () => (made.value ? result.value!.tune : (docs.documents?.tune ?? null)),
    notes,
    phrases,
    moved: () => inspect(cursor.selected.value),
  })
  watch(result, r => r && keepIn(r), { flush: 'sync' })
  watch(
    () => docs.tuneId,
    () => {
      derived.clear()
      clear()
      report.value = null
    },
    { flush: 'sync' },
  )

  /** An edit, as a function of what it is; giving the very same back changes nothing. */
  const edit = (how: (r: Arrangement) => Arrangement, group: string | null = null) =>
    docs.editArrangement(id.value, how, group)
  /** What is taught, said of the notes that are played; edits of it are kept for those that are written. */
  const stands = computed(() => result.value?.stands ?? {})
  const taught = computed(() => recipe.value && taughtAsPlayed(recipe.value.taught, stands.value))
  const edits = {
    edit,
    editPlayed: (changes: Partial<Played>, group: string | null = null) =>
      edit(r => withPlayed(r, changes), group),
    editShown: (changes: Partial<Shown>) => edit(r => withShown(r, changes)),
    editTaught: (changes: Partial<Taught>, group: string | null = null) =>
      edit(r => withTaught(r, taughtAsWritten(changes, stands.value)), group),
    rename: (name: string) => edit(r => ({ ...r, name: name.slice(0, LONGEST_NAME) }), 'naming'),
    /** Sets or (with undefined) takes away one entry of one kind of pin. */
    pin: <K extends keyof Pins>(kind: K, note: string, value: Pins[K][string] | undefined) =>
      edit(r => pinned(r, kind, note, value)),
  }

  /** Takes an edit of the written tune, and goes to what it says is to be chosen next. */
  function changeTune(edited: Edited, group: string | null = null, pins: FingerPins = {}) {
    if (!docs.documents || edited.tune === docs.documents.tune) return
    if (edited.chosen !== null) put(edited.chosen)
    docs.changeTune(edited.tune, group, { arrangement: id.value, pins })
  }
  function mend(m: Mend) {
    if (!docs.documents) return
    if (m.kind === 'moveNote') changeTune(moveByOctaves(docs.documents.tune, [m.note], m.octaves))
    else edit(r => mended(r, m))
  }

  return reactive({
    id,
    recipe,
    asked,
    result,
    problem,
    takeOver: derived.takeOver,
    phrases,
    notes,
    report,
    stands,
    taught,
    ...cursor,
    ...edits,
    changeTune,
    mend,
  })
}

export type OpenPart = ReturnType<typeof openPart>

/** What a recipe comes to: asked for at every change, the newest question first. */
function useDerived(recipe: { readonly value: Arrangement | null }) {
  const docs = useDocuments()
  const studio = useStudio()
  const result = shallowRef<DerivedView | null>(null)
  const problem = ref('')
  /** The question every other one is built on; null while there is nothing to ask about. */
  const asked = computed<PartDocuments | null>(() =>
    docs.documents && recipe.value
      ? { tune: docs.documents.tune, recipe: recipe.value, context: studio.context }
      : null,
  )
  function show(r: DerivedView) {
    result.value = r
    problem.value = ''
  }
  const lane = latestLane(derivedOf, show, e => (problem.value = e.message))
  /** What the change under way comes to is known already. */
  let known: DerivedView | null = null
  watch(
    asked,
    q => {
      if (known) {
        lane.cancel()
        show(known)
      } else if (q) lane.ask(q)
    },
    { flush: 'sync', immediate: true },
  )
  /** Makes a change whose result was worked out with it and need not be asked for again. */
  function takeOver(view: DerivedView | null, change: () => void) {
    known = view
    change()
    known = null
  }
  function clear() {
    lane.cancel()
    result.value = null
    problem.value = ''
  }
  return { result, problem, asked, takeOver, clear }
}
