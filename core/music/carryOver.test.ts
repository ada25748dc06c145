import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { readSpoken } from '#core/formats/spoken/readSpoken'
import { ABC_HOLDS_NOT, carryOver, SPOKEN_HOLDS_NOT } from './carryOver'
import { toggleMark, toggleOptional } from './edit/marks'
import { frac } from './fraction'
import { keepIds } from './keepIds'
import { formatPitch, parsePitch } from './pitch'
import { emptyTune, type NoteEvent, type Tune } from './tune'

/** A tune in which every field a text may have no place for says something. */
const full: Tune = {
  ...emptyTune('Low Tide'),
  rights: 'own',
  tags: ['ball'],
  notToBeConfusedWith: ['High Tide'],
  settings: 'page 4',
  instrument: 'viola',
  otherTitles: ['The Ebb'],
  composer: 'Odile Farrant',
  learnedFrom: 'Ines Vell',
  kind: 'air',
  notes: 'slowly',
  tempo: { beat: frac(1), perMinute: 60 },
  clef: 'alto',
  lastId: 9,
  measures: [
    {
      id: 'm1',
      segno: true,
      coda: true,
      fine: true,
      toCoda: true,
      jump: 'ds',
      repeatEnd: true,
      repeatTimes: 3,
      label: 'A',
      events: [
        {
          kind: 'note',
          id: 'n2',
          duration: frac(1),
          heads: [{ pitch: parsePitch('F#4')! }],
          chord: 'D',
          optional: true,
          string: 1,
          finger: 3,
          dynamic: 'mf',
          syllables: [{ text: 'ebb' }],
          remarks: ['listen'],
          marks: ['accent', 'cut'],
        },
        { kind: 'rest', id: 'n3', duration: frac(3), hidden: true },
      ],
    },
  ],
}
const bare: Tune = {
  ...emptyTune(''),
  title: 'Low Tide',
  lastId: 9,
  measures: [
    {
      id: 'm1',
      repeatEnd: true,
      events: [
        { kind: 'note', id: 'n2', duration: frac(1), heads: [{ pitch: parsePitch('F#4')! }] },
        { kind: 'rest', id: 'n3', duration: frac(3) },
      ],
    },
  ],
}

const notes = (t: Tune) => t.measures.flatMap(m => m.events) as NoteEvent[]

describe('what a text cannot hold', () => {
  it('comes back field by field under ABC, and nothing that ABC says', () => {
    const now = carryOver(full, bare, ABC_HOLDS_NOT)
    expect(now).toMatchObject({
      rights: 'own',
      tags: ['ball'],
      notToBeConfusedWith: ['High Tide'],
      settings: 'page 4',
      instrument: 'viola',
    })
    for (const f of ['otherTitles', 'composer', 'learnedFrom', 'kind', 'notes', 'tempo', 'clef'] as const)
      expect([f, now[f]]).toEqual([f, bare[f]])
    expect(notes(now)[0]).toEqual({
      ...bare.measures[0]!.events[0],
      optional: true,
      string: 1,
      marks: ['cut'],
    })
    expect({ ...now.measures[0], events: [] }).toEqual({ id: 'm1', repeatEnd: true, events: [] })
    expect(now.measures[0]!.events[1]).not.toHaveProperty('hidden')
  })
  it('comes back field by field under spoken fingers, but for chords and parts, which they say', () => {
    const now = carryOver(full, bare, SPOKEN_HOLDS_NOT)
    const { chord: _c, ...note } = full.measures[0]!.events[0] as NoteEvent
    const { label: _l, ...measure } = full.measures[0]!
    expect(now).toEqual({ ...full, measures: [{ ...measure, events: [note, full.measures[0]!.events[1]] }] })
  })
  it('is not put on another note, nor on a measure that is gone', () => {
    const other = {
      ...bare,
      measures: [
        { id: 'm7', events: [{ ...bare.measures[0]!.events[0]!, id: 'n8' }, bare.measures[0]!.events[1]!] },
      ],
    }
    const now = carryOver(full, other, SPOKEN_HOLDS_NOT)
    expect(now.measures[0]).toEqual({
      ...other.measures[0],
      events: [other.measures[0]!.events[0], full.measures[0]!.events[1]],
    })
  })
  it('two notes where one stood are other notes: finger and string go, the rest stays', () => {
    const [note, rest] = bare.measures[0]!.events as [NoteEvent, NoteEvent]
    const doubled = {
      ...bare,
      measures: [
        {
          ...bare.measures[0]!,
          events: [{ ...note, heads: [...note.heads, { pitch: parsePitch('A4')! }] }, rest],
        },
      ],
    }
    const now = notes(carryOver(full, doubled, SPOKEN_HOLDS_NOT))[0]!
    expect(now).toMatchObject({
      optional: true,
      dynamic: 'mf',
      syllables: [{ text: 'ebb' }],
      remarks: ['listen'],
      marks: ['accent', 'cut'],
    })
    expect([now.finger, now.string, now.heads.length]).toEqual([undefined, undefined, 2])
  })

  it('stays on its note while others are typed', () => {
    const start = readAbc('X:1\nT:a\nM:4/4\nL:1/4\nK:D\nD E F G|A4|').tunes[0]!.tune
    const [d, e] = notes(start)
    const marked: Tune = {
      ...toggleMark(toggleOptional(start, [d!.id]).tune, [e!.id], 'cut').tune,
      rights: 'protected',
      tags: ['ball'],
      play: { struck: [start.measures[1]!.id, 'm999'], times: 3 },
    }
    const typed = readAbc(writeAbc(marked).text.replace('A8', 'B8')).tunes[0]!.tune
    const now = carryOver(marked, keepIds(marked, typed).tune, ABC_HOLDS_NOT)
    expect(notes(now).map(n => formatPitch(n.heads[0]!.pitch))).toEqual(['D4', 'E4', 'F#4', 'G4', 'B4'])
    expect([notes(now)[0]!.optional, notes(now)[1]!.marks]).toEqual([true, ['cut']])
    expect(now).toMatchObject({
      rights: 'protected',
      tags: ['ball'],
      play: { struck: [start.measures[1]!.id], times: 3 },
    })
  })

  it('keeps words, marks and spelling under spoken fingers, and lets go of what belonged to another note', () => {
    const start = readAbc(
      'X:1\nT:a\nC:Odile Farrant\nM:4/4\nL:1/4\nK:D\n.D ^E !3!G A|\nw: one two three four\n',
    ).tunes[0]!.tune
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
    const spoken = readSpoken('title: a\nunit: 1/4\nkey: D\nD 0 1 2 3 | r 1 2 3 | 0 1 2 1 |', {
      instrument: 'violin',
    })
    if (!('tune' in spoken)) throw new Error('not read')
    const now = carryOver(start, keepIds(start, spoken.tune).tune, SPOKEN_HOLDS_NOT)
    expect(now.measures.map(({ segno, fine, jump }) => [segno, fine, jump])).toEqual(
      start.measures.map(({ segno, fine, jump }) => [segno, fine, jump]),
    )
    expect(now.measures[1]!.events[0]).toMatchObject({ kind: 'rest', hidden: true })
    // A text that has a word for either is believed.
    const plain = readAbc(writeAbc(start).text.replace('x2', 'z2')).tunes[0]!.tune
    const typed = carryOver(start, keepIds(start, plain).tune, ABC_HOLDS_NOT)
    expect(typed.measures[1]!.events[0]).not.toHaveProperty('hidden', true)
  })
})
