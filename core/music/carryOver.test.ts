import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { readSpoken } from '#core/formats/spoken/readSpoken'
import { ABC_HOLDS_NOT, carryOver, SPOKEN_HOLDS_NOT } from './carryOver'
import { toggleMark, toggleOptional } from './edit/marks'
import { keepIds } from './keepIds'
import { formatPitch } from './pitch'
import type { NoteEvent, Tune } from './tune'

const notes = (t: Tune) => t.measures.flatMap(m => m.events) as NoteEvent[]

describe('what a text cannot hold', () => {
  it('stays on its note while others are typed', () => {
    const start = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nD E F G|A4|').tunes[0]!.tune
    const [d, e] = notes(start)
    const marked: Tune = { ...toggleMark(toggleOptional(start, [d!.id]).tune, [e!.id], 'cut').tune, rights: 'protected', tags: ['ball'], play: { struck: [start.measures[1]!.id, 'm999'], times: 3 } } // prettier-ignore
    const typed = readAbc(writeAbc(marked).text.replace('A8', 'B8')).tunes[0]!.tune
    const now = carryOver(marked, keepIds(marked, typed).tune, ABC_HOLDS_NOT)
    expect(notes(now).map(n => formatPitch(n.heads[0]!.pitch))).toEqual(['D4', 'E4', 'F#4', 'G4', 'B4'])
    expect([notes(now)[0]!.optional, notes(now)[1]!.marks]).toEqual([true, ['cut']])
    expect(now).toMatchObject({ rights: 'protected', tags: ['ball'], play: { struck: [start.measures[1]!.id], times: 3 } }) // prettier-ignore
  })

  it('keeps words, marks and spelling under spoken fingers, and lets go of what belonged to another note', () => {
    const start = readAbc('X:1\nT:a\nC:Odile Farrant\nM:4/4\nL:1/4\nK:D\n.D ^E !3!G A|\nw: one two three four\n').tunes[0]!.tune // prettier-ignore
    const spoken = readSpoken('title: a\nunit: 1/4\nkey: D\nD 0 <2 3 2 |', { instrument: 'violin' })
    if (!('tune' in spoken)) throw new Error('not read')
    const now = carryOver(start, keepIds(start, spoken.tune).tune, SPOKEN_HOLDS_NOT)
    expect(notes(now).map(n => formatPitch(n.heads[0]!.pitch))).toEqual(['D4', 'E#4', 'G4', 'F#4'])
    expect(notes(now)[0]).toMatchObject({ marks: ['staccato'], syllables: [{ text: 'one' }] })
    expect([notes(now)[2]!.finger, now.composer]).toEqual([3, 'Odile Farrant'])
  })

  it('keeps a harmonic on its pitch, and lets go of it with another', () => {
    const start = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\n!accent!!harmonic!d D D D|').tunes[0]!.tune
    const after = (text: string) => {
      const r = readSpoken(`title: a\nunit: 1/4\nkey: D\n${text} 0 0 0 |`, { instrument: 'violin' })
      if (!('tune' in r)) throw new Error('not read')
      return notes(carryOver(start, keepIds(start, r.tune).tune, SPOKEN_HOLDS_NOT))[0]!.marks
    }
    expect(after('A 3 D')).toEqual(['accent', 'harmonic'])
    expect(after('A 2 D')).toEqual(['accent'])
    expect(after('@4 D 4o')).toEqual(['harmonic', 'accent'])
  })

  it('keeps the way through and rests that are not shown under spoken fingers', () => {
    const start = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\n!segno!DEFG|xEFG!fine!|DEFG!D.S.!|\n').tunes[0]!.tune
    const spoken = readSpoken('title: a\nunit: 1/4\nkey: D\nD 0 1 2 3 | r 1 2 3 | 0 1 2 1 |', { instrument: 'violin' }) // prettier-ignore
    if (!('tune' in spoken)) throw new Error('not read')
    const now = carryOver(start, keepIds(start, spoken.tune).tune, SPOKEN_HOLDS_NOT)
    expect(now.measures.map(({ segno, fine, jump }) => [segno, fine, jump])).toEqual(start.measures.map(({ segno, fine, jump }) => [segno, fine, jump])) // prettier-ignore
    expect(now.measures[1]!.events[0]).toMatchObject({ kind: 'rest', hidden: true })
    // A text that has a word for either is believed.
    const plain = readAbc(writeAbc(start).text.replace('x2', 'z2')).tunes[0]!.tune
    const typed = carryOver(start, keepIds(start, plain).tune, ABC_HOLDS_NOT)
    expect(typed.measures[1]!.events[0]).not.toHaveProperty('hidden', true)
  })
})
