/**
 * What is chosen on the bench: a note, the event the cursor stands on, a stretch, a phrase; and walking from
 * one to the next.
 */
import { computed, ref, type Ref } from 'vue'
import type { Finding } from '#core/findings/finding'
import { eventsOf, idsBetween } from '#core/music/edit/edited'
import { eventOf, type EventId, type NoteId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import type { DerivedView, NoteView, PhraseView } from '#core/desk/views'

export interface UseCursorOptions {
  readonly tune: () => Tune | null
  readonly notes: Ref<readonly NoteView[]>
  readonly phrases: Ref<readonly PhraseView[]>
  /** Called when another note is chosen. */
  readonly moved: () => void
}

/**
 * So many places on in a list, and no further than its ends; from nowhere, to the first (or, backwards, the
 * last).
 */
function stepped<T>(list: readonly T[], at: number, by: number): T | undefined {
  return list[at < 0 ? (by > 0 ? 0 : list.length - 1) : Math.max(0, Math.min(list.length - 1, at + by))]
}

export function useCursor({ tune, notes, phrases, moved }: UseCursorOptions) {
  const selected = ref<NoteId | null>(null)
  /** The event the cursor stands on: the chosen note's, or a rest. Writing goes on after it. */
  const caret = ref<EventId | null>(null)
  /** The other end of a chosen stretch. */
  const anchor = ref<EventId | null>(null)
  /** The phrase in view, by its first event. */
  const focus = ref<EventId | null>(null)

  const selectedNote = computed(() => notes.value.find(n => n.id === selected.value) ?? null)
  /** Events from the anchor to the cursor, in order; the one at the cursor when nothing more is chosen. */
  const selection = computed(() => {
    const now = tune()
    return now && caret.value !== null ? idsBetween(now, anchor.value ?? caret.value, caret.value) : []
  })

  const noteOf = (event: EventId | null) => notes.value.find(n => n.event === event)?.id ?? null

  function clear() {
    selected.value = focus.value = caret.value = anchor.value = null
  }

  /** Puts the cursor on an event without asking about its note. */
  function put(event: EventId | null) {
    caret.value = event
    anchor.value = null
    selected.value = noteOf(event)
  }

  /** After the tune changed: what is gone is no longer chosen. */
  function keepIn(r: DerivedView) {
    if (!r.events.includes(caret.value ?? '')) caret.value = anchor.value = null
    if (!r.notes.some(n => n.id === selected.value)) selected.value = noteOf(caret.value)
    moved()
  }

  function select(id: NoteId | null) {
    selected.value = id
    caret.value = notes.value.find(n => n.id === id)?.event ?? null
    anchor.value = null
    moved()
  }

  /** Puts the cursor on an event, a rest too; `extend` keeps the other end of the stretch where it is. */
  function selectEvent(event: EventId | null, extend = false) {
    anchor.value = extend ? (anchor.value ?? caret.value) : null
    caret.value = event
    selected.value = noteOf(event)
    moved()
  }

  /** Walks from event to event, rests included. */
  function walkEvents(by: number, extend: boolean) {
    const now = tune()
    const all = now ? eventsOf(now) : []
    const next = stepped(
      all,
      all.findIndex(e => e.id === caret.value),
      by,
    )
    if (next) selectEvent(next.id, extend)
  }

  /** Walks to the next or previous note. */
  function walk(by: number) {
    const list = notes.value.filter(n => !n.tied)
    const next = stepped(
      list,
      list.findIndex(n => n.id === selected.value),
      by,
    )
    if (next) select(next.id)
  }

  function walkPhrase(by: number) {
    const list = phrases.value
    const next =
      focus.value === null
        ? list[0]
        : stepped(
            list,
            list.findIndex(p => p.id === focus.value),
            by,
          )
    if (!next) return
    focus.value = next.id
    const first = notes.value.find(n => next.events.includes(n.event))
    if (first) select(first.id)
  }

  /** To the note a finding is about, or its event where it has no note. */
  function goTo(f: Finding) {
    const note = notes.value.find(n => n.event === f.where.note || n.id === f.where.note)
    if (note) select(note.id)
    else if (f.where.note !== undefined) selectEvent(eventOf(f.where.note))
  }

  return {
    selected,
    caret,
    anchor,
    focus,
    selectedNote,
    selection,
    clear,
    put,
    keepIn,
    select,
    selectEvent,
    walkEvents,
    walk,
    walkPhrase,
    goTo,
  }
}
