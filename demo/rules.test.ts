import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive, type Derived } from '#core/arrangement/derive'
import { cuesOf } from '#core/teach/cues'
import { landmarkText } from '#core/teach/landmark'
import { ornamentsOf } from '#core/teach/ornaments'
import { shapeChanges } from '#core/teach/shapes'
import { ossiaOf } from '#core/fingering/ossia'
import { whySentence } from '#core/words/why'
import { readAbc } from '#core/formats/abc/readAbc'
import { demoSource } from './fillShelf'
import { DEMO_TUNES } from './shelf'

/** A demo tune as one of its arrangements plays it. */
function demo(file: string, arrangement = 0): Derived {
  const shown = DEMO_TUNES.find(t => t.file === `${file}.abc`)!
  return derive(
    readAbc(demoSource(shown.file)).tunes[0]!.tune,
    shown.arrangements[arrangement]!,
    ASSUMED_HANDS,
  )
}
const skylark = demo('skylark-over-hethering')
const kettles = demo('two-kettles-on-the-hob')
const stair = demo('lighthouse-stair')
const stomp = demo('low-barn-stomp')
const at = (d: Derived, measure: number) => d.fingering.notes.filter(n => n.measure === measure)
const fingers = (d: Derived, measure: number) =>
  at(d, measure)
    .map(n => n.finger)
    .join(' ')
const chords = (d: Derived) =>
  d.fingering.problem.tones.map((_, i) => d.fingering.problem.states[i]![d.fingering.tables.path[i]!]!.places)

describe('every rule of the left hand is seen in a demo tune', () => {
  it('the fourth finger saves a crossing, the open string serves where the line goes on, the other line stands beside', () => {
    const a = at(skylark, 1).filter(n => n.pitch.step === 'A')
    expect(a.map(n => n.finger)).toContain(4)
    expect(at(skylark, 3).map(n => n.finger)).toContain(0)
    expect(ossiaOf(skylark.fingering, 'noFourth').size).toBeGreaterThan(0)
    const reasons = skylark.fingering.problem.tones.map((_, i) => whySentence(skylark.fingering, i))
    expect(reasons.some(r => /^4 on D: the open A would cross strings/.test(r))).toBe(true)
  })
  it('a tune stays on its string by a shift between 1 and 2, where the fourth is preferred', () =>
    expect(fingers(demo('low-barn-stomp', 1), 1)).toBe('0 1 2 4 2 1 0'))
  it('every shift has the tempo it holds to and its landmark', () => {
    expect(stomp.shifts.length).toBeGreaterThan(2)
    expect(stomp.shifts.every(s => s.ceiling.perMinute > 0)).toBe(true)
    expect(stair.shifts.map(landmarkText).some(t => /^1 goes where 4 was|1 goes beyond/.test(t))).toBe(true)
  })
  it('half steps are taken a handful at a time, with one move', () => {
    expect(fingers(stair, 3)).toMatch(/^0 1 2 3 (4 )?1 2/)
  })
  it('a cellist may shift or reach', () =>
    expect(demo('lighthouse-stair', 1).fingering.notes.map(n => n.anchor)).not.toEqual(
      stair.fingering.notes.map(n => n.anchor),
    ))
  it('one finger is laid over two strings, and one hops', () => {
    expect(skylark.blocks.length).toBeGreaterThan(1)
    expect(cuesOf(kettles.fingering).map(c => c.kind)).toContain('hop')
  })
  it('fingers stay down, and are put ready over open strings', () => {
    expect(kettles.holds.length).toBeGreaterThan(0)
    expect(cuesOf(skylark.fingering).map(c => c.kind)).toContain('prepare')
  })
  it('the hand changes its shape in mid-phrase, by a finger that slides while the hand stays', () => {
    expect(shapeChanges(kettles.fingering).length).toBeGreaterThan(0)
    expect(cuesOf(kettles.fingering).map(c => c.kind)).toContain('slide')
  })
  it('low and high fingers are marked against home', () => {
    const marks = ['half-step-study', 'brindlewick-bridge'].flatMap(t =>
      demo(t).fingering.notes.map(n => n.mark),
    )
    expect(marks).toEqual(expect.arrayContaining(['low', 'home', 'high']))
  })
  it('the same fingers play one string over', () =>
    expect(kettles.form.phrases.flatMap(p => p.kin.map(k => k.relation))).toContain('same fingers'))
  it('double stops: drone above and below, unison with the open string, a fifth, two fingers', () => {
    const kinds = chords(kettles)
      .filter(c => c.length === 2)
      .map(([p, q]) =>
        p!.finger === 0 && q!.finger === 0
          ? 'open'
          : q!.finger === 0
            ? p!.finger === 4
              ? 'unison'
              : 'drone above'
            : p!.finger === 0
              ? 'drone below'
              : p!.finger === q!.finger
                ? 'fifth'
                : 'two fingers',
      )
    expect([...new Set(kinds)].sort()).toEqual([
      'drone above',
      'drone below',
      'fifth',
      'open',
      'two fingers',
      'unison',
    ])
  })
  it('ornaments have fingers and a tempo they need', () => {
    const found = ornamentsOf(kettles.fingering, kettles.tune)
    expect(found.map(o => o.kind).sort()).toEqual(['grace', 'roll', 'slide'])
    expect(found.every(o => o.fingers.every(f => f.finger !== null))).toBe(true)
  })
  it('a sound is a reason: the covered part lies higher up', () => {
    const height = (d: Derived) =>
      d.fingering.notes.filter(n => n.measure >= 5 && n.measure <= 8).reduce((t, n) => t + n.offset, 0)
    expect(height(demo('two-kettles-on-the-hob', 1))).toBeGreaterThan(height(kettles))
  })
  it('a cue for the body hangs on a note', () =>
    expect(kettles.tune.measures.flatMap(m => m.events.flatMap(e => e.remarks ?? []))).toContain(
      'thumb loose here',
    ))
})
