/** The keyboard of the bench: one table, shown by `?`. */
import type { useBench } from '../stores/bench'

type Bench = ReturnType<typeof useBench>

export interface KeyCommand {
  readonly keys: readonly string[]
  readonly shown: string
  readonly does: string
  readonly run: (bench: Bench, key: string) => void
}

function setFinger(bench: Bench, key: string) {
  const note = bench.selectedNote
  if (note) bench.pin('fingers', note.id, { finger: Number(key) as 0 })
}

function pinAsItIs(bench: Bench) {
  const note = bench.selectedNote
  if (!note) return
  const pinned = bench.recipe?.pins.fingers[note.id] !== undefined
  bench.pin('fingers', note.id, pinned ? undefined : { string: note.string, finger: note.finger })
}

/** The stroke a note belongs to begins with this event. */
export const strokeStart = (bench: Bench, event: string) =>
  bench.result?.strokes.find(s => s.notes.includes(event))?.notes[0] ?? event

function setBow(bench: Bench, direction: 'down' | 'up') {
  const note = bench.selectedNote
  if (!note) return
  const id = strokeStart(bench, note.event)
  bench.pin('strokes', id, bench.recipe?.pins.strokes[id] === direction ? undefined : direction)
}

function toggleSlur(bench: Bench) {
  const note = bench.selectedNote
  if (!note || bench.result!.events.indexOf(note.event) === 0) return
  bench.pin('joins', note.event, !bench.result!.joined.includes(note.event))
}

function unpin(bench: Bench) {
  const note = bench.selectedNote
  if (!note) return
  if (bench.recipe?.pins.fingers[note.id]) bench.pin('fingers', note.id, undefined)
  else bench.pin('strokes', strokeStart(bench, note.event), undefined)
}

export const COMMANDS: readonly KeyCommand[] = [
  { keys: ['ArrowRight'], shown: '→', does: 'next note', run: b => b.walk(1) },
  { keys: ['ArrowLeft'], shown: '←', does: 'note before', run: b => b.walk(-1) },
  { keys: [']'], shown: ']', does: 'next phrase', run: b => b.walkPhrase(1) },
  { keys: ['['], shown: '[', does: 'phrase before', run: b => b.walkPhrase(-1) },
  { keys: ['0', '1', '2', '3', '4'], shown: '0 – 4', does: 'pin the finger of the note', run: setFinger },
  { keys: ['p'], shown: 'p', does: 'pin the note as it is, or let it go', run: pinAsItIs },
  { keys: ['Delete', 'Backspace'], shown: 'Delete', does: 'take the pin off', run: unpin },
  { keys: ['d'], shown: 'd', does: 'down bow here, or let it go', run: b => setBow(b, 'down') },
  { keys: ['u'], shown: 'u', does: 'up bow here, or let it go', run: b => setBow(b, 'up') },
  { keys: ['s'], shown: 's', does: 'slur the note to the one before, or part them', run: toggleSlur },
  { keys: ['Escape'], shown: 'Esc', does: 'leave the phrase', run: b => (b.focus = null) },
]

export const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.closest('.cm-editor, .v-overlay') !== null)

/** Undo and redo while a closed choice list has the focus: there is no text in it to undo. */
export const undoesInList = (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) &&
  event.key.toLowerCase() === 'z' &&
  event.target instanceof HTMLElement &&
  event.target.closest('.v-select') !== null

/** Runs the command of a key; false when the key has none. */
export function runKey(bench: Bench, event: KeyboardEvent): boolean {
  const mod = event.ctrlKey || event.metaKey
  if (mod && event.key.toLowerCase() === 'z') {
    if (event.shiftKey) bench.redo()
    else bench.undo()
    return true
  }
  if (mod || event.altKey) return false
  const command = COMMANDS.find(c => c.keys.includes(event.key))
  command?.run(bench, event.key)
  return command !== undefined
}
