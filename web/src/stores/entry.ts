/**
 * Writing notes on the bench: by key, by button, or by tapping the fingerboard. What is seen is what is
 * written, also when the arrangement lies in another key.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { usualFinger } from '#core/instruments/usualFinger'
import { findEvent, type Edited } from '#core/music/edit/edited'
import { scaleLength, setLength, toggleTie, toggleTuplet, writtenLength } from '#core/music/edit/lengths'
import { toggleMark, toggleOptional, toggleSlur } from '#core/music/edit/marks'
import { copyEvents, paste as pasteClip, setMeasure, type Clip } from '#core/music/edit/measures'
import { insertAfter, openMeasure, removeEvents, toRests } from '#core/music/edit/notes'
import {
  keyAt,
  moveByHalfSteps,
  moveByLetters,
  moveByOctaves,
  pitchNear,
  respell,
  setPitches,
  toggleHead,
} from '#core/music/edit/pitches'
import { letterNear, spellInKey } from '#core/music/edit/spelling'
import { compare, frac, mul, type Fraction } from '#core/music/fraction'
import type { Key } from '#core/music/key'
import { diatonic, inverse, transposePitch, type Interval, type Pitch, type Step } from '#core/music/pitch'
import { type Mark, type Tune } from '#core/music/tune'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { noteId, type EventId } from '#core/music/ids'

const NONE: Interval = { letters: 0, semitones: 0 }

export const useEntry = defineStore('entry', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const writing = ref(false)
  /** Put notes in after the cursor, or change the one under it and go on. */
  const mode = ref<'add' | 'correct'>('add')
  const length = shallowRef<Fraction>(frac(1))
  const triplet = ref(false)
  /** Strings and fingers tapped or said become pins. */
  const keepPins = ref(true)
  const clip = shallowRef<Clip | null>(null)

  const tune = computed(() => docs.documents!.tune)
  /**
   * The written events that what is chosen stands for: what an arrangement made of notes is never written
   * into the tune.
   */
  const writtenOf = (id: EventId): readonly EventId[] => part.result?.origin[id] ?? [id]
  const ids = computed(() => [...new Set(part.selection.flatMap(writtenOf))])
  const caret = computed(() => (part.caret === null ? null : (writtenOf(part.caret).at(-1) ?? null)))
  /** From the tune as written to what the page shows. */
  const shift = computed<Interval>(() => (part.result ? inverse(part.result.toWritten) : NONE))
  const toWritten = (p: Pitch) => transposePitch(p, inverse(shift.value))
  const shownKey = (): Key => {
    const key = keyAt(tune.value, caret.value)
    const { step, alter } = transposePitch({ step: key.step, alter: key.alter, octave: 4 }, shift.value)
    return { ...key, step, alter }
  }

  const apply = (edited: Edited, group: string | null = null) => part.changeTune(edited, group)
  /** Where writing goes on: after the cursor, or at the very end of the tune. */
  const after = () => caret.value ?? tune.value.measures.flatMap(m => m.events).at(-1)?.id ?? null

  function put(pitches: readonly Pitch[], place?: { string: number; finger: 0 | 1 | 2 | 3 | 4 | 'T' }) {
    const written = pitches.map(toWritten)
    let edited: Edited
    if (mode.value === 'correct' && caret.value && written.length > 0)
      edited = setPitches(tune.value, caret.value, written)
    else if (mode.value === 'correct' && caret.value) edited = toRests(tune.value, [caret.value])
    else {
      const tuplet = triplet.value ? { tuplet: { actual: 3, normal: 2 } } : {}
      edited = insertAfter(tune.value, after(), { pitches: written, length: length.value, ...tuplet })
    }
    const changed = edited.chosen
    const pins = place && keepPins.value && changed ? pinsFor(edited.tune, changed, place) : {}
    const next = mode.value === 'correct' && changed ? nextOf(edited.tune, changed) : changed
    part.changeTune({ ...edited, chosen: next }, null, pins)
  }

  /** Every event the tap made (a note may be cut at the barline) gets the pin. */
  function pinsFor(t: Tune, last: string, place: { string: number; finger: 0 | 1 | 2 | 3 | 4 | 'T' }) {
    const before = new Set(tune.value.measures.flatMap(m => m.events.map(e => e.id)))
    const made = t.measures.flatMap(m => m.events.map(e => e.id)).filter(id => id === last || !before.has(id))
    return Object.fromEntries(made.map(id => [noteId(id, 0), place]))
  }

  function nextOf(t: Tune, id: string) {
    const all = t.measures.flatMap(m => m.events)
    return all[all.findIndex(e => e.id === id) + 1]?.id ?? id
  }

  function letter(step: Step, together: boolean) {
    const key = shownKey()
    const near = transposePitch(pitchNear(tune.value, after()), shift.value)
    const p = letterNear(step, near, key)
    if (!together || !caret.value) return put([p])
    // A second note belongs above the one that is there.
    const above = diatonic(p) > diatonic(near) ? p : { ...p, octave: p.octave + 1 }
    apply(toggleHead(tune.value, caret.value, toWritten(above)))
  }

  /** A tap on the fingerboard: string (0 the highest) and semitones above it. */
  function tap(string: number, offset: number, together = false) {
    const { instrument, tuning, schools } = part.recipe!.played
    const sounding = (tuning ?? homeTuning(instrument))[string]! + offset
    const p = spellInKey(sounding + INSTRUMENTS[instrument].writtenAbove, shownKey())
    if (together && caret.value) return apply(toggleHead(tune.value, caret.value, toWritten(p)))
    const finger = usualFinger(instrument, offset, { bassHand: schools.bassHand })
    put([p], finger === null ? undefined : { string, finger })
  }

  const rest = () => put([])

  /** A new length for what comes; in correcting, for the notes chosen too. */
  function take(next: Fraction) {
    length.value = next
    if (mode.value === 'correct' && ids.value.length > 0) apply(setLength(tune.value, ids.value, next))
  }
  const eighths = (n: number) => take(frac(n, 2))
  function scale(how: 'half' | 'double' | 'dot') {
    const factor =
      how === 'half'
        ? frac(1, 2)
        : how === 'double'
          ? frac(2)
          : length.value.n % 3 === 0
            ? frac(2, 3)
            : frac(3, 2)
    const next = mul(length.value, factor)
    if (compare(next, frac(1, 16)) >= 0 && compare(next, frac(8)) <= 0) length.value = next
    if (mode.value === 'correct' && ids.value.length > 0) apply(scaleLength(tune.value, ids.value, how))
  }

  /** The length of the note at the cursor becomes the one that is written with. */
  function likeTheChosen() {
    const found = findEvent(tune.value, caret.value)
    if (found) length.value = writtenLength(found.event)
  }

  const onChosen =
    (edit: (t: Tune, ids: readonly string[]) => Edited, group: string | null = null) =>
    () => {
      if (ids.value.length > 0) apply(edit(tune.value, ids.value), group)
    }
  const remove = onChosen(removeEvents)
  const makeRests = onChosen(toRests)
  const letters = (by: number) => onChosen((t, list) => moveByLetters(t, list, by))()
  const halfSteps = (by: number) => onChosen((t, list) => moveByHalfSteps(t, list, by))()
  const octaves = (by: number) => onChosen((t, list) => moveByOctaves(t, list, by))()
  const otherName = onChosen(respell)
  const mark = (m: Mark) => onChosen((t, list) => toggleMark(t, list, m))()
  const optional = onChosen(toggleOptional)
  /** To the next note; where that can't be, from the one before. */
  function tie() {
    if (!caret.value) return
    const onward = toggleTie(tune.value, caret.value)
    const all = tune.value.measures.flatMap(m => m.events)
    const before = all[all.findIndex(e => e.id === caret.value) - 1]
    if (onward.tune !== tune.value || !before) apply(onward)
    else apply({ ...toggleTie(tune.value, before.id), chosen: caret.value })
  }
  /** Over the stretch chosen; from the note before when only one is. */
  function slur() {
    if (!caret.value) return
    const all = tune.value.measures.flatMap(m => m.events)
    const before = all[all.findIndex(e => e.id === caret.value) - 1]?.id
    const from = ids.value.length > 1 ? ids.value[0]! : before
    const to = ids.value.length > 1 ? ids.value.at(-1)! : caret.value
    if (from) apply(toggleSlur(tune.value, from, to))
  }
  /**
   * Of the notes chosen a tuplet or plain notes; with none or one chosen, the next notes written are
   * triplets.
   */
  function tuplet() {
    if (ids.value.length > 1) apply(toggleTuplet(tune.value, ids.value))
    else triplet.value = !triplet.value
  }
  const closeBar = () => {
    const at = after()
    if (at) apply(openMeasure(tune.value, at))
  }
  function repeatHere() {
    const found = findEvent(tune.value, after())
    if (found)
      apply({
        ...setMeasure(tune.value, found.at, { repeatEnd: found.measure.repeatEnd ? undefined : true }),
        chosen: caret.value,
      })
  }

  const copy = () => ids.value.length > 0 && (clip.value = copyEvents(tune.value, ids.value))
  function cut() {
    copy()
    remove()
  }
  const paste = () => clip.value && apply(pasteClip(tune.value, after(), clip.value))
  /** All of the focused phrase. */
  function choosePhrase() {
    const phrase =
      part.phrases.find(p => p.id === part.focus) ??
      part.phrases.find(p => p.events.includes(caret.value ?? ''))
    if (!phrase) return
    part.selectEvent(phrase.events[0]!)
    part.selectEvent(phrase.events.at(-1)!, true)
  }
  function chooseAll() {
    const all = tune.value.measures.flatMap(m => m.events)
    if (all.length === 0) return
    part.selectEvent(all[0]!.id)
    part.selectEvent(all.at(-1)!.id, true)
  }
  /** All of the measure at the cursor. */
  function chooseMeasure() {
    const found = findEvent(tune.value, caret.value)
    if (!found) return
    part.selectEvent(found.measure.events[0]!.id)
    part.selectEvent(found.measure.events.at(-1)!.id, true)
  }

  return {
    writing,
    mode,
    length,
    triplet,
    keepPins,
    clip,
    shift,
    apply,
    letter,
    tap,
    rest,
    take,
    eighths,
    scale,
    likeTheChosen,
    remove,
    makeRests,
    letters,
    halfSteps,
    octaves,
    otherName,
    mark,
    optional,
    tie,
    slur,
    tuplet,
    closeBar,
    repeatHere,
    copy,
    cut,
    paste,
    chooseAll,
    choosePhrase,
    chooseMeasure,
  }
})
