/**
 * Standard MIDI files to tunes. The standard parser gives notes in ticks; here they become music: moved to a grid (straight or triplet, decided beat
 * by beat), barred, tied, spelled in a key. Everything assumed on the way is told.
 */
import * as toneMidi from '@tonejs/midi'
import { finding, type Finding, type FindingCode, type ValuesOf } from '#core/findings/finding'
import { checkTune } from '#core/findings/checkTune'
import {
  add,
  compare,
  formatFraction,
  frac,
  max,
  sub,
  toNumber,
  ZERO,
  type Fraction,
} from '#core/music/fraction'
import { spellInKey } from '#core/music/edit/spelling'
import { keyName, keyOfSignature, type Key } from '#core/music/key'
import { findKey } from '#core/music/keyFinding'
import { measureLength, METRE_UNITS, type Metre } from '#core/music/metre'
import type { Midi } from '#core/music/pitch'
import { emptyTune, type Clef, type Measure, type Tune, type TuneEvent } from '#core/music/tune'

// The package is a script of the older kind: its names stand in the default export when it is loaded as a module.
const { Midi: MidiFile } = ((toneMidi as { default?: unknown }).default ?? toneMidi) as typeof toneMidi

export const MAX_MIDI_BYTES = 4_000_000
export const MAX_MIDI_NOTES = 20_000
const MAX_QUARTERS = 40_000
const MAX_MEASURES = 10_000

export interface MidiTrack {
  readonly name: string
  readonly notes: number
}
export interface ReadMidi {
  readonly tune: Tune
  readonly findings: readonly Finding[]
  readonly tracks: readonly MidiTrack[]
  readonly taken: number
}
export type MidiResult = ReadMidi | { readonly finding: Finding }
const refuse = <C extends FindingCode>(code: C, ...values: ValuesOf<C>) => ({
  finding: finding(code, 'error', {}, ...values),
})

/** Reads one track, the one with most notes unless another is chosen. Never throws on bad input. */
export function readMidi(bytes: Uint8Array, track?: number): MidiResult {
  if (bytes.length > MAX_MIDI_BYTES) return refuse('file.tooLong', { limit: MAX_MIDI_BYTES })
  const fault = headFault(bytes)
  if (fault) return fault
  let file: InstanceType<typeof MidiFile>
  try {
    file = new MidiFile(bytes)
  } catch (e) {
    return refuse('midi.broken', { message: (e instanceof Error ? e.message : String(e)).slice(0, 120) })
  }
  const tracks = file.tracks.map((t, i) => ({ name: t.name.trim().slice(0, 80) || `track ${i + 1}`, notes: t.notes.length }))
  const taken = track ?? tracks.reduce((best, t, i) => (t.notes > (tracks[best]?.notes ?? 0) ? i : best), 0)
  const chosen = file.tracks[taken]
  if (!chosen || chosen.notes.length === 0) return refuse('file.noNotes')
  if (chosen.notes.length > MAX_MIDI_NOTES) return refuse('midi.tooMany', { count: chosen.notes.length, limit: MAX_MIDI_NOTES })
  const { ppq } = file.header
  const raw = chosen.notes.map(n => ({ start: n.ticks / ppq, end: (n.ticks + n.durationTicks) / ppq, midi: n.midi }))
  if (!raw.every(n => Number.isFinite(n.start) && Number.isFinite(n.end) && n.end < MAX_QUARTERS && n.midi >= 12 && n.midi <= 127))
    return refuse('midi.broken', { message: 'a note lies outside any music' })
  const findings: Finding[] = []
  if (tracks.filter(t => t.notes > 0).length > 1) {
    const others = tracks.flatMap((t, i) => (i !== taken && t.notes > 0 ? [t.name] : []))
    findings.push(finding('file.others', 'note', {}, { taken: tracks[taken]!.name, others: others.slice(0, 8).join(', ') }))
  }
  const metre = metreOf(file, findings)
  const key = keyOf(file, raw, findings)
  const { slots, quantised, cut } = quantise(raw)
  if (quantised) findings.push(quantised)
  if (cut > 0) findings.push(finding('midi.cut', 'note', {}, { count: cut }))
  const music = barred(slots, measureLength(metre), key)
  if (music.measures.length > MAX_MEASURES) {
    findings.push(finding('file.tooManyMeasures', 'warning', {}, { limit: MAX_MEASURES }))
    music.measures.length = MAX_MEASURES
  }
  const bpm = file.header.tempos[0]?.bpm
  const tune: Tune = {
    ...emptyTune((file.header.name || tracks[taken]!.name).slice(0, 400)),
    key, metre, clef: clefFor(raw.map(n => n.midi)),
    ...(bpm && bpm >= 1 && bpm <= 999 && { tempo: { beat: frac(1), perMinute: Math.round(bpm * 100) / 100 } }),
    ...music,
  }
  return { tune, findings: [...findings, ...checkTune(tune)], tracks, taken }
} // prettier-ignore

/** What the parser would stumble over: the header, and time in frames. */
function headFault(bytes: Uint8Array) {
  const word = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (word(0) !== 'MThd' || bytes.length < 22)
    return refuse('midi.broken', { message: 'its header is missing' })
  const division = (bytes[12]! << 8) | bytes[13]!
  if (division & 0x8000) return refuse('midi.time')
  return division === 0 ? refuse('midi.broken', { message: 'it has no time unit' }) : null
}

function metreOf(file: InstanceType<typeof MidiFile>, findings: Finding[]): Metre {
  const [beats, given] = file.header.timeSignatures[0]?.timeSignature ?? []
  const unit = METRE_UNITS.find(u => u === given)
  if (unit && Number.isInteger(beats) && beats! >= 1 && beats! <= 64) return { beats: beats!, unit }
  findings.push(finding('midi.assumedMetre', 'note', {}))
  return { beats: 4, unit: 4 }
}

const NAMES = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#']

function keyOf(file: InstanceType<typeof MidiFile>, raw: readonly Raw[], findings: Finding[]): Key {
  const given = file.header.keySignatures[0]
  const fifths = NAMES.indexOf(given?.key ?? '') - 7
  if (given && fifths >= -7) return keyOfSignature(fifths, given.scale === 'minor' ? 'minor' : 'major')
  const key = findKey(raw.map(n => ({ sounding: n.midi, length: n.end - n.start })))!
  findings.push(finding('midi.assumedKey', 'note', {}, { key: keyName(key) }))
  return key
}

/** The clef in which the middle of the notes lies best. */
function clefFor(notes: readonly Midi[]): Clef {
  const middle = [...notes].sort((a, b) => a - b)[Math.floor(notes.length / 2)]!
  return middle >= 60 ? 'treble' : middle >= 54 ? 'alto' : 'bass'
}

interface Raw {
  readonly start: number
  readonly end: number
  readonly midi: Midi
}

/** Notes that begin together, on the grid. */
interface Slot {
  readonly start: Fraction
  readonly end: Fraction
  readonly notes: readonly Midi[]
}

/** Further than this from its place on the grid (in quarters) a moved note is worth telling. */
const TELL = 0.02
/** A silence shorter than this before the next note is the player's articulation, not a rest. */
const ARTICULATION = 0.3

/**
 * Every quarter gets the grid its onsets lie closer to: sixteenths, or triplet eighths when those are clearly nearer. A note lasts to the next one
 * unless the silence between is a real one.
 */
function quantise(raw: readonly Raw[]): { slots: Slot[]; quantised: Finding | null; cut: number } {
  const sorted = [...raw].sort((a, b) => a.start - b.start || a.midi - b.midi)
  const grids = gridPerBeat(sorted)
  const place = (t: number): Fraction => {
    const beat = Math.floor(t + 1e-6)
    const parts = grids.get(beat) ?? 4
    return add(frac(beat), frac(Math.round((t - beat) * parts), parts))
  }
  let furthest = 0
  const groups = new Map<string, { start: Fraction; end: number; notes: Midi[] }>()
  for (const n of sorted) {
    const start = place(n.start)
    furthest = Math.max(furthest, Math.abs(toNumber(start) - n.start))
    const key = formatFraction(start)
    const g = groups.get(key) ?? { start, end: 0, notes: [] }
    if (!g.notes.includes(n.midi)) g.notes.push(n.midi)
    groups.set(key, { ...g, end: Math.max(g.end, n.end) })
  }
  const list = [...groups.values()].sort((a, b) => compare(a.start, b.start))
  let cut = 0
  const slots = list.map((g, i): Slot => {
    const next = list[i + 1]?.start
    let end = max(place(g.end), add(g.start, frac(1, grids.get(Math.floor(toNumber(g.start))) ?? 4)))
    if (next && compare(end, next) > 0) {
      if (g.end - toNumber(next) > ARTICULATION) cut++
      end = next
    }
    if (next && toNumber(next) - g.end < Math.min(ARTICULATION, (toNumber(next) - toNumber(g.start)) * 0.6)) end = next
    return { start: g.start, end, notes: g.notes.sort((a, b) => a - b) }
  })
  const triplets = [...grids.values()].some(p => p === 3)
  const values = { grid: triplets ? 'sixteenth or triplet' : 'sixteenth', furthest: `${Math.round(furthest * 100)} %` }
  return { slots, quantised: furthest > TELL ? finding('midi.quantised', 'note', {}, values) : null, cut }
} // prettier-ignore

function gridPerBeat(sorted: readonly Raw[]): Map<number, number> {
  const onsets = new Map<number, number[]>()
  for (const n of sorted) {
    const beat = Math.floor(n.start + 1e-6)
    onsets.set(beat, [...(onsets.get(beat) ?? []), n.start - beat])
  }
  const error = (list: readonly number[], parts: number) =>
    list.reduce((t, x) => t + Math.abs(x - Math.round(x * parts) / parts), 0)
  return new Map(
    [...onsets].map(([beat, list]) => [beat, error(list, 3) + 0.02 * list.length < error(list, 4) ? 3 : 4]),
  )
}

/** Slots cut at barlines and beats into written values, with rests between. */
function barred(slots: readonly Slot[], full: Fraction, key: Key): { measures: Measure[]; lastId: number } {
  let ids = 0
  const measures: Measure[] = []
  let events: TuneEvent[] = []
  let used = ZERO
  let now = ZERO
  let group: { id: string; beat: number } | null = null
  const close = () => {
    measures.push({ id: `m${++ids}`, events })
    events = []
    used = ZERO
  }
  const put = (length: Fraction, notes: readonly Midi[], tied: boolean) => {
    const triplet = now.d % 3 === 0 || length.d % 3 === 0
    const beat = Math.floor(toNumber(now))
    if (!triplet) group = null
    else if (group?.beat !== beat) group = { id: `t${++ids}`, beat }
    const common = { id: `n${++ids}`, duration: length, ...(group && { tuplet: { group: group.id, actual: 3, normal: 2 } }) } // prettier-ignore
    const heads = notes.map(m => ({ pitch: spellInKey(m, key), ...(tied && { tied }) }))
    events.push(heads.length === 0 ? { kind: 'rest', ...common } : { kind: 'note', ...common, heads })
    used = add(used, length)
    now = add(now, length)
    if (compare(used, full) >= 0) close()
  }
  const fill = (until: Fraction, notes: readonly Midi[]) => {
    while (compare(now, until) < 0) {
      const length = nextValue(sub(until, now), sub(full, used), now)
      put(length, notes, compare(add(now, length), until) < 0)
    }
  }
  for (const s of slots) {
    fill(s.start, [])
    fill(s.end, s.notes)
  }
  if (events.length > 0) {
    const end = add(now, sub(full, used))
    fill(end, [])
  }
  return { measures, lastId: ids }
}

const VALUES = [frac(4), frac(3), frac(2), frac(3, 2), frac(1), frac(3, 4), frac(1, 2), frac(1, 4)]

/** The longest plain value that fits before the barline; thirds of a beat stay inside their beat. */
function nextValue(wanted: Fraction, room: Fraction, now: Fraction): Fraction {
  const fits = compare(wanted, room) <= 0 ? wanted : room
  const inBeat = sub(frac(Math.floor(now.n / now.d) + 1), now)
  if (now.d % 3 === 0) return compare(fits, inBeat) <= 0 ? fits : inBeat
  if (fits.d % 3 === 0) {
    const whole = frac(Math.floor(toNumber(fits)))
    return now.d === 1 && whole.n > 0
      ? nextValue(whole, room, now)
      : compare(fits, inBeat) <= 0
        ? fits
        : inBeat
  }
  return VALUES.find(v => compare(v, fits) <= 0) ?? fits
}
