import { writeMidi, type MidiEvent } from 'midi-file'
import { describe, expect, it } from 'vitest'
import { formatPitch } from '#core/music/pitch'
import { formatFraction } from '#core/music/fraction'
import { withEnds } from './ends'
import { readMidi } from './readMidi'

const BEAT = 480
const on = (noteNumber: number, deltaTime = 0, channel = 0): MidiEvent => ({
  type: 'noteOn',
  deltaTime,
  channel,
  noteNumber,
  velocity: 80,
})
const off = (noteNumber: number, deltaTime = BEAT): MidiEvent => ({
  type: 'noteOff',
  deltaTime,
  channel: 0,
  noteNumber,
  velocity: 0,
})
const allOff = (deltaTime: number, channel = 0): MidiEvent => ({
  type: 'controller',
  deltaTime,
  channel,
  controllerType: 123,
  value: 0,
})
const end = (deltaTime = 0): MidiEvent => ({ type: 'endOfTrack', deltaTime, meta: true })
const metre: MidiEvent = {
  type: 'timeSignature',
  deltaTime: 0,
  numerator: 4,
  denominator: 4,
  metronome: 24,
  thirtyseconds: 8,
}
const key = (sharps: number): MidiEvent => ({ type: 'keySignature', deltaTime: 0, key: sharps, scale: 0 })
const fileOf = (...events: MidiEvent[]) =>
  Uint8Array.from(writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: BEAT }, tracks: [events] }))

function read(...events: MidiEvent[]) {
  const r = readMidi(fileOf(metre, key(0), ...events))
  if ('finding' in r) throw new Error(r.finding.code)
  const notes = r.tune.measures.flatMap(m =>
    m.events.flatMap(e =>
      e.kind === 'note'
        ? [`${e.heads.map(h => formatPitch(h.pitch)).join('+')} ${formatFraction(e.duration)}`]
        : [],
    ),
  )
  return { notes, told: r.findings.map(f => f.code).filter(c => !c.startsWith('tune.')) }
}

describe('a note that is not ended', () => {
  it('ends with all notes of its channel', () => {
    const r = read(on(60), allOff(BEAT), on(62), off(62), on(64), off(64, 2 * BEAT), end())
    expect(r).toEqual({ notes: ['C4 1', 'D4 1', 'E4 2'], told: [] })
  })
  it('goes on where another channel is silenced', () => {
    expect(read(on(60), allOff(BEAT, 3), off(60), on(62), off(62, 2 * BEAT), end()).notes).toEqual([
      'C4 2',
      'D4 2',
    ])
  })
  it('ends with its track, and is told; one that begins there lasts a beat', () => {
    expect(read(on(60), off(60), on(62), end(3 * BEAT))).toEqual({
      notes: ['C4 1', 'D4 3'],
      told: ['midi.unended'],
    })
    expect(read(on(60), off(60, 3 * BEAT), on(62), end())).toEqual({
      notes: ['C4 3', 'D4 1'],
      told: ['midi.unended'],
    })
  })
  it('ends too where the file says nothing of an end', () => {
    expect(read(on(60), off(60, 3 * BEAT), on(62))).toEqual({
      notes: ['C4 3', 'D4 1'],
      told: ['midi.unended'],
    })
  })
  it('a file in which each is ended stays what it is', () => {
    const bytes = fileOf(metre, on(60), off(60), end())
    expect(withEnds(bytes)).toEqual({ bytes, unended: 0 })
    expect(withEnds(bytes).bytes).toBe(bytes)
  })
})

describe('what our notes do not hold is told', () => {
  it('bent pitches, once', () => {
    const bend = (value: number): MidiEvent => ({ type: 'pitchBend', deltaTime: 0, channel: 0, value })
    expect(read(on(60), bend(300), bend(0), off(60, 4 * BEAT), end()).told).toEqual(['file.notKept'])
    expect(read(on(60), bend(0), off(60, 4 * BEAT), end()).told).toEqual([])
  })
  it('a key of more signs than there are', () => {
    const r = readMidi(fileOf(metre, key(8), on(60), off(60, 4 * BEAT), end()))
    expect('finding' in r ? [] : r.findings.map(f => f.code)).toContain('file.badKey')
  })
})
