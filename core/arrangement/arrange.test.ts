import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { setLetter } from '#core/music/edit/pitches'
import { frac } from '#core/music/fraction'
import { parseKey } from '#core/music/key'
import { formatPitch, parsePitch, type Pitch } from '#core/music/pitch'
import { withoutFacts, type EventBody, type Tune } from '#core/music/tune'
import { originOf, playedPitch, refusedFindings, toWrittenTune, writtenPitch } from './arrange'
import type { Change } from './change'
import { ASSUMED_HANDS } from './context'
import { arrangedOf, derive } from './derive'
import { decided, withPlayed, withShown } from './edits'
import { newArrangement } from './recipe'

const tuneOf = (music: string, key = 'D') =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:${key}\n${music}\n`).tunes[0]!.tune
const pitch = (name: string): Pitch => parsePitch(name)!
const note = (name: string, quarters: number, tied = false): EventBody => ({
  kind: 'note',
  duration: frac(quarters),
  heads: [{ pitch: pitch(name), ...(tied && { tied }) }],
})
const change = (id: string, events: string[], by: EventBody[], accepted = true): Change => ({
  id,
  kind: 'merge',
  accepted,
  edit: { do: 'replace', events, by },
})
const violin = newArrangement('violin', 'full')
const made = (tune: Tune, changes: Change[], played: Parameters<typeof withPlayed>[1] = {}) =>
  arrangedOf(tune, withPlayed(violin, { changes, ...played }), ASSUMED_HANDS)
const sung = (t: Tune) =>
  t.measures
    .map(m => m.events.map(e => (e.kind === 'note' ? formatPitch(e.heads[0]!.pitch) : 'z')).join(' '))
    .join(' | ')
const ids = (t: Tune) => t.measures.flatMap(m => m.events.map(e => e.id))

describe('an edit of what another instrument plays', () => {
  it('leaves the tune in the clef it is written in, so that it stays where it lies', () => {
    const tune = tuneOf('DEFG|A4|')
    const cello = arrangedOf(tune, newArrangement('cello', 'full'), ASSUMED_HANDS)
    expect([cello.tune.clef, cello.octave]).toEqual(['bass', -2])
    expect(toWrittenTune(cello, cello.tune)).toEqual(withoutFacts(tune))
    const inTenor = arrangedOf(
      tune,
      withShown(newArrangement('cello', 'full'), { clef: 'tenor' }),
      ASSUMED_HANDS,
    )
    expect([inTenor.tune.clef, inTenor.octave, sung(inTenor.tune)]).toEqual(['tenor', -2, sung(cello.tune)])
    expect(toWrittenTune(inTenor, inTenor.tune)).toEqual(withoutFacts(tune))
    // One the instrument does not read is not taken.
    expect(arrangedOf(tune, withShown(violin, { clef: 'bass' }), ASSUMED_HANDS).tune.clef).toBe('treble')
    // Another clef that was meant is taken.
    expect(toWrittenTune(cello, { ...cello.tune, clef: 'tenor' }).clef).toBe('tenor')
  })
})

describe('changes of the notes', () => {
  const tune = tuneOf('DDEF|GFED|')
  const [a, b, c] = ids(tune)

  it('put other notes in the place of some, in their own name, and know what they stand for', () => {
    const r = made(tune, [change('c1', [a!, b!], [note('D4', 2)])])
    expect(sung(r.tune)).toBe('D4 E4 F#4 | G4 F#4 E4 D4')
    expect(ids(r.tune)[0]).toBe('c1~1')
    expect(originOf(r, 'c1~1')).toEqual([a, b])
    expect(originOf(r, c!)).toEqual([c])
    expect(r.refused).toEqual([])
    expect(sung(tune)).toBe('D4 D4 E4 F#4 | G4 F#4 E4 D4')
  })

  it('go with the key and the octave: they speak of what is written', () => {
    const r = made(tune, [change('c1', [a!, b!], [note('D4', 2)])], { key: parseKey('G')!, octave: 0 })
    expect(sung(r.tune)).toBe('G4 A4 B4 | C5 B4 A4 G4')
    expect(formatPitch(writtenPitch(r, pitch('B4')))).toBe('F#4')
    expect(formatPitch(playedPitch(r, pitch('F#4')))).toBe('B4')
  })

  it('follow one another: a later one may change what an earlier one made', () => {
    const r = made(tune, [
      change('c1', [a!, b!], [note('D4', 2)]),
      change('c2', ['c1~1', c!], [note('D4', 3)]),
    ])
    expect(sung(r.tune)).toBe('D4 F#4 | G4 F#4 E4 D4')
    expect(originOf(r, 'c2~1')).toEqual([a, b, c])
  })

  it('that are refused stay in the list and change nothing; taken again they do', () => {
    const recipe = withPlayed(violin, { changes: [change('c1', [a!, b!], [note('D4', 2)])] })
    const no = decided(recipe, 'c1', false)
    expect(no.played.changes).toHaveLength(1)
    const r = arrangedOf(tune, no, ASSUMED_HANDS)
    expect(sung(r.tune)).toBe(sung(tune))
    expect(r.refused.map(x => x.why)).toEqual(['refused'])
    expect(refusedFindings(r.refused)).toEqual([])
    expect(sung(arrangedOf(tune, decided(no, 'c1', true), ASSUMED_HANDS).tune)).toBe(
      'D4 E4 F#4 | G4 F#4 E4 D4',
    )
  })

  it('leave the directions written in the tune where there are other strokes; other pitches alone leave them', () => {
    const marked = tuneOf('!downbow!D !upbow!E !downbow!F !upbow!G|!downbow!A G F E|')
    const [d, e] = ids(marked)
    const strokes = (changes: Change[]) => {
      const all = derive(marked, withPlayed(violin, { changes }), ASSUMED_HANDS)
      const said = all.bowing.written.map(s => `${s.lift ? "'" : ''}${s.direction[0]}`).join('')
      return [said, all.findings.filter(f => f.code === 'arrange.rebowed').length]
    }
    const one = change('c1', [d!, e!], [note('D4', 2)])
    expect(strokes([])).toEqual(['dudududu', 0])
    expect(strokes([one])).toEqual(['dududud', 1])
    expect(strokes([{ ...one, accepted: false }])).toEqual(['dudududu', 0])
    expect(strokes([change('c1', [d!], [{ ...note('B3', 1), marks: ['downbow'] } as EventBody])])).toEqual([
      'dudududu',
      0,
    ])
    // What is written keeps them, also after an edit of what is played.
    const r = made(marked, [one])
    expect(
      toWrittenTune(r, r.tune).measures[0]!.events.flatMap(x => (x.kind === 'note' ? (x.marks ?? []) : [])),
    ).toEqual(['downbow', 'upbow', 'downbow', 'upbow'])
  })

  it('whose notes are gone, or that would not last as long, are told, with a way out', () => {
    const r = made(tune, [
      change('c1', ['n99'], [note('D4', 1)]),
      change('c2', [a!], [note('D4', 2)]),
      change('c3', [b!, a!], [note('D4', 2)]),
    ])
    expect(r.refused.map(x => [x.change.id, x.why])).toEqual([
      ['c1', 'gone'],
      ['c2', 'length'],
      ['c3', 'gone'],
    ])
    expect(refusedFindings(r.refused)[0]).toMatchObject({
      code: 'arrange.changeLost',
      mends: [{ kind: 'dropChange', change: 'c1' }],
    })
    expect(sung(r.tune)).toBe(sung(tune))
    const d = derive(
      tune,
      withPlayed(violin, { changes: [change('c1', ['n99'], [note('D4', 1)])] }),
      ASSUMED_HANDS,
    )
    expect(d.findings.map(f => f.code)).toContain('arrange.changeLost')
  })

  it('take their slurs with them, and let a tie go whose other end is another note now', () => {
    const tied = tuneOf('(DE) F-|F GA2|')
    const [d, e, f, f2] = ids(tied)
    const slurred = made(tied, [change('c1', [d!], [note('D4', 1)])])
    expect(slurred.tune.slurs).toEqual([{ from: 'c1~1', to: e }])
    expect(made(tied, [change('c1', [d!, e!], [note('D4', 2)])]).tune.slurs).toEqual([])
    const free = made(tied, [change('c1', [f2!], [note('G4', 1)])])
    const head = free.tune.measures[0]!.events.find(x => x.id === f)!
    expect(head).toMatchObject({ heads: [{ pitch: pitch('F#4') }] })
    expect(JSON.stringify(head)).not.toContain('tied')
  })

  it('leave a tune without changes the very same', () => {
    expect(made(tune, []).origin.size).toBe(0)
    expect(ids(made(tune, []).tune)).toEqual(ids(tune))
  })
})

describe('an edit of what is played', () => {
  const tune = tuneOf('DDEF|(GF) ED|')
  const [a, b, c] = ids(tune)
  const r = made(tune, [change('c1', [a!, b!], [note('D4', 2)])], { key: parseKey('G')!, octave: 0 })

  it('comes back as an edit of what is written, in its key', () => {
    const back = toWrittenTune(r, setLetter(r.tune, c!, 'D').tune)
    expect(sung(back)).toBe('D4 D4 A4 F#4 | G4 F#4 E4 D4')
    expect(back.key).toEqual(tune.key)
    expect(back.slurs).toEqual(tune.slurs)
  })

  it('never writes what a change made into the tune', () => {
    const same = toWrittenTune(r, r.tune)
    expect(same.measures).toEqual(tune.measures)
    const edited = toWrittenTune(r, setLetter(r.tune, 'c1~1', 'C').tune)
    expect(edited.measures).toEqual(tune.measures)
  })
})
