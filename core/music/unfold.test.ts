import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { performTune } from '#core/playback/perform'
import { compareTunes } from './compareTunes'
import { removeMeasure } from './edit/measures'
import { setLetter } from './edit/pitches'
import { formatFraction } from './fraction'
import { tunes } from './testing'
import { tuneSchema, type Tune } from './tune'
import { playOrderText, repeatsOf, writeOutRepeats } from './unfold'

const tuneOf = (music: string) => readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:D\n${music}\n`).tunes[0]!.tune
const music = (t: Tune) =>
  writeAbc(t)
    .text.split(/\nK:.*\n/)[1]!
    .trim()
    .replace(/\s+/g, ' ')
const heard = (t: Tune) =>
  performTune(t).notes.map(n => `${n.midi}@${formatFraction(n.start)}:${formatFraction(n.length)}`)

describe('the order of playing', () => {
  const t = tuneOf('|: (D E) F G |1 A4 :|2 B4 || d4 |]')

  it('is told in measures, with what is struck out and how often', () => {
    expect(playOrderText(t)).toBe('1–2, 1, 3–4')
    expect(repeatsOf(t)).toEqual([{ id: t.measures[1]!.id, from: 1, to: 2 }])
    expect(playOrderText({ ...t, play: { struck: [], times: 2 } })).toBe('1–2, 1, 3–4; all of it 2 times')
  })

  it('can be written out, slurs and all', () => {
    const out = writeOutRepeats(t).tune
    expect(music(out)).toBe('(D2 E2) F2 G2 | A8 | (D2 E2) F2 G2 | B8 || d8 |]')
    expect(writeOutRepeats(out).tune).toBe(out)
  })

  it('sounds the same written out, whatever the tune', () => {
    fc.assert(
      fc.property(tunes(), x => {
        const out = writeOutRepeats(x).tune
        expect(heard(out)).toEqual(heard(x))
        expect(tuneSchema.safeParse(out).error).toBeUndefined()
        const ids = out.measures.flatMap(m => [m.id, ...m.events.map(e => e.id)])
        expect(new Set(ids).size).toBe(ids.length)
      }),
    )
  })
})

describe('two states of a tune', () => {
  const t = tuneOf('D E F G | A4 | B4 | c4 |]')

  it('are the same, or differ in these measures', () => {
    expect(compareTunes(t, t)).toEqual({ facts: [], measures: [], same: 4 })
    const edited = removeMeasure(setLetter(t, t.measures[1]!.events[0]!.id, 'B').tune, 2).tune
    const { measures, same, facts } = compareTunes(t, { ...edited, title: 'new' })
    expect(measures).toEqual([
      { before: 2, after: 2, was: 'A4 whole', is: 'B4 whole' },
      { before: 3, after: null, was: 'B4 whole', is: '' },
    ])
    expect([same, facts]).toEqual([2, [{ name: 'Title', was: 't', is: 'new' }]])
  })
})
