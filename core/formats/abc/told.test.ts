/**
 * What reading tells of a whole tune: its voices, too many bars, accidentals in other octaves. Each with its
 * weight, its place and what it says.
 */
import { describe, expect, it } from 'vitest'
import { MOST } from '#core/music/tune'
import { formatPitch } from '#core/music/pitch'
import { readAbc } from './readAbc'

const read = (music: string, head = 'L:1/4\nK:C', voice = 0) =>
  readAbc(`X:1\nT:t\nM:4/4\n${head}\n${music}\n`, { voice }).tunes[0]!
const pitches = (r: ReturnType<typeof read>) =>
  r.tune.measures
    .flatMap(m =>
      m.events.map(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'z')),
    )
    .join(' ')
const told = (r: ReturnType<typeof read>, code: string) =>
  r.findings
    .filter(f => f.code === code)
    .map(f => [f.severity, f.where.line, f.where.column, 'values' in f ? f.values : {}])

describe('voices', () => {
  const voices = (count: number) =>
    Array.from({ length: count }, (_, i) => `V:${i + 1} name="Part ${i + 1}"\n${'CDEFGAB'[i % 7]}4|`).join(
      '\n',
    )
  it('the one that is taken, and the others by name', () => {
    const of = (voice: number) => told(read(voices(3), 'L:1/4\nK:C', voice), 'abc.voices')
    expect(of(0)).toEqual([['warning', 5, 1, { taken: 1, others: 'Part 2, Part 3' }]])
    expect(of(1)).toEqual([['warning', 5, 1, { taken: 2, others: 'Part 1, Part 3' }]])
    // One that is not there: the first.
    expect(of(7)).toEqual([['warning', 5, 1, { taken: 1, others: 'Part 2, Part 3' }]])
  })
  it('eight of them at most; one alone is not told', () => {
    expect(told(read(voices(11)), 'abc.voices')).toEqual([
      [
        'warning',
        5,
        1,
        { taken: 1, others: 'Part 2, Part 3, Part 4, Part 5, Part 6, Part 7, Part 8, Part 9' },
      ],
    ])
    expect(told(read(voices(1)), 'abc.voices')).toEqual([])
  })
})

describe('too many bars', () => {
  it('are refused before anything is read, with that reason', () => {
    const many = `X:1\nT:t\nM:4/4\nL:1/4\nK:C\nC4${'|'.repeat(4 * MOST.measures + 1)}\n`
    const { tunes, findings } = readAbc(many)
    expect(tunes).toEqual([])
    expect(findings.map(f => [f.code, f.severity, f.where.line, 'values' in f ? f.values : {}])).toEqual([
      ['abc.tooManyBars', 'error', 1, { limit: MOST.measures }],
    ])
  })
  it('so is a text too long, and one without notes has none', () => {
    const codes = (text: string) => readAbc(text).findings.map(f => f.code)
    expect(codes(`X:1\nT:t\nK:C\n${'C'.repeat(2_000_001)}\n`)).toEqual(['abc.tooLong'])
    expect(codes('X:1\nT:t\nK:C\nz4|\n')).not.toContain('abc.tooLong')
    expect(codes('X:1\nT:t\nM:4/4\nK:C\n\n')).toContain('abc.noNotes')
  })
})

describe('an accidental and the same letter in another octave', () => {
  const elsewhere = (music: string, head?: string) => {
    const r = read(music, head)
    return [pitches(r), told(r, 'abc.octaveAccidental').map(([severity, , , values]) => [severity, values])]
  }
  const alone = (letter: string) => [['note', { letter, counts: false }]]
  it.each<[music: string, pitches: string, told: unknown[]]>([
    ['^FfF2|', 'F#4 F5 F#4', alone('F')],
    ['^Ffff|', 'F#4 F5 F5 F5', alone('F')],
    // Where it is written, or was written before, nothing is in doubt; nor over the bar.
    ['^F^ff2|', 'F#4 F#5 F#5', []],
    ['^F=ff2|', 'F#4 F5 F5', []],
    ['^F4|f4|', 'F#4 F5', []],
    // Nor where the sign says what the key says anyway.
    ['=FfF2|', 'F4 F5 F4', []],
    ['__B_bB2|', 'Bbb4 Bb5 Bbb4', []],
    ['^^Cc3|', 'C##4 C5', alone('C')],
    // What is tied in keeps its own, and it alone.
    ['^F4-|FfF2|', 'F#4 F#4 F5 F4', []],
  ])('%s', (music, wanted, says) => expect(elsewhere(music)).toEqual([wanted, says]))
  it('in the key it may be told to be', () => {
    expect(elsewhere('=FfF2|', 'L:1/4\nK:D')).toEqual(['F4 F#5 F4', alone('F')])
  })
  it('as the version of the standard in the file says', () => {
    const r = readAbc('%abc-2.2\n\nX:1\nT:t\nM:4/4\nL:1/4\nK:C\n^FfF2|\n').tunes[0]!
    expect(r.findings.filter(f => f.code === 'abc.octaveAccidental').map(f => f.values)).toEqual([
      { letter: 'F', counts: true },
    ])
    expect(pitches(r)).toBe('F#4 F#5 F#4')
  })
})
