import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import type { Tune } from '#core/music/tune'
import { composed, dronesOf, type Playable, type PlaySettings } from './playable'

const tuneOf = (music: string): Tune => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!.tune
const plain = { tuning: null, joined: [], strokes: [] }
const settings: PlaySettings = {
  tempo: 100,
  countIn: 'none',
  metronome: false,
  loop: false,
  echo: false,
  swing: 50,
  drone: 'none',
  backing: false,
  volume: 1,
  mix: {},
}
const together: Playable = {
  parts: [
    { ...plain, id: 'high', instrument: 'violin', tune: tuneOf('D E F G |]') },
    { ...plain, id: 'low', instrument: 'bass', tune: tuneOf('D2 A,2 |]') },
  ],
  tempo: { beat: { n: 1, d: 1 }, perMinute: 60 },
  only: null,
  from: null,
}

describe('what is composed of parts', () => {
  it('has a track for each, on the strings of its own instrument, and sounds as that does', () => {
    const { tracks, program } = composed(together, { ...settings, drone: 'tonic' })
    expect(tracks.map(t => [t.id, t.instrument])).toEqual([
      ['high', 'violin'],
      ['low', 'bass'],
      ['drone', 'violin'],
    ])
    const low = program.body.events.flatMap(e => (e.kind === 'note' && e.track === 'low' ? [e.midi] : []))
    // A bass sounds an octave below what is written.
    expect(low).toEqual([50, 45])
  })
  it('plays a passage of all of them, and follows the first', () => {
    const { tune } = together.parts[0]!
    const first = tune.measures[0]!.events.slice(0, 2).map(e => e.id)
    const parts = together.parts.map(p => ({ ...p, tune }))
    const { program, leader } = composed({ ...together, parts, only: new Set(first) }, settings)
    expect(leader.notes.map(n => n.event)).toEqual(first)
    expect(program.music).toBe(2)
  })
  it('of nothing is refused', () =>
    expect(() => composed({ ...together, parts: [] }, settings)).toThrow('no sound'))
})

describe('a drone', () => {
  const violin = { tune: tuneOf('D4|'), instrument: 'violin' as const, tuning: null }
  it('is the keynote at or above the lowest string, or an open string, or none', () => {
    expect(dronesOf(violin, 'tonic')).toEqual([62])
    expect(dronesOf(violin, '3')).toEqual([55])
    expect(dronesOf(violin, 'none')).toEqual([])
    expect(dronesOf(violin, '7')).toEqual([])
  })
  it('goes by the tuning', () => expect(dronesOf({ ...violin, tuning: [76, 69, 62, 57] }, '3')).toEqual([57]))
})
