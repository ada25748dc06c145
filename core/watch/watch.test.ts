import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { checkTune } from '#core/findings/checkTune'
import { composedAbc } from '#core/music/composed'
import { keyName } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'
import { watch } from './watch'
import { warmUps } from './warmUps'

const derived = (
  music: string,
  key = 'D',
  instrument: InstrumentId = 'violin',
  changes: Partial<Arrangement> = {},
) =>
  derive(
    readAbc(`X:1\nT:Try\nM:4/4\nL:1/4\nQ:1/4=90\nK:${key}\n${music}\n`).tunes[0]!.tune,
    { ...newArrangement(instrument, sizeOf(instrument).name), ...changes },
    ASSUMED_HANDS,
  )
const look = (music: string, key = 'D', instrument: InstrumentId = 'violin') =>
  watch(derived(music, key, instrument), { instrument })

describe('watch these', () => {
  it('in G every C is low: second finger beside the first on A', () => {
    const w = look('G A B c | d c B A |]', 'G')
    expect(w.keyLine).toBe('G major: one sharp, so every F is sharp. F does not occur in this tune.')
    expect(w.away.map(p => [formatPitch(p.pitch), p.finger, p.mark])).toEqual([['C5', 2, 'low']])
    expect(w.touching.map(t => t.sentence)).toEqual(['A string: 1 and 2 touch (B, C).'])
    expect([w.range!.lowest, w.range!.highest].map(formatPitch)).toEqual(['G4', 'D5'])
  })

  it('fingers touch within one hand only, not a hand and the next one', () => {
    // 4 on D at home, then the hand goes up and 1 lies on E flat: they are never down together.
    const said = [1, 8, 9, 15].flatMap(n =>
      (['cello', 'bass', 'violin'] as const).flatMap(i => {
        const { tune } = readAbc(composedAbc(n)).tunes[0]!
        const w = watch(derive(tune, newArrangement(i, sizeOf(i).name), ASSUMED_HANDS), { instrument: i })
        return w.touching.flatMap(t => [...t.sentence.matchAll(/(\d) and (\d) touch/g)])
      }),
    )
    expect(said.length).toBeGreaterThan(10)
    expect(said.filter(([, a, b]) => Number(a) >= Number(b)).map(([text]) => text)).toEqual([])
  })
  it('names a finger that moves in mid-tune, with its place', () => {
    const w = look('F E D E | =F E D2 | ^F4 |]')
    expect(w.moved.map(m => m.sentence)).toEqual([
      'Measure 2: F♮ after F♯ on the D string; finger 2 moves back a half step.',
      'Measure 3: F♯ after F♮ on the D string; finger 2 moves up a half step.',
    ])
  })

  it('lists the notes a learner has not met', () => {
    const known = new Set(['D4', 'E4', 'F#4', 'G4', 'A4'])
    const w = watch(derived('D E F G | A B A2 |]'), { instrument: 'violin', known })
    expect(w.places.filter(p => p.fresh).map(p => formatPitch(p.pitch))).toEqual(['B4'])
    expect(w.places.find(p => formatPitch(p.pitch) === 'A4')!.ids).toHaveLength(2)
  })

  it('names what lies off the instrument', () => {
    expect(look('F,, D F A |]').off.map(n => formatPitch(n.pitch))).toEqual(['F#2'])
  })

  it('hears a phrase that passes through another key', () => {
    const w = look('DFAd|fedA|FGAB|d4|"A"A^GAB|cde^g|a^gec|A4|d2dd|A2F2|EFGE|D4|]')
    expect(keyName(w.phrases[1]!.key)).toBe('A major')
    expect([w.phrases[0]!.sameAsTune, w.phrases[1]!.sameAsTune, w.phrases[2]!.sameAsTune]).toEqual([
      true,
      false,
      true,
    ])
    expect(w.phrases[1]!.scale.join(' ')).toBe('A B C♯ D E F♯ G♯')
  })

  it('is quiet about a tune without notes', () => {
    const d = derive(
      { ...readAbc('X:1\nK:D\nA|').tunes[0]!.tune, measures: [] },
      newArrangement('violin', 'full'),
      ASSUMED_HANDS,
    )
    expect(watch(d, { instrument: 'violin' })).toMatchObject({
      range: null,
      places: [],
      moved: [],
      phrases: [],
    })
    expect(warmUps(d, 'violin')).toEqual([])
  })
})

describe('warm-ups', () => {
  const pitches = (w: { tune: { measures: readonly { events: readonly unknown[] }[] } }) =>
    w.tune.measures
      .flatMap(m => m.events)
      .map(e => (e as { heads: { pitch: never }[] }).heads.map(h => formatPitch(h.pitch)).join('+'))
      .join(' ')

  it('begin with the scale of the tune, up and down from its tonic', () => {
    const [first] = warmUps(derived('A, D F A | d A F D |]'), 'violin')
    expect(pitches(first!)).toBe('D4 E4 F#4 G4 A4 B4 C#5 D5 C#5 B4 A4 G4 F#4 E4 D4')
  })

  it('take the tune’s shift and its double stops out, apart and together', () => {
    const list = warmUps(derived("[DA]2 e f | a b c' d' | [GB]4 |]"), 'violin')
    const stops = list.find(w => w.kind === 'doubleStop')!
    expect(pitches(stops)).toMatch(/^D4 A4 D4\+A4 D4\+A4 G4 B4 G4\+B4/)
    const shift = list.find(w => w.kind === 'shift')!
    expect(shift.why).toMatch(/mm, by itself.*No pain/)
    const [a, b] = pitches(shift).split(' ')
    expect(pitches(shift)).toBe([a, b, a, b, a, b, a, b].join(' '))
  })

  it('practise the shift itself: its two places in turn, as they are in the tune', () => {
    const d = derived(
      'E3/2 B/ B/A/B/ G A/|B3/2 e e/d/B/ d/B/A/|E3/2 B/ B/A/B/ g e/|d B/ A/G/A/ B/G/E/|e3/2 f/ g/f/e/ d/B/d/|e2|',
      'Em clef=alto',
      'viola',
    )
    const shift = warmUps(d, 'viola').find(w => w.kind === 'shift')!
    const plain = newArrangement('viola', sizeOf('viola').name)
    const recipe = {
      ...plain,
      played: { ...plain.played, pins: { ...plain.played.pins, fingers: shift.pins } },
    }
    const own = derive(shift.tune, recipe, ASSUMED_HANDS)
    expect(own.findings.filter(f => f.code.startsWith('finger.pin'))).toEqual([])
    expect(own.shifts.length).toBe(7)
    const hardest = d.shifts.toSorted((a, b) => b.mm - a.mm)[0]!
    for (const s of own.shifts) expect(s.mm).toBe(hardest.mm)
  })

  it('are tunes one can play: bars full, on the instrument', () => {
    for (const instrument of ['violin', 'viola', 'cello', 'bass'] as const) {
      const d = derived('D F A d | e d c B | A2 F2 | D4 |]', 'D', instrument)
      for (const w of warmUps(d, instrument)) {
        expect(checkTune(w.tune).filter(f => f.code === 'tune.barLong')).toEqual([])
        const again = derive(
          { ...w.tune, instrument },
          newArrangement(instrument, sizeOf(instrument).name),
          ASSUMED_HANDS,
        )
        expect(
          again.findings.filter(f => f.severity === 'error'),
          `${instrument}: ${w.name}`,
        ).toEqual([])
      }
    }
  })
})
