/**
 * Standard MIDI files to tunes. The standard parser gives notes in ticks; here they become music: moved to a
 * grid (straight or triplet, decided beat by beat), barred, tied, spelled in a key. Everything assumed on the
 * way is told.
 */
import * as toneMidi from '@tonejs/midi'
import { finding, type Finding, type FindingCode, type ValuesOf } from '#core/findings/finding'
import { checkTune } from '#core/findings/checkTune'
import { cleanText } from '#core/documents/text'
import { frac, ZERO } from '#core/music/fraction'
import { keyName, keyOfSignature } from '#core/music/key'
import { findKey } from '#core/music/keyFinding'
import { METRE_UNITS, type Metre } from '#core/music/metre'
import type { Midi } from '#core/music/pitch'
import { emptyTune, type Clef, type Tune } from '#core/music/tune'
import { decodeText } from '../encoding'
import { fitted } from '../fitted'
import { withEnds } from './ends'
import { barred, type Barred, type Changes } from './bars'
import { quantise, type Raw, type Slot } from './grid'
import { DRUM_CHANNEL, melodyLikeness } from './melody'

// The package is a script of the older kind: its names stand in the default export when it is loaded as a
// module.
const { Midi: MidiFile } = ((toneMidi as { default?: unknown }).default ?? toneMidi) as typeof toneMidi

export const MAX_MIDI_BYTES = 4_000_000
export const MAX_MIDI_NOTES = 20_000
const MAX_QUARTERS = 40_000

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

/**
 * Reads one track, the one most like a melody unless another is chosen; drums are never the tune. Never
 * throws on bad input.
 */
export function readMidi(bytes: Uint8Array, track?: number): MidiResult {
  if (bytes.length > MAX_MIDI_BYTES) return refuse('file.tooLong', { limit: MAX_MIDI_BYTES })
  const fault = headFault(bytes)
  if (fault) return fault
  let file: InstanceType<typeof MidiFile>
  let unended: number
  try {
    const ended = withEnds(bytes)
    unended = ended.unended
    file = new MidiFile(ended.bytes)
  } catch (e) {
    return refuse('midi.broken', { message: (e instanceof Error ? e.message : String(e)).slice(0, 120) })
  }
  const parts = file.tracks.map((t, i) => partOf(t, i, file.header.ppq))
  const most = Math.max(1, ...parts.map(p => p.raw.length))
  const likeness = parts.map(p => melodyLikeness(p.raw, p.name, most))
  const taken = track ?? likeness.indexOf(Math.max(...likeness))
  const chosen = file.tracks[taken]
  if (chosen?.channel === DRUM_CHANNEL && track !== undefined) return refuse('midi.drums')
  if (!chosen || parts[taken]!.raw.length === 0) return refuse('file.noNotes')
  const { raw, name } = parts[taken]!
  if (raw.length > MAX_MIDI_NOTES) return refuse('midi.tooMany', { count: raw.length, limit: MAX_MIDI_NOTES })
  if (
    !raw.every(
      n =>
        Number.isFinite(n.start) &&
        Number.isFinite(n.end) &&
        n.end < MAX_QUARTERS &&
        n.midi >= 12 &&
        n.midi <= 127,
    )
  )
    return refuse('midi.broken', { message: 'a note lies outside any music' })
  const findings: Finding[] = []
  const others = parts.flatMap((p, i) => (i !== taken && p.raw.length > 0 ? [p.name] : []))
  if (others.length > 0)
    findings.push(finding('file.others', 'note', {}, { taken: name, others: others.slice(0, 8).join(', ') }))
  if (unended > 0) findings.push(finding('midi.unended', 'warning', {}, { count: unended }))
  if (chosen.pitchBends.some(b => b.value !== 0))
    findings.push(finding('file.notKept', 'note', {}, { what: 'bent pitches' }))
  const metres = metresOf(file, findings)
  const keys = keysOf(file, raw, findings)
  const { slots, quantised, cut, held } = quantise(raw)
  if (quantised) findings.push(quantised)
  if (cut > 0) findings.push(finding('midi.cut', 'note', {}, { count: cut }))
  if (held > 0) findings.push(finding('midi.held', 'note', {}, { count: held }))
  const { begins, measures, lastId } = barred(slots, { metres, keys })
  findings.push(...movedFindings(slots, begins))
  if (file.header.tempos.some(t => t.ticks > 0 && Math.abs(t.bpm - file.header.tempos[0]!.bpm) > 1))
    findings.push(finding('midi.tempoChange', 'note', {}))
  const bpm = file.header.tempos[0]?.bpm
  const fits = fitted({
    ...emptyTune(textOf(file.header.name) || name),
    key: keys[0]!.key,
    metre: metres[0]!.metre,
    clef: clefFor(raw.map(n => n.midi)),
    ...(bpm &&
      bpm >= 1 &&
      bpm <= 999 && { tempo: { beat: frac(1), perMinute: Math.round(bpm * 100) / 100 } }),
    measures,
    lastId,
  })
  if (!fits.tune) return { finding: fits.findings.at(-1)! }
  const tracks = parts.map(p => ({ name: p.name, notes: p.raw.length }))
  return {
    tune: fits.tune,
    findings: [...findings, ...fits.findings, ...checkTune(fits.tune)],
    tracks,
    taken,
  }
}

type Track = InstanceType<typeof MidiFile>['tracks'][number]
/** The notes of a track in quarters; of drums none. */
function partOf(
  t: Track,
  index: number,
  ppq: number,
): { readonly name: string; readonly raw: readonly Raw[] } {
  const drums = t.channel === DRUM_CHANNEL
  const raw = drums
    ? []
    : t.notes.map(n => ({ start: n.ticks / ppq, end: (n.ticks + n.durationTicks) / ppq, midi: n.midi }))
  return { name: textOf(t.name).slice(0, 80) || (drums ? 'drums' : `track ${index + 1}`), raw }
}

/** A name's bytes, which the parser gives as one sign each, in whatever they were written. */
const textOf = (name: string) =>
  cleanText(
    [...name].every(c => c.charCodeAt(0) < 256)
      ? decodeText(Uint8Array.from(name, c => c.charCodeAt(0))).text
      : name,
  ).trim()

/** Moved by more than this (in quarters) a note is told with its place; so many at most. */
const FAR = 0.07
const MOST_TOLD = 40
function movedFindings(slots: readonly Slot[], begins: Barred['begins']): Finding[] {
  const far = slots.flatMap((s, i) => (s.moved > FAR ? [{ ...begins[i]!, by: s.moved }] : []))
  return far
    .slice(0, MOST_TOLD)
    .map(m =>
      finding('midi.moved', 'note', { measure: m.measure, note: m.id }, { by: `${Math.round(100 * m.by)}%` }),
    )
}

/** What the parser would stumble over: the header, and time in frames. */
function headFault(bytes: Uint8Array) {
  const word = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (word(0) !== 'MThd' || bytes.length < 22)
    return refuse('midi.broken', { message: 'its header is missing' })
  const division = (bytes[12]! << 8) | bytes[13]!
  if (division & 0x8000) return refuse('midi.time')
  return division === 0 ? refuse('midi.broken', { message: 'it has no time unit' }) : null
}

/** Ticks as quarters; the parser's ticks are whole, so are the fractions. */
const quarters = (ticks: number, ppq: number) => frac(ticks, ppq)

function metresOf(file: InstanceType<typeof MidiFile>, findings: Finding[]): Changes['metres'] {
  const { timeSignatures, ppq } = file.header
  const read = timeSignatures.flatMap(({ ticks, timeSignature: [beats, given] }) => {
    const unit = METRE_UNITS.find(u => u === given)
    const fits = unit && Number.isInteger(beats) && beats! >= 1 && beats! <= 64
    if (!fits) findings.push(finding('file.notKept', 'warning', {}, { what: `a metre of ${beats}/${given}` }))
    return fits ? [{ at: quarters(ticks, ppq), metre: { beats: beats!, unit } as Metre }] : []
  })
  if (read[0]?.at.n === 0) return read
  findings.push(finding('midi.assumedMetre', 'note', {}))
  return [{ at: ZERO, metre: { beats: 4, unit: 4 } }, ...read]
}

const NAMES = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#']

function keysOf(
  file: InstanceType<typeof MidiFile>,
  raw: readonly Raw[],
  findings: Finding[],
): Changes['keys'] {
  const { keySignatures, ppq } = file.header
  const read = keySignatures.flatMap(k => {
    const fifths = NAMES.indexOf(k.key) - 7
    if (fifths < -7) findings.push(finding('file.badKey', 'warning', {}))
    return fifths >= -7
      ? [{ at: quarters(k.ticks, ppq), key: keyOfSignature(fifths, k.scale === 'minor' ? 'minor' : 'major') }]
      : []
  })
  if (read[0]?.at.n === 0) return read
  const key = findKey(raw.map(n => ({ sounding: n.midi, length: n.end - n.start })))!
  findings.push(finding('midi.assumedKey', 'note', {}, { key: keyName(key) }))
  return [{ at: ZERO, key }, ...read]
}

/** The clef in which the middle of the notes lies best. */
function clefFor(notes: readonly Midi[]): Clef {
  const middle = [...notes].sort((a, b) => a - b)[Math.floor(notes.length / 2)]!
  return middle >= 60 ? 'treble' : middle >= 54 ? 'alto' : 'bass'
}
