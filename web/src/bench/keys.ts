/** The keyboard of the bench: one table, shown by `?`. */
import { STEPS, type Step } from '#core/music/pitch'
import { bowEdited, strokePinned } from '#core/arrangement/edits'
import type { useDocuments } from '../stores/documents'
import type { OpenPart } from '../stores/openPart'
import type { useEntry } from '../stores/entry'
import type { usePlayer } from '../stores/player'

/** What the keys are pressed for: the tune's documents and the part in use. */
export interface Bench {
  readonly docs: ReturnType<typeof useDocuments>
  readonly part: OpenPart
}
type Entry = ReturnType<typeof useEntry>
type Player = ReturnType<typeof usePlayer>

export interface KeyCommand {
  readonly keys: readonly string[]
  readonly shown: string
  readonly does: string
  readonly run: (bench: Bench, key: string) => void
}

function setFinger(bench: Bench, key: string) {
  const note = bench.part.selectedNote
  if (note) bench.part.pin('fingers', note.id, { finger: Number(key) as 0 })
}

/** The same place with the next finger up, which stands low for it, or the one before, which stands high. */
function setNeighbour(bench: Bench, key: string) {
  const note = bench.part.selectedNote
  if (!note || typeof note.finger !== 'number' || note.finger === 0) return
  const finger = note.finger + (key === '<' ? 1 : -1)
  if (finger >= 1 && finger <= 4)
    bench.part.pin('fingers', note.id, { string: note.string, finger: finger as 1 })
}

function pinAsItIs(bench: Bench) {
  const note = bench.part.selectedNote
  if (!note) return
  const pinned = bench.part.recipe?.played.pins.fingers[note.id] !== undefined
  bench.part.pin('fingers', note.id, pinned ? undefined : { string: note.string, finger: note.finger })
}

/** The stroke a note belongs to begins with this event. */
export const strokeStart = (part: Pick<OpenPart, 'result'>, event: string) =>
  part.result?.strokes.find(s => s.notes.includes(event))?.notes[0] ?? event

function setBow(bench: Bench, direction: 'down' | 'up') {
  const note = bench.part.selectedNote
  if (!note) return
  const id = strokeStart(bench.part, note.event)
  const pinned = bench.part.recipe?.played.pins.strokes[id]?.direction === direction
  bench.part.edit(r => strokePinned(r, id, { direction: pinned ? undefined : direction }))
}

function setWay(bench: Bench, way: 'hook' | 'lift') {
  const event = bench.part.selectedNote?.event
  if (!event || bench.part.result!.events.indexOf(event) === 0) return
  const pinned = bench.part.recipe?.played.pins.strokes[event]?.way === way
  bench.part.edit(r =>
    pinned ? strokePinned(r, event, { way: undefined }) : bowEdited(r, [{ note: event, way }]),
  )
}

function toggleSlur(bench: Bench) {
  const note = bench.part.selectedNote
  if (!note || bench.part.result!.events.indexOf(note.event) === 0) return
  bench.part.pin('joins', note.event, !bench.part.result!.joined.includes(note.event))
}

function unpin(bench: Bench) {
  const note = bench.part.selectedNote
  if (!note) return
  if (bench.part.recipe?.played.pins.fingers[note.id]) bench.part.pin('fingers', note.id, undefined)
  else bench.part.pin('strokes', strokeStart(bench.part, note.event), undefined)
}

export const COMMANDS: readonly KeyCommand[] = [
  { keys: ['ArrowRight'], shown: '→', does: 'next note', run: b => b.part.walk(1) },
  { keys: ['ArrowLeft'], shown: '←', does: 'note before', run: b => b.part.walk(-1) },
  { keys: [']'], shown: ']', does: 'next phrase', run: b => b.part.walkPhrase(1) },
  { keys: ['['], shown: '[', does: 'phrase before', run: b => b.part.walkPhrase(-1) },
  { keys: ['0', '1', '2', '3', '4'], shown: '0 – 4', does: 'pin the finger of the note', run: setFinger },
  {
    keys: ['<', '>'],
    shown: '< >',
    does: 'the same place with a finger drawn back to it, or stretched up',
    run: setNeighbour,
  },
  { keys: ['p'], shown: 'p', does: 'pin the note as it is, or let it go', run: pinAsItIs },
  { keys: ['Delete', 'Backspace'], shown: 'Delete', does: 'take the pin off', run: unpin },
  { keys: ['d'], shown: 'd', does: 'down bow here, or let it go', run: b => setBow(b, 'down') },
  { keys: ['u'], shown: 'u', does: 'up bow here, or let it go', run: b => setBow(b, 'up') },
  { keys: ['s'], shown: 's', does: 'slur the note to the one before, or part them', run: toggleSlur },
  {
    keys: ['h'],
    shown: 'h',
    does: 'hooked bow, or let it go',
    run: b => setWay(b, 'hook'),
  },
  {
    keys: ['l'],
    shown: 'l',
    does: 'lift the bow before the note, or let it go',
    run: b => setWay(b, 'lift'),
  },
  { keys: ['Escape'], shown: 'Esc', does: 'leave the phrase', run: b => (b.part.focus = null) },
]

/**
 * Keys of the Tune station while notes are written; they come before the bench's own. `shift` is held with
 * the key where it says so.
 */
export interface WriteCommand {
  readonly keys: readonly string[]
  readonly shown: string
  readonly does: string
  readonly run: (entry: Entry, key: string, shift: boolean) => void
}

export const WRITE_COMMANDS: readonly WriteCommand[] = [
  {
    keys: ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'A', 'B', 'C', 'D', 'E', 'F', 'G'],
    shown: 'a – g',
    does: 'a note; with Shift: together with the one there',
    run: (e, key, shift) => e.letter(STEPS.find(s => s === key.toUpperCase()) as Step, shift),
  },
  {
    keys: ['1', '2', '3', '4', '6', '8'],
    shown: '1 2 3 4 6 8',
    does: 'length: so many eighths (2 is a quarter)',
    run: (e, key) => e.eighths(Number(key)),
  },
  { keys: ['/'], shown: '/', does: 'half as long', run: e => e.scale('half') },
  { keys: ['*'], shown: '*', does: 'twice as long', run: e => e.scale('double') },
  { keys: ['.'], shown: '.', does: 'with a dot, or without', run: e => e.scale('dot') },
  { keys: ['z'], shown: 'z', does: 'a rest', run: e => e.rest() },
  {
    keys: ['y'],
    shown: 'y',
    does: 'triplets: of the chosen notes, or of the next ones',
    run: e => e.tuplet(),
  },
  { keys: ['t'], shown: 't', does: 'tie to the next note, or to the one before', run: e => e.tie() },
  { keys: ['s'], shown: 's', does: 'slur over the chosen notes', run: e => e.slur() },
  { keys: ['+'], shown: '+', does: 'a half step up', run: e => e.halfSteps(1) },
  { keys: ['-'], shown: '-', does: 'a half step down', run: e => e.halfSteps(-1) },
  {
    keys: ['ArrowUp'],
    shown: '↑',
    does: 'a step up; with Shift an octave',
    run: (e, _k, shift) => (shift ? e.octaves(1) : e.letters(1)),
  },
  {
    keys: ['ArrowDown'],
    shown: '↓',
    does: 'a step down; with Shift an octave',
    run: (e, _k, shift) => (shift ? e.octaves(-1) : e.letters(-1)),
  },
  { keys: ['r'], shown: 'r', does: 'the other name of the note (G♯, A♭)', run: e => e.otherName() },
  { keys: ['o'], shown: 'o', does: 'the note may be left out', run: e => e.optional() },
  { keys: ['|'], shown: '|', does: 'close the bar here, full or not', run: e => e.closeBar() },
  { keys: [':'], shown: ':', does: 'repeat up to this bar', run: e => e.repeatHere() },
  { keys: ['m'], shown: 'm', does: 'choose the whole bar', run: e => e.chooseMeasure() },
  { keys: ['h'], shown: 'h', does: 'choose the whole phrase', run: e => e.choosePhrase() },
  { keys: ['Delete', 'Backspace'], shown: 'Delete', does: 'take the chosen notes out', run: e => e.remove() },
  { keys: ['Escape'], shown: 'Esc', does: 'stop writing', run: e => (e.writing = false) },
]

/** Runs a key while notes are written; false when it means nothing there. */
export function runWriteKey(bench: Bench, entry: Entry, event: KeyboardEvent): boolean {
  const mod = event.ctrlKey || event.metaKey
  const edit = { a: entry.chooseAll, c: entry.copy, x: entry.cut, v: entry.paste }[event.key.toLowerCase()]
  if (mod && edit && !event.shiftKey) edit()
  else if (mod || event.altKey) return false
  else if (event.key === 'ArrowRight' || event.key === 'ArrowLeft')
    bench.part.walkEvents(event.key === 'ArrowRight' ? 1 : -1, event.shiftKey)
  else {
    const command = WRITE_COMMANDS.find(c => c.keys.includes(event.key))
    if (!command) return false
    command.run(entry, event.key, event.shiftKey)
  }
  return true
}

/** Space plays and stops, everywhere on the bench. */
export function runPlayKey(player: Player, event: KeyboardEvent): boolean {
  if (event.key !== ' ' || event.ctrlKey || event.metaKey || event.altKey) return false
  if (
    event.target instanceof HTMLElement &&
    event.target.closest('button, a, input, [role="button"], [role="tab"]')
  )
    return false
  player.toggle()
  return true
}

/** Undo and redo while a closed choice list has the focus: there is no text in it to undo. */
export const undoesInList = (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) &&
  /^[zy]$/i.test(event.key) &&
  event.target instanceof HTMLElement &&
  event.target.closest('.v-select') !== null

/** Runs the command of a key; false when the key has none. */
export function runKey(bench: Bench, event: KeyboardEvent): boolean {
  const mod = event.ctrlKey || event.metaKey
  const key = event.key.toLowerCase()
  if (mod && key === 'z' && !event.shiftKey) return (bench.docs.undo(), true)
  if (mod && (key === 'y' || key === 'z')) return (bench.docs.redo(), true)
  // Arrows go through the choices of a group first.
  const inGroup = event.target instanceof HTMLInputElement && event.target.type === 'radio'
  if (mod || event.altKey || (inGroup && event.key.startsWith('Arrow'))) return false
  const command = COMMANDS.find(c => c.keys.includes(event.key))
  command?.run(bench, event.key)
  return command !== undefined
}
