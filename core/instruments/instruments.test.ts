import { describe, expect, it } from 'vitest'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { midi, parsePitch } from '#core/music/pitch'
import { sentence } from '#core/words/findings'
import { framesOf, reachAt } from './hands'
import { fromNut, tensionRatio, travel } from './geometry'
import { INSTRUMENTS, sizeOf, lettersOf } from './instruments'
import { positionName } from './positions'
import { tapes } from './tapes'
import {
  CROSS_TUNINGS,
  fiveStrings,
  formatTuning,
  homeTuning,
  parseTuning,
  retuneOrder,
  retuneSteps,
  totalChange,
  tuningFindings,
  tuningProblem,
  type TuningError,
} from './tunings'

describe('places on the string', () => {
  it('are where a luthier would put them on a full violin', () => {
    expect(tapes('violin', 328).map(t => t.fromNut)).toEqual([35.8, 52.2, 67.7, 82.3, 109.1])
    expect(travel(328, 2, 7)).toBeCloseTo(73.3, 1)
    expect(fromNut(328, 12)).toBeCloseTo(164)
  })
  it('grow rarer up the string, never past the bridge', () => {
    for (const n of [1, 5, 11, 23])
      expect(fromNut(328, n + 1) - fromNut(328, n)).toBeLessThan(fromNut(328, n) - fromNut(328, n - 1))
  })
})

describe('five strings', () => {
  it('are known by where the fifth lies: under the violin, over the cello, on either side of the bass', () => {
    const letters = (id: 'violin' | 'viola' | 'cello' | 'bass', text: string) => {
      const read = parseTuning(id, text)
      return 'tuning' in read ? lettersOf(id, read.tuning).join(' ') : tuningProblem(id, read.error)
    }
    expect(letters('violin', 'C3 G3 D4 A4 E5')).toBe('E A D G C')
    expect(letters('viola', 'C3 G3 D4 A4 E5')).toBe('E A D G C')
    expect(letters('cello', 'C2 G2 D3 A3 E4')).toBe('E A D G C')
    expect(letters('bass', 'B0 E1 A1 D2 G2')).toBe('G D A E B')
    expect(letters('bass', 'E1 A1 D2 G2 C3')).toBe('C G D A E')
    expect(letters('violin', 'C3 G3 D4 A4 E5 B5')).toBe('4 or 5 strings are needed, low to high, not 6')
  })
  it('ship as tunings of each instrument, and retune by steps of their own', () => {
    expect(fiveStrings('bass')).toEqual(['B0 E1 A1 D2 G2', 'E1 A1 D2 G2 C3'])
    for (const id of ['violin', 'viola', 'cello', 'bass'] as const)
      for (const text of fiveStrings(id)) {
        const read = parseTuning(id, text) as { tuning: number[] }
        expect(retuneSteps(id, read.tuning).map(s => s.semitones)).toEqual([0, 0, 0, 0, 0])
      }
  })
})

describe('retuning', () => {
  const to = (text: string) => (parseTuning('violin', text) as { tuning: number[] }).tuning
  it('lets strings down before any goes up, and raises by small steps first', () => {
    const order = retuneOrder(retuneSteps('violin', to('A3 D4 G#4 F5')))
    expect(order.map(s => [s.string, s.semitones])).toEqual([
      ['A', -1],
      ['E', 1],
      ['G', 2],
    ])
  })
  it('gives newtons only where the studio entered them, and a total only when all are known', () => {
    const some = retuneSteps('violin', to('A3 E4 A4 E5'), undefined, [80, 55, null, 45])
    expect(some.map(s => s.newtons)).toEqual([
      { from: 45, to: 56.7 },
      null,
      { from: 55, to: 55 },
      { from: 80, to: 80 },
    ])
    expect(totalChange(some)).toBeNull()
    const all = retuneSteps('violin', to('A3 E4 A4 E5'), undefined, [80, 55, 50, 45])
    expect(totalChange(all)).toBeCloseTo(24.7, 1)
  })
  it('goes back home by the same steps the other way', () => {
    const there = retuneSteps('violin', to('A3 E4 A4 E5'))
    const back = retuneSteps('violin', homeTuning('violin'), to('A3 E4 A4 E5'))
    expect(back.map(s => s.semitones + there.find(t => t.index === s.index)!.semitones)).toEqual([0, 0, 0, 0])
  })
  it('refuses what would break, with the figure', () => {
    const e = parseTuning('violin', 'G3 D4 A4 E7') as { error: TuningError }
    expect(tuningProblem('violin', e.error)).toBe(
      'E7 is 24 semitones up from the home string, +1500% tension: it would break the string or harm the instrument',
    )
  })
})

describe('tunings', () => {
  it('tension grows by an eighth for a semitone and a quarter for a tone', () => {
    expect(Math.round((tensionRatio(1) - 1) * 100)).toBe(12)
    expect(Math.round((tensionRatio(2) - 1) * 100)).toBe(26)
  })
  it('say what each string does, low to high, and warn of every string that goes up', () => {
    const { tuning } = parseTuning('violin', 'A3 E4 A4 E5') as { tuning: number[] }
    expect(retuneSteps('violin', tuning).map(s => [s.string, s.semitones, s.tensionPercent])).toEqual([
      ['G', 2, 26],
      ['D', 2, 26],
      ['A', 0, 0],
      ['E', 0, 0],
    ])
    expect(tuningFindings('violin', tuning).map(sentence)[0]).toMatch(/26% more tension.*luthier/)
    expect(tuningFindings('violin', homeTuning('violin'))).toEqual([])
  })
  it('that ship can all be read, and are written as they were', () => {
    for (const id of INSTRUMENT_IDS) {
      for (const name of CROSS_TUNINGS[id]) {
        const read = parseTuning(id, name)
        expect(read).toHaveProperty('tuning')
        if ('tuning' in read)
          expect(read.tuning).toEqual(
            name
              .split(' ')
              .map(p => midi(parsePitch(p)!))
              .reverse(),
          )
      }
    }
    expect(formatTuning(homeTuning('viola'))).toBe('C3 G3 D4 A4')
  })
  it.each([
    ['three strings', 'D4 A4 E5', 'count'],
    ['no pitch', 'G3 D4 A4 X5', 'pitch'],
    ['a string that would break', 'G3 D4 A4 E7', 'far'],
    ['strings that cross', 'D4 G3 A4 E5', 'order'],
  ])('%s are refused', (_name, text, code) =>
    expect(parseTuning('violin', text)).toMatchObject({ error: { code } }),
  )
})

describe('instruments as data', () => {
  it('have one usual size each, strings from the highest down, and a letter for each', () => {
    for (const id of INSTRUMENT_IDS) {
      const i = INSTRUMENTS[id]
      expect(i.sizes.filter(s => s.usual)).toHaveLength(1)
      expect([...i.strings]).toEqual([...i.strings].sort((a, b) => b - a))
      expect(i.letters).toHaveLength(i.strings.length)
      expect(sizeOf(id, 'no such size')).toBe(sizeOf(id))
    }
  })
  it('have frames whose fingers stand in order and reach every place up to the end of the table', () => {
    for (const id of INSTRUMENT_IDS) {
      const offsets = new Set(
        framesOf(id).flatMap(f =>
          f.reaches.flatMap(r =>
            Array.from({ length: f.highest - f.lowest + 1 }, (_, k) => f.lowest + k + r.from),
          ),
        ),
      )
      for (let n = 1; n <= INSTRUMENTS[id].highest; n++) expect(offsets.has(n), `${id} ${n}`).toBe(true)
    }
  })
})

describe('positions', () => {
  const name = (
    instrument: 'violin' | 'cello' | 'bass',
    anchor: number,
    finger: 1 | 4,
    pitch: string,
    open: string,
  ) =>
    positionName({
      instrument,
      anchor,
      shape: 'plain',
      finger,
      pitch: parsePitch(pitch)!,
      open: midi(parsePitch(open)!),
    })
  it('are counted by letters on the violin: D with 1 on the A string is third', () => {
    expect(name('violin', 5, 1, 'D5', 'A4')).toBe('third')
    expect(name('violin', 2, 1, 'Bb4', 'A4')).toBe('first')
    expect(name('violin', 1, 1, 'Bb4', 'A4')).toBe('half')
    expect(name('violin', 5, 4, 'G5', 'A4')).toBe('third')
  })
  it('follow the tables of cello and bass', () => {
    expect(name('cello', 4, 1, 'F#3', 'D3')).toBe('upper second')
    expect(name('bass', 6, 1, 'G#2', 'D2')).toBe('third-and-a-half')
  })
})

describe('a hand that stands somewhere', () => {
  it('reaches a place with its easiest finger, or not at all', () => {
    expect(reachAt('violin', 2, 3)).toMatchObject({ finger: 2, mark: 'low' })
    expect(reachAt('violin', 2, 7)).toMatchObject({ finger: 4, mark: 'home' })
    expect(reachAt('violin', 2, 12)).toBeUndefined()
    expect(reachAt('cello', 2, 6)).toBeUndefined()
    expect(reachAt('cello', 2, 6, {}, 'extended')).toMatchObject({ finger: 4, mark: 'extended' })
    expect(reachAt('bass', 2, 5)).toBeUndefined()
    expect(reachAt('bass', 2, 5, { bassHand: '1-2-3-4' })).toMatchObject({ finger: 4 })
  })
  it('of a cello never opens by the nut: that is first position reaching back', () =>
    expect(
      framesOf('cello')
        .filter(f => f.lowest <= 1)
        .flatMap(f => f.reaches)
        .every(r => r.shape === 'plain'),
    ).toBe(true))
})
