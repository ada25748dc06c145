import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { arrangedOf, derive } from '#core/arrangement/derive'
import { withoutVersion, withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { gradeOf } from '#core/grading/demands'
import { tableFor } from '#core/grading/fit'
import { sizeOf } from '#core/instruments/instruments'
import { newLearner, type Learner } from '#core/instruments/learner'
import { add, compare, ZERO } from '#core/music/fraction'
import { parseKey, type Key } from '#core/music/key'
import { formatPitch } from '#core/music/pitch'
import { emptyTune, type InstrumentId, type Tune } from '#core/music/tune'
import type { Level } from '#core/levels/levels'
import { changeViews, keptWords } from '#core/words/arranging'
import { demoSource } from '#demo/fillShelf'
import { easier } from './easier'
import { groupsOf } from './groups'
import { keptOf } from './kept'

const tuneFrom = (music: string, head = 'M:4/4\nL:1/8\nQ:1/4=80\nK:D') =>
  readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const plain = (i: InstrumentId) => newArrangement(i, sizeOf(i).name)
const ease = (tune: Tune, level: Level, i: InstrumentId = 'violin', refused?: ReadonlySet<string>) =>
  easier(tune, plain(i), { level, context: ASSUMED_HANDS, ...(refused && { refused }) })
const notes = (t: Tune) =>
  t.measures
    .flatMap(m =>
      m.events.flatMap(e =>
        e.kind === 'note' ? [`${formatPitch(e.heads.at(-1)!.pitch)}:${e.duration.n}/${e.duration.d}`] : [],
      ),
    )
    .join(' ')
const version = (tune: Tune, level: Level, i?: InstrumentId) =>
  applyChanges(tune, ease(tune, level, i).recipe.played.changes).tune

describe('easier', () => {
  it('changes nothing where nothing asks for more', () => {
    const tune = tuneFrom('D2E2F2G2|A2B2c2d2|d2c2B2A2|D8|')
    expect(ease(tune, 1)).toMatchObject({ changes: [], blocked: [], tempo: 1 })
  })
  it('after a change of key takes its notes from the new key', () => {
    const tune = tuneFrom(
      'E2F2G2A2|B2A2G2E2|E8|[K:E]G2A2B2e2|e2d2c2B2|G2A2B2c2|B2A2G2F2|E8|',
      'M:4/4\nL:1/8\nQ:1/4=60\nK:Em',
    )
    const made = version(tune, 3, 'cello')
    const changed = made.measures
      .slice(3)
      .flatMap(m => m.events.flatMap(e => (e.kind === 'note' ? [formatPitch(e.heads[0]!.pitch)] : [])))
    expect(changed.filter(p => /^[CDG]\d/.test(p))).toEqual([])
  })
  it('gives a note that is tied over the bar one pitch, and keeps its tie', () => {
    const tune = tuneFrom('E2G2 B2c2-|c2B2 A2B2|e8|', 'M:4/4\nL:1/8\nQ:1/4=60\nK:Em')
    const made = version(tune, 1)
      .measures.flatMap(m => m.events)
      .flatMap(e => (e.kind === 'note' ? [e] : []))
    const [held, on] = made.slice(3, 5).map(e => e.heads[0]!)
    expect(['D5', 'E5']).toContain(formatPitch(held!.pitch))
    expect(on!.pitch).toEqual(held!.pitch)
    expect([held!.tied, on!.tied]).toEqual([true, undefined])
  })
  it('for a learner, leaves out what a teacher says is not known yet, and keeps what is known early', () => {
    const tune = tuneFrom('D2E2F2G2|A2c2B2A2|D2F2E2D2|D8|', 'M:4/4\nL:1/8\nQ:1/4=80\nK:Ddor')
    const asks = (skills: Learner['skills'], level: 2) => {
      const who: Learner = { ...newLearner('l', 'M.', 'violin', sizeOf('violin').name), level, skills }
      const { recipe } = easier(tune, plain('violin'), {
        level,
        context: ASSUMED_HANDS,
        table: tableFor(who, {}),
      })
      const { demands } = gradeOf(derive(tune, recipe, ASSUMED_HANDS), recipe)
      return {
        low2: demands.some(d => d.asked.kind === 'skill' && d.asked.skill === 'low2'),
        changes: recipe.played.changes.length,
      }
    }
    expect(asks({}, 2)).toEqual({ low2: true, changes: 0 })
    expect(asks({ low2: 'notYet' }, 2)).toMatchObject({ low2: false })
  })
  it('for a learner who was found to be slower or faster than the level, goes by that', () => {
    const tune = tuneFrom('DEFG ABAG|FEDE F2A2|dcBA GABc|d4D4|', 'M:4/4\nL:1/8\nQ:1/4=96\nK:D')
    const at = (fastest: number | null) =>
      easier(tune, plain('violin'), { level: 3, context: ASSUMED_HANDS, fastest })
    expect(at(null)).toMatchObject({ tempo: 1, blocked: [] })
    expect(at(2.6)).toMatchObject({ tempo: 0.8, blocked: [] })
    const quick = tuneFrom('DEFG ABAG|FEDE F2A2|dcBA GABc|d4D4|', 'M:4/4\nL:1/8\nQ:1/4=132\nK:D')
    expect(easier(quick, plain('violin'), { level: 2, context: ASSUMED_HANDS }).tempo).toBeLessThan(1)
    expect(easier(quick, plain('violin'), { level: 2, context: ASSUMED_HANDS, fastest: 4.8 }).tempo).toBe(1)
  })
  it('can be made anew from a version of another level: nothing of that one stays but what the teacher set since', () => {
    const tune = tuneFrom("(DEFG ABcd)|f'd'f'd' a4|(dcBA GABc)|d4D4|", 'M:4/4\nL:1/8\nQ:1/4=132\nK:D')
    const own = plain('cello')
    const low = ease(tune, 1, 'cello').recipe
    expect(low.played.eased).toMatchObject({ tempo: low.played.tempo, octave: low.played.octave })
    expect(low.played.tempo).not.toBeNull()
    expect(low.played.eased!.parted.length).toBeGreaterThan(0)
    expect(withoutVersion(low)).toEqual(own)
    const slower = { beat: { n: 1, d: 1 }, perMinute: 50 }
    const since = withPlayed(low, {
      tempo: slower,
      pins: { ...low.played.pins, joins: { ...low.played.pins.joins, n5: true } },
    })
    expect(withoutVersion(since).played).toMatchObject({
      tempo: slower,
      octave: 'auto',
      pins: { joins: { n5: true } },
    })
    expect(withoutVersion(own)).toBe(own)
  })
  it('where the hand would change its shape, gives up the odd note, and nothing that need not go', () => {
    // The cello's third year keeps one shape through a phrase: the E flat and the F sharps go, the cadence
    // with A and D stays.
    const tune = tuneFrom(
      'D2|G3A B2|A2 G2 F2|G3 A Bc|d4 ef|g3 f e2|d2 c2 B2|A2 D2 ^F2|G4|]',
      'M:3/4\nL:1/8\nQ:1/4=72\nK:Gm',
    )
    const made = ease(tune, 3, 'cello')
    expect(made.blocked).toEqual([])
    const after = notes(applyChanges(tune, playedChanges(made.recipe.played)).tune)
    expect(after).toMatch(/A4:1\/1 D4:1\/1 \S+ G4:2\/1$/)
    expect(made.changes.filter(c => c.kind !== 'slur').length).toBeLessThanOrEqual(3)
  })
  it.each<[string, string, Level, string]>([
    ['eighths are thinned to the note on the beat', 'DEFG A2d2|', 1, 'D4:1/1 F#4:1/1 A4:1/1 D5:1/1'],
    ['a dotted pair is evened out, both notes stay', 'D3E F2G2|', 2, 'D4:1/1 E4:1/1 F#4:1/1 G4:1/1'],
    ['a triplet gives way to what its beat begins with', '(3DEFG2A4|', 1, 'D4:1/1 G4:1/1 A4:2/1'],
    ['of two notes together the upper stays', '[DA]4[EB]4|', 1, 'A4:2/1 B4:2/1'],
    [
      'a pushed note begins on its beat, and none is lost where eighths are read',
      'DG2AB2d2|ed2B-B4|',
      2,
      'D4:1/1 G4:1/2 A4:1/2 B4:1/1 D5:1/1 E5:1/1 D5:1/1 B4:2/1',
    ],
    ['a syncopation comes back on the beat', 'DF2A2F2D|', 1, 'D4:1/1 F#4:1/1 A4:1/1 F#4:1/1'],
  ])('%s', (_name, music, level, expected) => expect(notes(version(tuneFrom(music), level))).toBe(expected))
  it('takes ornaments off and parts slurs before their time', () => {
    const e = ease(tuneFrom('!roll!D2{e}F2(A2B2)|'), 1)
    expect(e.changes.map(c => c.kind).sort()).toEqual(['plain', 'plain', 'unslur'])
    expect(e.grade.level).toBe(1)
  })
  it('leaves the pickup out for a beginner: no rest stays in its place, and the last note lasts to the end of its measure', () => {
    expect(notes(version(tuneFrom('A2|d2c2B2A2|D6|'), 1))).toBe('D5:1/1 C#5:1/1 B4:1/1 A4:1/1 D4:4/1')
    // Two notes of one height at the end are one then.
    expect(notes(version(tuneFrom('A|d3 c3|D3 D2|', 'M:6/8\nL:1/8\nQ:3/8=60\nK:D'), 1))).toBe(
      'D5:3/2 C#5:3/2 D4:3/1',
    )
    const all = ease(tuneFrom('A2|d2c2B2A2|D6|'), 1)
    expect(all.changes.map(c => c.kind)).toEqual(['pickup', 'fill'])
    // Refused, it stays, and so does the last note.
    const kept = ease(tuneFrom('A2|d2c2B2A2|D6|'), 1, 'violin', new Set([all.changes[0]!.id]))
    expect(kept.changes).toEqual([])
    expect(kept.blocked.length).toBeGreaterThan(0)
  })
  it('puts a near note in the place of one out of the hand, not the same as its neighbours', () => {
    const e = ease(tuneFrom('D2E2=F2G2|A8|'), 1)
    expect(e.changes.map(c => c.kind)).toContain('replace')
    expect(e.grade.level).toBe(1)
  })
  it('leaves no note that the instrument has not', () => {
    const low = tuneFrom('F2E2D2C2|B,2A,2G,2F,2|E,4D,4|G,8|', 'M:4/4\nL:1/8\nQ:1/4=80\nK:C')
    for (const level of [1, 2, 3] as const) {
      const own = easier(low, withPlayed(plain('violin'), { octave: 0 }), { level, context: ASSUMED_HANDS })
      expect(own.off).toEqual([])
      expect(own.derived.findings.filter(f => f.severity === 'error')).toEqual([])
    }
  })
  it('goes to the tempo of the level, and lightens a run only where it goes on over beats and strings', () => {
    const fast = tuneFrom('DEFG ABcd|dcBA GFED|', 'M:4/4\nL:1/8\nQ:1/4=140\nK:D')
    const e = ease(fast, 2)
    expect(e.changes.filter(c => c.kind !== 'slur').map(c => c.kind)).toEqual(['lighten', 'lighten'])
    expect(e.recipe.played.tempo!.perMinute).toBe(88)
  })
  it('takes a refusal by its id, and leaves that place as it was', () => {
    const tune = tuneFrom('DEFG A2d2|')
    const [first] = ease(tune, 1).changes
    const again = ease(tune, 1, 'violin', new Set([first!.id]))
    expect(again.changes.map(c => c.id)).not.toContain(first!.id)
    expect(again.blocked.length).toBeGreaterThan(0)
  })
  it('gives the same changes the same ids', () => {
    const tune = tuneFrom('DEFG A2d2|')
    expect(ease(tune, 1).changes).toEqual(ease(tune, 1).changes)
  })
  it('says what stands in the way when a level can’t be reached', () => {
    const flats = tuneFrom('_B2_e2_a2_B2|', 'M:4/4\nL:1/8\nQ:1/4=80\nK:Cb')
    expect(ease(flats, 1).blocked.length).toBeGreaterThan(0)
  })
  it('of an empty tune, of rests and of one note is told plainly', () => {
    for (const tune of [emptyTune('t'), tuneFrom('z8|'), tuneFrom('D8|')])
      expect(ease(tune, 1)).toMatchObject({ changes: [], blocked: [] })
  })
  it('keeps measures, their number and their length, whatever the tune', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            'DEFG A2d2|',
            '(3DEFG2A3B|',
            '[DA]4z2(EF)|',
            'D/E/F/G/ A>B c2d2|',
            'DF2A2F2D|',
            '=f2_B2^c2g2|',
          ),
          { minLength: 1, maxLength: 5 },
        ),
        fc.constantFrom<Level>(1, 2, 3),
        fc.constantFrom<InstrumentId>('violin', 'viola', 'cello', 'bass'),
        (bars, level, i) => {
          const tune = tuneFrom(bars.join(''))
          const v = version(tune, level, i)
          const lengths = (t: Tune) =>
            t.measures.map(m => m.events.reduce((n, e) => add(n, e.duration), ZERO))
          lengths(v).forEach((l, k) => expect(compare(l, lengths(tune)[k]!)).toBe(0))
        },
      ),
      { numRuns: 25 },
    )
  })
})

describe('a version of a demo tune', () => {
  const cases = [
    'brindlewick-bridge.abc',
    'heron-on-saltmarsh-lane.abc',
    'tannery-band-steps-out.abc',
    'little-bell-round.abc',
  ].flatMap(f =>
    (['violin', 'cello'] as const).flatMap(i => ([1, 2, 3] as const).map(l => [f, i, l] as const)),
  )
  it.each(cases)('%s for the %s at level %i asks no more than that, or says what does', (file, i, level) => {
    const tune = readAbc(demoSource(file)).tunes[0]!.tune
    const e = ease(tune, level, i)
    const d = derive(tune, e.recipe, ASSUMED_HANDS)
    expect(d.arranged.refused).toEqual([])
    // Graded anew, from the recipe alone.
    const over = gradeOf(d, e.recipe).demands.filter(x => x.level > level)
    expect(over).toEqual(e.blocked)
    // Only what no change of notes can mend may stand in the way.
    expect(
      over.every(
        x => x.asked.kind === 'skill' && ['flats', 'moreFlats', 'moreSharps'].includes(x.asked.skill),
      ),
    ).toBe(true)
    const kept = keptOf(tune, applyChanges(tune, e.recipe.played.changes).tune, d.tempo)
    // A chord note on a strong beat may go for what leads on; most stay.
    if (level >= 2) expect(kept.strongBeats).toBeGreaterThanOrEqual(0.78)
  })
})

describe('what is kept', () => {
  const tune = tuneFrom('DEFG A2d2|d2c2B2A2|D8|')
  const tempo = { beat: { n: 1, d: 1 }, perMinute: 80 }
  it('of the tune itself is everything', () =>
    expect(keptOf(tune, tune, tempo)).toEqual({
      strongBeats: 1,
      phraseEnds: 1,
      contour: 1,
      rhythm: 1,
      line: 1,
    }))
  it('is less where notes go or others come', () => {
    const v = version(tune, 1)
    const k = keptOf(tune, v, tempo)
    expect(k.strongBeats).toBe(1)
    expect(k.rhythm).toBeLessThan(1)
    expect(keptWords(k)).toMatch(
      /^Kept: 100% of the strong beats, every phrase ending, 100% of the contour, \d+% of the rhythm\.$/,
    )
  })
})

it('groups go from beat to beat, and cover each measure whole', () => {
  const tune = tuneFrom('A|D3E F2G2|DF2A2F2D|z8|')
  expect(groupsOf(tune).map(g => g.events.length)).toEqual([1, 2, 1, 1, 5, 1])
})

it('changes are said with what was there and what comes', () => {
  const tune = tuneFrom('DEFG A2d2|')
  const { changes } = ease(tune, 1).recipe.played
  const said = (key: Key | null, octave: number) =>
    changeViews(
      arrangedOf(tune, withPlayed(newArrangement('violin', '4/4'), { key, octave }), ASSUMED_HANDS),
      changes,
    )[0]
  expect(said(null, 0)).toMatchObject({ measure: 1, accepted: true, sentence: 'D4 E4 thinned to D4' })
  // In the key and octave it is played in, as they stand in the score.
  expect(said(parseKey('G'), 0)!.sentence).toBe('G4 A4 thinned to G4')
  expect(said(null, -1)!.sentence).toBe('D3 E3 thinned to D3')
})
