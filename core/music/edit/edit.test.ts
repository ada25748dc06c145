import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeAbc } from '#core/formats/abc/writeAbc'
import { checkTune } from '#core/findings/checkTune'
import { add, equal, frac, ZERO } from '../fraction'
import { parseKey } from '../key'
import { formatPitch, midi, parsePitch } from '../pitch'
import { tunes } from '../testing'
import { emptyTune, tuneSchema, type Tune } from '../tune'
import { eventsOf, idsBetween, mapNotes } from './edited'
import { scaleLength, setLength, toggleTie, toggleTuplet } from './lengths'
import {
  layWords,
  setChord,
  setDynamic,
  setGrace,
  setRemarks,
  toggleMark,
  toggleOptional,
  toggleSlur,
} from './marks'
import { copyEvents, paste, rebar, removeMeasure, setKeyFrom, setMeasure, setMetreFrom } from './measures'
import { insertAfter, openMeasure, removeEvents, toRests } from './notes'
import {
  moveByHalfSteps,
  moveByLetters,
  moveByOctaves,
  pitchNear,
  respell,
  setLetter,
  setPitches,
  toggleHead,
} from './pitches'
import { letterNear, respelled, spellInKey } from './spelling'

const p = (name: string) => parsePitch(name)!
const tuneOf = (music: string, head = 'M:4/4\nL:1/4\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
/** The music alone, as text. */
const music = (t: Tune) =>
  writeAbc(t)
    .text.split(/\nK:.*\n/)[1]!
    .trim()
const ids = (t: Tune) => eventsOf(t).map(e => e.id)
const pitches = (t: Tune) =>
  eventsOf(t).map(e => (e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch)).join('+') : 'rest'))
const quarter = (name: string) => ({ pitches: [p(name)], length: frac(1) })

describe('spelling', () => {
  it.each([
    ['D', 'C#5', 73],
    ['F', 'Bb4', 70],
    ['G', 'C#5', 73],
    ['Am', 'G#4', 68],
    ['Am', 'F#4', 66],
    ['Eb', 'Gb4', 66],
    ['Cm', 'F#4', 66],
    ['Edor', 'F4', 65],
    ['Edor', 'D#5', 75],
    ['Dmix', 'F4', 65],
    ['Gm', 'Ab4', 68],
    ['Ador', 'C#5', 73],
    ['Am', 'D#5', 75],
    ['A', 'G4', 67],
    ['D', 'F4', 65],
    ['Bb', 'Ab4', 68],
    ['Gm', 'F#4', 66],
    ['E', 'A#4', 70],
    ['C', 'B3', 59],
    ['Cb', 'Cb4', 59],
    ['C#', 'B#3', 60],
  ])('in %s a player reads %s', (key, name, sound) => {
    const spelled = spellInKey(sound, parseKey(key)!)
    expect(formatPitch(spelled)).toBe(name)
    expect(midi(spelled)).toBe(sound)
  })

  it('takes the nearest letter, with the sharps of the key', () => {
    const d = parseKey('D')!
    expect(formatPitch(letterNear('F', p('A4'), d))).toBe('F#4')
    expect(formatPitch(letterNear('C', p('A4'), d))).toBe('C#5')
    expect(formatPitch(letterNear('B', p('C4'), d))).toBe('B3')
  })

  it('finds the other name of a sound, and none for a plain D', () => {
    expect(formatPitch(respelled(p('G#4'))!)).toBe('Ab4')
    expect(formatPitch(respelled(p('Bb4'))!)).toBe('A#4')
    expect(respelled(p('D4'))).toBeNull()
  })
})

describe('putting notes in', () => {
  it('writes a tune from nothing; a full bar opens the next one', () => {
    let at = { tune: emptyTune('x'), chosen: null as string | null }
    for (const n of ['D4', 'E4', 'F#4', 'G4', 'A4']) at = insertAfter(at.tune, at.chosen, quarter(n))
    expect(at.tune.measures.map(m => m.events.length)).toEqual([4, 1])
    expect(pitches(at.tune)).toEqual(['D4', 'E4', 'F#4', 'G4', 'A4'])
    expect(tuneSchema.safeParse(at.tune).success).toBe(true)
  })

  it('ties a note that is longer than the room left, and goes on after it', () => {
    const t = tuneOf('D E F')
    const { tune, chosen } = insertAfter(t, ids(t).at(-1)!, { pitches: [p('A4')], length: frac(6) })
    expect(music(tune)).toBe('D2 E2 F2 A2- | A8- | A2 |')
    expect(chosen).toBe(ids(tune).at(-1))
    expect(checkTune(tune).map(f => f.code)).toEqual(['tune.barShort'])
  })

  it('keeps a pickup when the bar is closed early', () => {
    const first = insertAfter(emptyTune(), null, quarter('A4'))
    const opened = openMeasure(first.tune, first.chosen!)
    const second = insertAfter(opened.tune, opened.chosen, quarter('D4'))
    expect(second.tune.measures.map(m => m.events.length)).toEqual([1, 1])
  })

  it('a bar that is closed twice opens one measure; closed within, it is two', () => {
    const t = tuneOf('D E F G|')
    const last = openMeasure(t, ids(t)[3]!)
    expect(last.tune.measures.map(m => m.events.length)).toEqual([4, 0])
    expect(openMeasure(last.tune, ids(t)[3]!).tune).toBe(last.tune)
    const within = openMeasure(tuneOf('D E F G|A4|'), ids(t)[1]!)
    expect(within.tune.measures.map(m => m.events.length)).toEqual([2, 2, 1])
    expect(new Set(within.tune.measures.map(m => m.id)).size).toBe(3)
    expect(openMeasure(t, 'n999').tune).toBe(t)
  })

  it('moves the final bar on, and puts a rest where there is no pitch', () => {
    const t = tuneOf('D E F G |]')
    const { tune } = insertAfter(t, ids(t).at(-1)!, { pitches: [], length: frac(4) })
    expect(tune.measures.map(m => m.barline)).toEqual([undefined, 'final'])
    expect(pitches(tune).at(-1)).toBe('rest')
  })

  it('inside the tune makes the bar longer and says so', () => {
    const t = tuneOf('D E F G | A4 |]')
    const { tune } = insertAfter(t, ids(t)[1]!, quarter('A4'))
    expect(pitches(tune).slice(0, 5)).toEqual(['D4', 'E4', 'A4', 'F#4', 'G4'])
    expect(checkTune(tune).map(f => f.code)).toEqual(['tune.barLong'])
  })

  it('fills a triplet before it begins the next', () => {
    let at = { tune: emptyTune(), chosen: null as string | null }
    for (const n of ['D4', 'E4', 'F#4', 'G4'])
      at = insertAfter(at.tune, at.chosen, {
        pitches: [p(n)],
        length: frac(1, 2),
        tuplet: { actual: 3, normal: 2 },
      })
    const groups = eventsOf(at.tune).map(e => e.tuplet!.group)
    expect([groups[0] === groups[2], groups[2] === groups[3]]).toEqual([true, false])
    expect(eventsOf(at.tune)[0]!.duration).toEqual(frac(1, 3))
  })

  it('taken out again leaves the tune as it was', () => {
    fc.assert(
      fc.property(tunes(), fc.nat(50), (t, n) => {
        const after = ids(t)[n % ids(t).length]!
        const put = insertAfter(t, after, quarter('D4'))
        const added = ids(put.tune).filter(id => !ids(t).includes(id))
        const back = removeEvents(put.tune, added).tune
        // The bar the tie began in may have been opened for it: only the music counts.
        expect(pitches(back)).toEqual(pitches(t))
        expect(new Set(ids(put.tune)).size).toBe(ids(put.tune).length)
      }),
    )
  })
})

describe('taking notes out', () => {
  it('drops an empty measure and hands its repeat signs on', () => {
    const t = tuneOf('|: D4 | E4 | F4 :| G4 |]')
    const out = removeEvents(t, [ids(t)[0]!, ids(t)[2]!]).tune
    expect(out.measures.map(m => [m.repeatStart ?? false, m.repeatEnd ?? false])).toEqual([
      [true, true],
      [false, false],
    ])
  })

  it('shortens a slur, loosens a tie, and chooses the note before', () => {
    const t = tuneOf('(D E F) G- | G4 |]')
    const all = ids(t)
    const { tune, chosen } = removeEvents(t, [all[2]!, all[4]!])
    expect(music(tune)).toBe('(D2 E2) G2 |]')
    expect(chosen).toBe(all[1])
  })

  it('or makes a rest of them', () => {
    const t = tuneOf('(D E) F G |]')
    expect(music(toRests(t, ids(t).slice(1, 2)).tune)).toBe('D2 z2 F2 G2 |]')
  })

  it('does nothing for a note that is not there', () => {
    const t = tuneOf('D E F G |]')
    expect(removeEvents(t, ['n99']).tune).toBe(t)
  })
})

describe('changing notes', () => {
  it('moves along the scale, by half steps and by octaves', () => {
    const t = tuneOf('D E F G |]')
    expect(pitches(moveByLetters(t, ids(t), 1).tune)).toEqual(['E4', 'F#4', 'G4', 'A4'])
    expect(pitches(moveByHalfSteps(t, ids(t), 1).tune)).toEqual(['D#4', 'E#4', 'G4', 'G#4'])
    expect(pitches(moveByOctaves(t, ids(t), 1).tune)).toEqual(['D5', 'E5', 'F#5', 'G5'])
    expect(moveByOctaves(t, ids(t), 6).tune).toBe(t)
  })

  it('up by letters and down again gives the notes of the key back', () => {
    fc.assert(
      fc.property(fc.integer({ min: -9, max: 9 }), by => {
        const t = tuneOf('D E F G | A B c d |]')
        expect(pitches(moveByLetters(moveByLetters(t, ids(t), by).tune, ids(t), -by).tune)).toEqual(
          pitches(t),
        )
      }),
    )
  })

  it('sets a letter near the note it replaces, and wakes a rest', () => {
    const t = tuneOf('D A z2 |]')
    const [, a, rest] = ids(t)
    expect(pitches(setLetter(t, a!, 'C').tune)).toEqual(['D4', 'C#5', 'rest'])
    expect(pitches(setPitches(t, rest!, [p('E4')]).tune)).toEqual(['D4', 'A4', 'E4'])
    expect(formatPitch(pitchNear(t, rest!))).toBe('A4')
  })

  it('forgets the written finger of another pitch', () => {
    const t = tuneOf('!2!F G A B |]')
    expect(music(setLetter(t, ids(t)[0]!, 'E').tune)).toBe('E2 G2 A2 B2 |]')
  })

  it('adds a drone and takes it off, but never the last note', () => {
    const t = tuneOf('A B c d |]')
    const id = ids(t)[0]!
    const two = toggleHead(t, id, p('D4')).tune
    expect(pitches(two)[0]).toBe('D4+A4')
    expect(pitches(toggleHead(two, id, p('D4')).tune)[0]).toBe('A4')
    expect(toggleHead(t, id, p('A4')).tune).toBe(t)
  })

  it('respells', () => {
    const t = tuneOf('^G _B D2 |]')
    expect(pitches(respell(t, ids(t)).tune)).toEqual(['Ab4', 'A#4', 'D4'])
  })

  it('lengthens, halves and dots; refuses what no one writes', () => {
    const t = tuneOf('D E F G |]')
    const [a, b, c, d] = ids(t)
    let x = setLength(t, [a!], frac(2)).tune
    x = scaleLength(x, [b!], 'half').tune
    x = scaleLength(x, [c!], 'dot').tune
    x = scaleLength(scaleLength(x, [d!], 'dot').tune, [d!], 'dot').tune
    expect(eventsOf(x).map(e => e.duration)).toEqual([frac(2), frac(1, 2), frac(3, 2), frac(1)])
    expect(setLength(t, [a!], frac(1, 64)).tune).toBe(t)
  })

  it('makes a triplet of three eighths and eighths of a triplet', () => {
    const t = tuneOf('D/E/F/ G G/ |]')
    const three = ids(t).slice(0, 3)
    const made = toggleTuplet(t, three).tune
    expect(
      eventsOf(made)
        .slice(0, 3)
        .map(e => e.duration),
    ).toEqual([frac(1, 3), frac(1, 3), frac(1, 3)])
    expect(music(toggleTuplet(made, three).tune)).toBe(music(t))
    expect(
      toggleTuplet(tuneOf('D4|E4|]'), ids(tuneOf('D4|E4|]'))).tune.measures[0]!.events[0]!.tuplet,
    ).toBeUndefined()
  })

  it('ties equal notes only', () => {
    const t = tuneOf('D D E2 |]')
    const [a, b] = ids(t)
    expect(music(toggleTie(t, a!).tune)).toBe('D2- D2 E4 |]')
    expect(toggleTie(t, b!).tune).toBe(t)
  })
})

describe('what hangs on notes', () => {
  it('puts marks, slurs, dynamics, chords, remarks, graces and options on and takes them off', () => {
    const t = tuneOf('D E F G |]')
    const [a, b] = ids(t)
    let x = toggleMark(t, [a!, b!], 'staccato').tune
    x = toggleSlur(x, a!, b!).tune
    x = setDynamic(x, [a!], 'mf').tune
    x = setChord(x, a!, 'Bm').tune
    x = setRemarks(x, b!, 'thumb behind the neck').tune
    x = setGrace(x, b!, [p('F#4')]).tune
    expect(music(x)).toBe('("Bm"!mf!.D2 "^thumb behind the neck".{F}E2) F2 G2 |]')
    expect(eventsOf(toggleOptional(x, [a!]).tune)[0]).toMatchObject({ optional: true })
    x = toggleSlur(x, b!, a!).tune
    x = toggleMark(x, [a!, b!], 'staccato').tune
    x = setRemarks(
      setChord(setDynamic(setGrace(x, b!, []).tune, [a!], undefined).tune, a!, ' ').tune,
      b!,
      '',
    ).tune
    expect(music(x)).toBe(music(t))
  })

  it('lays words under the notes: hyphens, skips, held syllables, none on a tied note', () => {
    const t = tuneOf('D E- E F | G4 |]')
    const { tune, left } = layWords(t, ids(t)[0]!, 0, 'eve-ning comes soft-ly')
    expect(eventsOf(tune).map(e => (e.kind === 'note' ? e.syllables?.[0]?.text : ''))).toEqual([
      'eve',
      'ning',
      undefined,
      'comes',
      'soft',
    ])
    expect(left).toEqual(['ly'])
  })
})

describe('measures', () => {
  it('draws the barlines anew, ties what crosses them, and keeps the pickup', () => {
    const t = tuneOf('A | D E F G A B | c d | e4 |]')
    const done = rebar(setMetreFrom(t, 0, { beats: 3, unit: 4 }).tune, 0).tune
    expect(music(done)).toBe('A2 | D2 E2 F2 | G2 A2 B2 | c2 d2 e2- |\ne6 |]')
    const sum = (x: Tune) =>
      eventsOf(x)
        .map(e => e.duration)
        .reduce(add, ZERO)
    expect(equal(sum(done), sum(t))).toBe(true)
  })

  it('stops at the end of the part', () => {
    const t = tuneOf('|: D E F G A :| B4 |]')
    expect(music(rebar(t, 0).tune)).toBe('|: D2 E2 F2 G2 | A2 :| B8 |]')
  })

  it('copies whole measures with their signs, and notes as notes', () => {
    const t = tuneOf('|: (D E) F G :| A4 |]')
    const clip = copyEvents(t, ids(t).slice(0, 4))
    expect(music(paste(t, ids(t).at(-1)!, clip).tune)).toBe('|: (D2 E2) F2 G2 :| A8 |] |: (D2 E2) F2 G2 :|')
    const two = paste(t, ids(t).at(-1)!, copyEvents(t, idsBetween(t, ids(t)[1]!, ids(t)[0]!)))
    expect(music(two.tune)).toContain('A8 (D2 E2)')
    expect(new Set(ids(two.tune)).size).toBe(7)
  })

  it('changes keys and metres from a measure on without touching the notes', () => {
    const t = tuneOf('D E F G | A B c d |]')
    const changed = setKeyFrom(t, 1, parseKey('G')!).tune
    expect(pitches(changed)).toEqual(pitches(t))
    expect(changed.measures[1]!.key).toEqual(parseKey('G'))
    expect(setMeasure(t, 1, { repeatEnd: true, barline: undefined }).tune.measures[1]).toMatchObject({
      repeatEnd: true,
    })
  })

  it('takes a measure out', () => {
    const t = tuneOf('D4 | E4 | F4 |]')
    expect(music(removeMeasure(t, 1).tune)).toBe('D8 | F8 |]')
    expect(removeMeasure(t, 9).tune).toBe(t)
  })

  it('keeps every tune a valid document, whatever is done to it', () => {
    const steps = fc.array(fc.record({ what: fc.nat(8), at: fc.nat(40) }), { minLength: 1, maxLength: 12 })
    fc.assert(
      fc.property(tunes(), steps, (start, list) => {
        const end = list.reduce((t, { what, at }) => {
          const all = ids(t)
          const id = all[at % Math.max(1, all.length)] ?? null
          const next = all[(at + 2) % Math.max(1, all.length)] ?? null
          if (id === null || next === null) return insertAfter(t, null, quarter('A4')).tune
          const edits = [
            () => insertAfter(t, id, { pitches: [p('G4')], length: frac(3) }),
            () => removeEvents(t, [id, next]),
            () => toggleTuplet(t, idsBetween(t, id, next)),
            () => toggleSlur(t, id, next),
            () => rebar(t, at % t.measures.length),
            () => paste(t, id, copyEvents(t, idsBetween(t, id, next))),
            () => openMeasure(t, id),
            () => toggleTie(t, id),
            () => toRests(t, [id]),
          ]
          return edits[what]!().tune
        }, start)
        expect(tuneSchema.safeParse(end).error).toBeUndefined()
        const all = [...ids(end), ...end.measures.map(m => m.id)]
        expect(new Set(all).size).toBe(all.length)
        for (const s of end.slurs) expect(ids(end)).toEqual(expect.arrayContaining([s.from, s.to]))
      }),
    )
  })
})

it('an edit that changes nothing gives the same tune', () => {
  const t = tuneOf('D E F G |]')
  expect(mapNotes(t, ids(t), e => e)).toBe(t)
})
