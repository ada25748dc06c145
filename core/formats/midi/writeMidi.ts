/** A tune as a Standard MIDI file: what is heard, repeats written out. */
import * as midiFile from 'midi-file'
import type { MidiEvent } from 'midi-file'
import { finding, type Finding } from '#core/findings/finding'
import { toNumber, type Fraction } from '#core/music/fraction'
import { signature } from '#core/music/key'
import { defaultTempo, secondsPerQuarter } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import { performTune, type PerformOptions } from '#core/playback/perform'

// An older kind of script: its names stand in the default export when it is loaded as a module.
const { writeMidi: encode } = ((midiFile as { default?: unknown }).default ?? midiFile) as typeof midiFile
const TICKS = 480
/** General MIDI programs: violin, viola, cello, contrabass. */
export const PROGRAMS = { violin: 40, viola: 41, cello: 42, bass: 43 } as const

export interface MidiOptions extends PerformOptions {
  readonly program?: number
}

type Timed = { readonly at: number; readonly event: Record<string, unknown> }

export function writeMidi(
  tune: Tune,
  options: MidiOptions = {},
): { bytes: Uint8Array; findings: readonly Finding[] } {
  const performed = performTune(tune, options)
  const ticks = (t: Fraction) => Math.round(toNumber(t) * TICKS)
  const tempo = tune.tempo ?? defaultTempo(tune.metre)
  const metres = performed.measures.filter((m, i, all) => {
    const before = all[i - 1]?.metre
    return before?.beats !== m.metre.beats || before.unit !== m.metre.unit
  })
  const conductor: Timed[] = [
    { at: 0, event: { type: 'trackName', text: ascii(tune.title) } },
    { at: 0, event: { type: 'setTempo', microsecondsPerBeat: Math.round(secondsPerQuarter(tempo) * 1e6) } },
    {
      at: 0,
      event: { type: 'keySignature', key: signature(tune.key), scale: tune.key.mode === 'minor' ? 1 : 0 },
    },
    ...metres.map(m => ({
      at: ticks(m.start),
      event: {
        type: 'timeSignature',
        numerator: m.metre.beats,
        denominator: m.metre.unit,
        metronome: 24,
        thirtyseconds: 8,
      },
    })),
  ]
  const melody: Timed[] = [
    { at: 0, event: { type: 'trackName', text: ascii(tune.title) } },
    {
      at: 0,
      event: {
        type: 'programChange',
        channel: 0,
        programNumber: options.program ?? PROGRAMS[tune.instrument ?? 'violin'],
      },
    },
    ...performed.notes.flatMap(n => {
      const start = ticks(n.start)
      const end = start + Math.max(1, Math.round(ticks(n.length) * n.held))
      const note = { channel: 0, noteNumber: n.midi }
      return [
        {
          at: start,
          event: { type: 'noteOn', ...note, velocity: Math.max(1, Math.round(n.loudness * 127)) },
        },
        { at: end, event: { type: 'noteOff', ...note, velocity: 0 } },
      ]
    }),
  ]
  const bytes = encode({
    header: { format: 1, numTracks: 2, ticksPerBeat: TICKS },
    tracks: [inOrder(conductor), inOrder(melody)],
  })
  return { bytes: Uint8Array.from(bytes), findings: [finding('midi.heard', 'note', {})] }
}

/** Names in the file are plain letters. */
const ascii = (text: string) =>
  text
    .normalize('NFD')
    .replace(/[^\x20-\x7e]/g, '')
    .slice(0, 120)

/** Events with the time since the one before; notes end before others begin. */
function inOrder(events: readonly Timed[]): MidiEvent[] {
  const rank = (e: Timed) => (e.event.type === 'noteOff' ? 0 : e.event.type === 'noteOn' ? 2 : 1)
  const sorted = [...events].sort((a, b) => a.at - b.at || rank(a) - rank(b))
  const timed = sorted.map((e, i) => ({ ...e.event, deltaTime: e.at - (sorted[i - 1]?.at ?? 0) }))
  return [...timed, { type: 'endOfTrack', deltaTime: 0 }] as unknown as MidiEvent[]
}
