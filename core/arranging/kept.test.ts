import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { isMangled, keptInAll, keptOf, unchanged, type Kept } from './kept'

const tuneFrom = (music: string) =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nQ:1/4=80\nK:D\n${music}\n`).tunes[0]!.tune
const tune = tuneFrom('DFAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|')
const kept = (music: string) => keptOf(tune, tuneFrom(music), { beat: { n: 1, d: 1 }, perMinute: 80 })

describe('what is kept of a tune', () => {
  it('is all of it where nothing changed', () => {
    const all = keptOf(tune, tune, { beat: { n: 1, d: 1 }, perMinute: 80 })
    expect(all).toEqual({ strongBeats: 1, phraseEnds: 1, contour: 1, rhythm: 1, line: 1 })
    expect(keptInAll(all)).toBe(4)
    expect(unchanged(tune, tune)).toBe(1)
  })
  it('counts strong beats by their pitch class: an octave lower is the same note, another note is not', () => {
    expect(kept('D,FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').strongBeats).toBe(1)
    // One of fifteen notes on a first or third beat.
    expect(kept('EFAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').strongBeats).toBe(0.933)
    expect(kept('DEAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').strongBeats).toBe(1)
  })
  it('hears the tune under a drone as over one', () => {
    const drones = kept('[Dd]FAF|[GD]BAG|FAdA|[BG]AG2|dcBA|GFED|FGAF|E[Dd]2z|')
    expect(drones).toEqual({ strongBeats: 1, phraseEnds: 1, contour: 1, rhythm: 1, line: 1 })
    expect(unchanged(tune, tuneFrom('[Dd]FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|'))).toBe(1)
  })
  it('hears the tune among notes that sound together, whichever of them it is', () => {
    // The drone lies over the tune, and is not of its pitch class.
    const over = kept('[DA]FAF|[GB]BAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|')
    expect(over).toEqual({ strongBeats: 1, phraseEnds: 1, contour: 1, rhythm: 1, line: 1 })
    // An octave of the tune’s note among them is that note; others are not.
    expect(kept('[D,A]FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').strongBeats).toBe(1)
    expect(kept('[E,A]FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').strongBeats).toBe(0.933)
  })
  it('misses what does not sound yet', () => {
    // The version comes in after the first two strong beats: neither they nor the way between them and from
    // them is there.
    const late = kept('z4|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|')
    expect(late.strongBeats).toBe(0.867)
    expect(late.contour).toBe(0.857)
  })
  it('follows the line: a note that goes another octave than the one before leaves it, and so does another note', () => {
    // Down an octave and back: the first goes down with nothing before it, the second comes back.
    expect(kept('D,FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').line).toBe(0.966)
    // Another note leaves it once: after it the line is taken up again.
    expect(kept('DEAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').line).toBe(0.966)
    expect(kept('EFAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').line).toBe(0.966)
    // All of it an octave lower is the line as it was; notes between those of the tune are not asked.
    expect(kept('D,F,A,F,|G,B,A,G,|F,A,DA,|B,A,G,2|DCB,A,|G,F,E,D,|F,G,A,F,|E,D,2z|').line).toBe(1)
    expect(kept('D/E/FAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|').line).toBe(1)
  })
  it('is all there where a tune has no strong beat to lose', () => {
    const rests = tuneFrom('z4|z4|')
    expect(keptOf(rests, rests, { beat: { n: 1, d: 1 }, perMinute: 80 })).toEqual({
      strongBeats: 1,
      phraseEnds: 1,
      contour: 1,
      rhythm: 1,
      line: 1,
    })
  })
  it('hears when a phrase ends otherwise', () => {
    const other = kept('DFAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|EA2z|')
    expect(other.phraseEnds).toBeLessThan(1)
    expect(isMangled(other, [{ kind: 'replace' }])).toBe(true)
  })
  it('hears an ending that comes later in a plainer rhythm, and not one that is gone', () => {
    const snapped = tuneFrom('DFAF|GBAG|FAdA|B3/A/ F/G3/|dcBA|GFED|FGAF|ED2z|')
    const as = (end: string) =>
      keptOf(snapped, tuneFrom(`DFAF|GBAG|FAdA|B3/A/ ${end}|dcBA|GFED|FGAF|ED2z|`), {
        beat: { n: 1, d: 1 },
        perMinute: 80,
      }).phraseEnds
    expect(as('FG')).toBe(1)
    expect(as('F2')).toBeLessThan(1)
  })
  it('follows the way from strong beat to strong beat', () => {
    expect(kept('D2A2|G2A2|F2d2|B2G2|d2B2|G2E2|F2A2|ED2z|').contour).toBe(1)
    expect(kept('A2D2|G2A2|F2d2|B2G2|d2B2|G2E2|F2A2|ED2z|').contour).toBeLessThan(1)
  })
  it('counts the beginnings of notes that are still there', () => {
    expect(kept('D2A2|G2A2|F2d2|B2G2|d2B2|G2E2|F2A2|ED2z|').rhythm).toBeCloseTo(16 / 29, 3)
  })
  it('tells notes at their own height from those an octave away', () => {
    expect(unchanged(tune, tuneFrom('dFAF|GBAG|FAdA|BAG2|dcBA|GFED|FGAF|ED2z|'))).toBeCloseTo(28 / 29, 3)
    expect(unchanged(tuneFrom('z4|'), tune)).toBe(1)
  })
  it('calls a tune mangled when its beats, its ways or its endings are not its own', () => {
    const all: Kept = { strongBeats: 1, phraseEnds: 1, contour: 1, rhythm: 0.2, line: 1 }
    const replaced = [{ kind: 'replace' }]
    expect(isMangled(all, replaced)).toBe(false)
    expect(isMangled({ ...all, strongBeats: 0.89 }, [])).toBe(true)
    expect(isMangled({ ...all, contour: 0.79 }, [])).toBe(true)
    expect(isMangled({ ...all, line: 0.79 }, [])).toBe(true)
    expect(isMangled({ ...all, phraseEnds: 0.75 }, replaced)).toBe(true)
    // Lost to a plainer rhythm it is lost in every key.
    expect(isMangled({ ...all, phraseEnds: 0.75 }, [{ kind: 'thin' }])).toBe(false)
    expect(isMangled({ ...all, phraseEnds: 0.75 }, [{ kind: 'thin' }, { kind: 'replace' }])).toBe(true)
    expect(isMangled({ ...all, strongBeats: 0.9, contour: 0.8, line: 0.8 }, [])).toBe(false)
  })
})
