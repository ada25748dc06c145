/**
 * Work grows no faster than the input: counted in blocks of code run, so that nothing hangs on how fast the
 * machine is.
 */
import { Session } from 'node:inspector'
import * as toneMidi from '@tonejs/midi'
import { strToU8, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readFile } from './readFile'

const { Midi } = ((toneMidi as { default?: unknown }).default ?? toneMidi) as typeof toneMidi
const session = new Session()
interface Coverage {
  readonly result: readonly {
    readonly functions: readonly { readonly ranges: readonly { readonly count: number }[] }[]
  }[]
}
const post = <T>(method: string, params: object = {}) => {
  let answer: T | undefined
  session.post(method, params, (e: Error | null, r?: object) => {
    if (e) throw e
    answer = r as T
  })
  return answer!
}
beforeAll(() => {
  session.connect()
  post('Profiler.enable')
  // Once for all: code is compiled with its counters only the first time.
  post('Profiler.startPreciseCoverage', { callCount: true, detailed: true })
})
afterAll(() => session.disconnect())

/** Blocks of code run by a piece of work. */
function workOf(work: () => void): number {
  // What was counted up to here is taken away.
  post('Profiler.takePreciseCoverage')
  work()
  const { result } = post<Coverage>('Profiler.takePreciseCoverage')
  return result
    .flatMap(f => f.functions.flatMap(fn => fn.ranges.map(r => r.count)))
    .reduce((a, b) => a + b, 0)
}

const abc = (music: string, head = '') => strToU8(`X:1\nT:t\n${head}M:4/4\nL:1/8\nK:D\n${music}\n`)
const xml = (parts: string, list = '<score-part id="P0"><part-name>One</part-name></score-part>') =>
  strToU8(`<?xml version="1.0"?><score-partwise><part-list>${list}</part-list>${parts}</score-partwise>`)
const note = (more = '') =>
  `<note><pitch><step>D</step><octave>4</octave></pitch><duration>1</duration>${more}</note>`
const measure = (notes: string) =>
  `<measure number="1"><attributes><divisions>1</divisions></attributes>${notes}</measure>`
function midi(notes: number, tracks = 1, together = 1) {
  const file = new Midi()
  for (let t = 0; t < tracks; t++) {
    const track = file.addTrack()
    for (let i = 0; i < notes; i++)
      track.addNote({ midi: 60 + (i % 7), ticks: Math.floor(i / together) * 240, durationTicks: 240 })
  }
  return file.toArray()
}

/** A file that grows with n in one way. */
const WAYS: readonly (readonly [string, number, (n: number) => readonly [string, Uint8Array]])[] = [
  ['measures of ABC', 60, n => ['a.abc', abc('DEFG ABcd|'.repeat(n))]],
  ['one long measure', 200, n => ['a.abc', abc('DEFG '.repeat(n) + '|')]],
  [
    'tunes of a book',
    30,
    n => [
      'a.abc',
      strToU8(Array.from({ length: n }, (_, i) => `X:${i}\nT:t\nM:4/4\nL:1/8\nK:D\nDEFG ABcd|\n`).join('\n')),
    ],
  ],
  ['blanks in a title', 4000, n => ['a.abc', abc('DEFG ABcd|', `T:a${' '.repeat(n)}b\n`)]],
  ['blanks in a key', 4000, n => ['a.abc', strToU8(`X:1\nM:4/4\nL:1/8\nK:D${' '.repeat(n)}\nDEFG ABcd|\n`)]],
  ['lines of two voices', 30, n => ['a.abc', abc('V:1\nDEFG ABcd|\nV:2\nD,E,F,G, A,B,CD|\n'.repeat(n))]],
  ['voices', 6, n => ['a.abc', abc(Array.from({ length: n }, (_, i) => `V:${i}\nDEFG ABcd|\n`).join(''))]],
  ['slurs within slurs', 100, n => ['a.abc', abc('('.repeat(n) + 'D'.repeat(n) + 'E)'.repeat(n) + '|')]],
  ['words', 100, n => ['a.abc', abc(`${'DEFG ABcd|'.repeat(n)}\nw:${'la '.repeat(8 * n)}`)]],
  ['things nobody can read', 100, n => ['a.abc', abc('D@E '.repeat(n))]],
  ['repeats and jumps', 60, n => ['a.abc', abc('|:!segno!DEFG ABcd!D.C.!:|'.repeat(n))]],
  [
    'measures of MusicXML',
    60,
    n => ['a.musicxml', xml(`<part id="P0">${measure(note().repeat(4)).repeat(n)}</part>`)],
  ],
  [
    'notes of a chord',
    100,
    n => ['a.musicxml', xml(`<part id="P0">${measure(note() + note('<chord/>').repeat(n))}</part>`)],
  ],
  [
    'parts',
    60,
    n => [
      'a.musicxml',
      xml(
        Array.from({ length: n }, (_, i) => `<part id="P${i}">${measure(note())}</part>`).join(''),
        Array.from(
          { length: n },
          (_, i) => `<score-part id="P${i}"><part-name>x</part-name></score-part>`,
        ).join(''),
      ),
    ],
  ],
  [
    'grace notes and words in MusicXML',
    100,
    n => [
      'a.musicxml',
      xml(
        `<part id="P0">${measure('<note><grace/><pitch><step>D</step><octave>4</octave></pitch></note>'.repeat(n) + note('<lyric><text>la</text></lyric>'.repeat(n)))}</part>`,
      ),
    ],
  ],
  [
    'a score measure by measure',
    40,
    n => [
      'a.musicxml',
      strToU8(
        `<score-timewise><part-list><score-part id="P0"><part-name>x</part-name></score-part></part-list>${`<measure number="1"><part id="P0">${note()}</part></measure>`.repeat(n)}</score-timewise>`,
      ),
    ],
  ],
  [
    'files in a packed score',
    40,
    n => [
      'a.mxl',
      zipSync(
        Object.fromEntries(
          Array.from({ length: n }, (_, i) => [
            `s${i}.musicxml`,
            xml(`<part id="P0">${measure(note())}</part>`),
          ]),
        ),
      ),
    ],
  ],
  ['notes of MIDI', 150, n => ['a.mid', midi(n)]],
  ['notes that begin together', 100, n => ['a.mid', midi(n, 1, 7)]],
  ['tracks', 20, n => ['a.mid', midi(8, n)]],
  [
    'string-and-finger text',
    100,
    n => ['a.txt', strToU8(`title: t\ninstrument: violin\n\n${'D 0 1 2 3 A 0 1 2 3 | '.repeat(n)}\n`)],
  ],
]

it('counting tells work that grows with the square from work that does not', () => {
  const square = (n: number) => {
    let sum = 0
    for (let i = 0; i < n; i++) for (let k = 0; k < n; k++) if (k > i) sum++
    return sum
  }
  const [one, two] = [workOf(() => square(40)), workOf(() => square(80))]
  expect(two / one).toBeGreaterThan(3)
})

describe('twice the input is at most two and a half times the work', () => {
  it.each(WAYS)('%s', (_name, n, file) => {
    const [name, once] = file(n)
    const [, twice] = file(2 * n)
    readFile(name, once)
    const [one, two] = [workOf(() => readFile(name, once)), workOf(() => readFile(name, twice))]
    expect(one).toBeGreaterThan(50)
    expect(two / one).toBeLessThan(2.5)
  })
})
