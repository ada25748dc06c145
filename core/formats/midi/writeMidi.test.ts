import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import * as toneMidi from '@tonejs/midi'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { midi as midiOf } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { performTune } from '#core/playback/perform'
import { demoSource } from '#demo/fillShelf'
import { writeMidi } from './writeMidi'

const { Midi } = ((toneMidi as { default?: unknown }).default ?? toneMidi) as typeof toneMidi
const demo = (file: string) => readAbc(demoSource(file)).tunes[0]!.tune

describe('a file we write', () => {
  const written = (music: string, head = 'M:3/4\nL:1/4\nQ:1/4=90\nK:Em') =>
    new Midi(writeMidi(readAbc(`X:1\nT:Été à Å\n${head}\n${music}\n`).tunes[0]!.tune, { program: 42 }).bytes)
  it('says its name in plain letters, its tempo, key, metres and instrument', () => {
    const file = written('EGB|[M:4/4]e4|[M:3/4]B3|]')
    expect(file.header.name).toBe('Ete a A')
    expect(file.header.tempos.map(t => Math.round(t.bpm))).toEqual([90])
    expect(file.header.timeSignatures.map(t => [t.ticks, ...t.timeSignature])).toEqual([
      [0, 3, 4],
      [1440, 4, 4],
      [3360, 3, 4],
    ])
    expect(file.header.keySignatures.map(k => [k.key, k.scale])).toEqual([['G', 'minor']])
    expect(file.tracks.at(-1)!.instrument.number).toBe(42)
  })
  it('plays by the instrument of the tune where none is said, by a violin where that is none', () => {
    const { tune } = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nK:D\nDEFG|\n').tunes[0]!
    const program = (t: Tune) => new Midi(writeMidi(t).bytes).tracks.at(-1)!.instrument.number
    expect([program(tune), program({ ...tune, instrument: 'cello' })]).toEqual([40, 42])
  })
  it('ends a note before the next one of its pitch begins, and holds none for nothing', () => {
    const { notes } = written('EEE|E/E/E/E/E/E/|]').tracks.at(-1)!
    expect(notes).toHaveLength(9)
    notes.forEach((n, i) => {
      expect(n.durationTicks).toBeGreaterThan(0)
      expect(n.velocity).toBeGreaterThan(0)
      if (i > 0) expect(n.ticks).toBeGreaterThanOrEqual(notes[i - 1]!.ticks + notes[i - 1]!.durationTicks)
    })
  })
})

describe('how a note is struck and held', () => {
  it('is as it is performed', () => {
    const { tune } = readAbc('X:1\nT:t\nM:4/4\nL:1/4\nQ:1/4=90\nK:D\n!p!D .E F/G/ !f!A|(DE) !accent!F2|\n')
      .tunes[0]!
    const heard = performTune(tune).notes
    const { notes } = new Midi(writeMidi(tune).bytes).tracks.at(-1)!
    expect(notes.map(n => n.durationTicks)).toEqual(
      heard.map(n => Math.round((480 * n.length.n * n.held) / n.length.d)),
    )
    expect(notes.map(n => Math.round(n.velocity * 127))).toEqual(heard.map(n => Math.round(n.loudness * 127)))
    expect(new Set(notes.map(n => n.durationTicks / 480)).size).toBeGreaterThan(2)
    expect(new Set(notes.map(n => n.velocity)).size).toBeGreaterThan(2)
  })
})

// Debian's abcmidi, installed by the test script, reads our files as a stranger would.
describe.skipIf(!existsSync('/usr/bin/midi2abc'))('independent readers', () => {
  it('hear the same notes in our MIDI and in our ABC', () => {
    const folder = mkdtempSync(join(tmpdir(), 'nokta-midi-'))
    try {
      for (const file of ['brindlewick-bridge.abc', 'crooked-stile.abc', 'heron-on-saltmarsh-lane.abc']) {
        const t = demo(file)
        writeFileSync(join(folder, 'a.mid'), writeMidi(t).bytes)
        writeFileSync(join(folder, 'a.abc'), writeAbc(t).text)
        const pitchesIn = (path: string) => {
          const dump = spawnSync('midi2abc', [path, '-mftext'], { encoding: 'utf8' }).stdout
          return [...dump.matchAll(/Note on\s+\d+\s+(\d+) \([^)]*\)\s+[1-9]/g)].map(m => Number(m[1]))
        }
        expect(pitchesIn(join(folder, 'a.mid'))).toEqual(performTune(t).notes.map(n => n.midi))
        const made = spawnSync('abc2midi', [join(folder, 'a.abc'), '-o', join(folder, 'b.mid'), '-NGUI'], {
          encoding: 'utf8',
        })
        expect(made.stdout).not.toMatch(/Error/)
        // The stranger adds the chords; the melody must be among what it plays.
        const melody = t.measures
          .flatMap(m => m.events)
          .flatMap(e => (e.kind === 'note' ? e.heads.map(h => midiOf(h.pitch)) : []))
        expect(pitchesIn(join(folder, 'b.mid'))).toEqual(expect.arrayContaining(melody))
      }
    } finally {
      rmSync(folder, { recursive: true })
    }
  })
})
