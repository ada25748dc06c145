import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { frac, mul } from '#core/music/fraction'
import { transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { ALIKE, likeness, melodyPrint, PrintIndex } from './print'

const all = DEMO_TUNES.map(t => [t.file, readAbc(demoSource(t.file)).tunes[0]!.tune] as const)
const tune = all[0]![1]
const twiceAsLong = (t: Tune): Tune => ({
  ...t,
  metre: { ...t.metre, unit: 2 },
  measures: t.measures.map(m => ({
    ...m,
    events: m.events.map(e => ({ ...e, duration: mul(e.duration, frac(2)) })),
  })),
})

describe('melodies are known again', () => {
  it('in another key, an octave away, in other note values, under another title', () => {
    const moved = twiceAsLong(
      transposeTune({ ...tune, title: 'Another name' }, { letters: -11, semitones: -19 }),
    )
    expect(likeness(melodyPrint(tune), melodyPrint(moved))).toBe(1)
  })

  it('with a few notes changed', () => {
    const events = tune.measures[1]!.events
    const changed: Tune = {
      ...tune,
      measures: tune.measures.with(1, { ...tune.measures[1]!, events: [...events].reverse() }),
    }
    const like = likeness(melodyPrint(tune), melodyPrint(changed))
    expect(like).toBeGreaterThan(ALIKE)
    expect(like).toBeLessThan(1)
  })

  it('dotted or even: one player’s dotted tune is another’s even one', () => {
    const [dotted, even] = [
      'D>EF>G A>Bc>d|e<cA<c B>AG>F|E>FG>A F>DE>C|D3F E3C|D8|',
      'DEFG ABcd|ecAc BAGF|EFGA FDEC|D2F2 E2C2|D8|',
    ].map(m => readAbc(`X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${m}\n`).tunes[0]!.tune) as [Tune, Tune]
    expect(melodyPrint(dotted).length).toBeGreaterThan(4)
    expect(likeness(melodyPrint(dotted), melodyPrint(even))).toBe(1)
  })

  it('and different tunes are not taken for each other', () => {
    for (const [a, x] of all)
      for (const [b, y] of all)
        if (a !== b) expect(likeness(melodyPrint(x), melodyPrint(y)), `${a} ${b}`).toBeLessThan(ALIKE)
  })

  it('too short a tune tells nothing', () => {
    const short = melodyPrint(readAbc('X:1\nK:D\nDEFG|').tunes[0]!.tune)
    expect([short.length, likeness(short, short)]).toEqual([0, 0])
  })
})

describe('the index', () => {
  it('finds the likest first and forgets what is taken out', () => {
    const index = new PrintIndex()
    all.forEach(([file, t]) => index.set(file, melodyPrint(t)))
    index.set('copy', melodyPrint(transposeTune(tune, { letters: 1, semitones: 2 })))
    expect(index.alike(melodyPrint(tune), all[0]![0])).toEqual([{ id: 'copy', likeness: 1 }])
    index.delete('copy')
    expect(index.alike(melodyPrint(tune), all[0]![0])).toEqual([])
    expect([...index.all().keys()]).toEqual(all.map(([file]) => file))
  })
})
