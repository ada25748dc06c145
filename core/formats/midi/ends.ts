/**
 * Notes that are begun and never ended: by “all notes off”, by the end of their track, or by being begun again.
 * The parser of notes would leave them out in silence; here each gets its end before it looks.
 */
import { parseMidi, writeMidi, type MidiEvent } from 'midi-file'

/** Controllers that end every note of their channel: all sound off, all notes off. */
const ALL_OFF = new Set([120, 123])

export interface Ended {
  readonly bytes: Uint8Array
  /** Notes that only the end of their track ended. */
  readonly unended: number
}

/** 1 where a note is begun, -1 where one is ended (a velocity of 0 ends it, as the standard has it). */
const stepOf = (e: MidiEvent): 1 | -1 | 0 =>
  e.type === 'noteOn' && e.velocity > 0 ? 1 : e.type === 'noteOn' || e.type === 'noteOff' ? -1 : 0

/** The same file where nothing is open. Throws where it is no MIDI file. */
export function withEnds(bytes: Uint8Array): Ended {
  const file = parseMidi(bytes)
  const { ticksPerBeat = 480 } = file.header
  const tracks = file.tracks.map(events => closed(events, ticksPerBeat))
  const unended = tracks.reduce((n, t) => n + t.unended, 0)
  if (tracks.every(t => t.added === 0)) return { bytes, unended }
  const whole = { ...file, tracks: tracks.map(t => t.events) }
  return { bytes: Uint8Array.from(writeMidi(whole)), unended }
}

interface Track {
  readonly events: MidiEvent[]
  /** Ends put in, and how many of them at the end of the track. */
  readonly added: number
  readonly unended: number
}

/** @param beat a note that begins where its track ends is so long, in ticks */
function closed(events: readonly MidiEvent[], beat: number): Track {
  const out: MidiEvent[] = []
  /** How often each note is open, by channel and number. */
  const open = new Map<number, number>()
  let [added, unended, sinceNote] = [0, 0, 0]
  /** Ends what is open on a channel, or on all; returns how many notes that were. */
  const end = (after: number, channel: number | null): number => {
    const before = added
    for (const [key, count] of open) {
      if (channel !== null && key >> 7 !== channel) continue
      for (let i = 0; i < count; i++, added++) {
        const deltaTime = added === before ? after : 0
        out.push({ type: 'noteOff', deltaTime, channel: key >> 7, noteNumber: key & 127, velocity: 0 })
      }
      open.delete(key)
    }
    return added - before
  }
  for (const e of events) {
    sinceNote += e.deltaTime
    if (e.type === 'endOfTrack') {
      unended += end(sinceNote === 0 ? beat : e.deltaTime, null)
      out.push(unended > 0 ? { ...e, deltaTime: 0 } : e)
      continue
    }
    out.push(e)
    const step = stepOf(e)
    if (step !== 0 && 'noteNumber' in e) {
      const key = (e.channel << 7) | e.noteNumber
      const count = (open.get(key) ?? 0) + step
      if (count > 0) open.set(key, count)
      else open.delete(key)
      if (step === 1) sinceNote = 0
    } else if (e.type === 'controller' && ALL_OFF.has(e.controllerType)) end(0, e.channel)
  }
  // A file that was cut has no end of the track either.
  unended += end(beat, null)
  return { events: out, added, unended }
}
