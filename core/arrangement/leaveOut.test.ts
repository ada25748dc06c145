import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { composedAbc } from '#core/music/composed'
import { frac } from '#core/music/fraction'
import { placeMeasures } from '#core/music/timeline'
import { playOrder } from '#core/music/playOrder'
import { keyName } from '#core/music/key'
import { metreName } from '#core/music/metre'
import { formatPitch } from '#core/music/pitch'
import { withoutFacts, type Tune } from '#core/music/tune'
import { refusedFindings, toWrittenTune } from './arrange'
import { applyChanges } from './changes'
import type { Change } from './change'
import { ASSUMED_HANDS } from './context'
import { arrangedOf, derive } from './derive'
import { decided, partLeft, withoutVersion, withPlayed } from './edits'
import { withMeasuresBack, withoutMeasures } from './leaveOut'
import { arrangementSchema, newArrangement } from './recipe'

const tuneOf = (music: string, key = 'D') =>
  readAbc(`X:1\nT:t\nM:4/4\nL:1/4\nK:${key}\n${music}\n`).tunes[0]!.tune
const sung = (t: Tune) =>
  t.measures
    .map(m => m.events.map(e => (e.kind === 'note' ? formatPitch(e.heads[0]!.pitch) : 'z')).join(' '))
    .join(' | ')
const ids = (t: Tune, ...numbers: number[]) => numbers.map(n => t.measures[n]!.id)
const without = (t: Tune, ...numbers: number[]) => withoutMeasures(t, new Set(ids(t, ...numbers)))
const violin = newArrangement('violin', '4/4')

describe('measures left out', () => {
  it('are gone, and a tune without any is the very same', () => {
    const tune = tuneOf('DEFG|A4|BAGF|D4|')
    expect(sung(without(tune, 1, 2))).toBe('D4 E4 F#4 G4 | D4')
    expect(without(tune)).toBe(tune)
  })
  it('leave their key and metre to what comes after, where that goes on in them', () => {
    const tune = tuneOf('D4|[K:G]G4|[M:2/4]A2|B2|[K:D][M:4/4]d4|')
    const said = (t: Tune) => placeMeasures(t).map(p => `${keyName(p.key)} ${metreName(p.metre)}`)
    const some = without(tune, 1, 2)
    expect(said(some)).toEqual(['D major 4/4', 'G major 2/4', 'D major 4/4'])
    // Back in the key it began in, nothing changes any more.
    const between = without(tune, 1, 2, 3)
    expect(said(between)).toEqual(['D major 4/4', 'D major 4/4'])
    expect(between.measures.every(m => m.key === undefined && m.metre === undefined)).toBe(true)
  })
  it('take ties, slurs and the last barline over them along', () => {
    const tune = tuneOf('DEF(G-|G4|A2)B2|D4|]')
    const start = without(tune, 1, 2, 3)
    expect(start.measures[0]!.events.at(-1)).toMatchObject({ heads: [{ pitch: { step: 'G' } }] })
    expect(JSON.stringify(start)).not.toContain('tied')
    expect([start.slurs, start.measures[0]!.barline]).toEqual([[], 'final'])
  })
  it('take jumps whose signs they hold along, and their names in the order of parts', () => {
    const tune = tuneOf('D4!fine!|E4|F4!D.C.!|')
    expect(playOrder(tune).map(p => p.index)).toEqual([0, 1, 2, 0])
    expect(playOrder(without(tune, 0)).map(p => p.index)).toEqual([0, 1])
    const ordered = readAbc('X:1\nT:t\nP:ABA\nM:4/4\nL:1/4\nK:D\nP:A\nD4|\nP:B\nE4|\n').tunes[0]!.tune
    expect(without(ordered, 1).play.parts).toEqual(['A', 'A'])
    expect(without(ordered, 0).play.parts).toEqual(['B'])
  })
  it('come back to their places, whatever was edited meanwhile', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.array(fc.nat(), { maxLength: 5 }),
        fc.nat(),
        (seed, some, at) => {
          const tune = readAbc(composedAbc(seed)).tunes[0]!.tune
          const left = new Set(some.map(n => tune.measures[n % tune.measures.length]!.id))
          fc.pre(left.size < tune.measures.length)
          const played = withoutMeasures(tune, left)
          const order = (t: Tune) => ({ ...t, slurs: t.slurs.map(s => `${s.from} ${s.to}`).sort() })
          expect(order(withMeasuresBack(tune, left, played))).toEqual(order(tune))
          // One note longer in the tune that is played is one note longer in all of it.
          const m = at % played.measures.length
          const longer = (t: Tune, id: string): Tune => ({
            ...t,
            measures: t.measures.map(x =>
              x.id === id
                ? { ...x, events: [{ kind: 'rest', id: 'new1', duration: frac(1) } as const, ...x.events] }
                : x,
            ),
          })
          const { id } = played.measures[m]!
          expect(order(withMeasuresBack(tune, left, longer(played, id)))).toEqual(order(longer(tune, id)))
        },
      ),
    ))
})

describe('a part left out of an arrangement', () => {
  const tune = tuneOf('DEFG|A4|BAGF|D4|')
  const [, second, third] = tune.measures.map(m => m.id)
  const first = tune.measures[2]!.events[0]!.id
  const thinned: Change = {
    id: 'thin-x',
    kind: 'thin',
    accepted: true,
    edit: {
      do: 'replace',
      events: [first, tune.measures[2]!.events[1]!.id],
      by: [{ kind: 'note', duration: frac(2), heads: [{ pitch: { step: 'B', alter: 0, octave: 4 } }] }],
    },
  }
  const later: Change = {
    ...thinned,
    id: 'thin-y',
    edit: { ...thinned.edit, events: ['thin-x~1'] } as Change['edit'],
  }
  const version = withPlayed(violin, { changes: [thinned, later] })

  it('is a change like others: refused it is back, and it is kept by the documents', () => {
    const left = partLeft(violin, [second!, third!], true)
    expect(sung(arrangedOf(tune, left, ASSUMED_HANDS).tune)).toBe('D4 E4 F#4 G4 | D4')
    const back = decided(left, left.played.changes[0]!.id, false)
    expect(arrangedOf(tune, back, ASSUMED_HANDS).tune).toEqual(withoutFacts(tune))
    expect(partLeft(left, [second!, third!], false)).toEqual(violin)
    expect(arrangementSchema.parse(JSON.parse(JSON.stringify(left)))).toEqual(left)
  })
  it('lets what is changed of it wait, and says nothing of that', () => {
    const left = partLeft(version, [second!, third!], true)
    const r = arrangedOf(tune, left, ASSUMED_HANDS)
    expect(r.refused.map(x => [x.change.id, x.why])).toEqual([
      ['thin-x', 'left'],
      ['thin-y', 'left'],
    ])
    expect(refusedFindings(r.refused)).toEqual([])
    expect(sung(arrangedOf(tune, partLeft(left, [second!], false), ASSUMED_HANDS).tune)).toBe(
      'D4 E4 F#4 G4 | A4 | B4 G4 F#4 | D4',
    )
  })
  it('is never all of the tune, and of measures that are not there it is told', () => {
    const all = partLeft(
      violin,
      tune.measures.map(m => m.id),
      true,
    )
    expect(applyChanges(tune, all.played.changes)).toMatchObject({ tune, refused: [{ why: 'all' }] })
    const gone = partLeft(violin, ['m99'], true)
    expect(refusedFindings(arrangedOf(tune, gone, ASSUMED_HANDS).refused)).toHaveLength(1)
  })
  it('stays out where another version is made', () => {
    const left = partLeft(version, [second!], true)
    expect(withoutVersion(left).played.changes.map(c => c.kind)).toEqual(['leave'])
  })
  it('goes through every stage, and an edit of what is played leaves it in the tune', () => {
    const left = partLeft(
      withPlayed(violin, { key: { step: 'G', alter: 0, mode: 'major' } }),
      [second!, third!],
      true,
    )
    const d = derive(tune, left, ASSUMED_HANDS)
    expect(d.fingering.notes).toHaveLength(5)
    expect(d.bowing.strokes.length).toBe(5)
    expect(toWrittenTune(d.arranged, d.tune)).toEqual(tune)
  })
})
