import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { arrangedOf } from '#core/arrangement/derive'
import { withKey } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import type { Change } from '#core/arrangement/change'
import { readAbc } from '#core/formats/abc/readAbc'
import { frac } from '#core/music/fraction'
import { parseKey } from '#core/music/key'
import { changeViews, keptWords, strayWords, tempoWords } from './arranging'

const tempo = (n: number, d: number, perMinute: number) => ({ beat: frac(n, d), perMinute })
const metre = { beats: 4, unit: 4 } as const

describe('a change of tempo', () => {
  it('says both, and the beat where it is another one', () => {
    expect(tempoWords({ metre, tempo: tempo(1, 1, 112) }, tempo(1, 1, 80))).toBe(
      'Slower: quarter = 80 instead of 112.',
    )
    expect(tempoWords({ metre, tempo: tempo(3, 2, 60) }, tempo(3, 2, 72))).toBe(
      'Faster: dotted quarter = 72 instead of 60.',
    )
    expect(tempoWords({ metre, tempo: tempo(2, 1, 56) }, tempo(1, 1, 112))).toBe(
      'Counted otherwise: quarter = 112 instead of half = 56.',
    )
  })
  it('measures against the tempo of the metre where the tune says none', () => {
    expect(tempoWords({ metre }, tempo(1, 1, 60))).toBe('Slower: quarter = 60 instead of 88.')
  })
  it('is none where the tempo is the tune’s own', () => {
    expect(tempoWords({ metre, tempo: tempo(1, 1, 80) }, null)).toBeNull()
    expect(tempoWords({ metre, tempo: tempo(1, 1, 80) }, tempo(1, 1, 80))).toBeNull()
  })
})

describe('changes of notes', () => {
  const tune = readAbc('X:1\nT:t\nM:4/4\nL:1/8\nK:D\nD2E2F2G2|A8|\n').tunes[0]!.tune
  const [first, second] = tune.measures[0]!.events
  const change: Change = {
    id: 'thin-1',
    kind: 'thin',
    accepted: true,
    edit: {
      do: 'replace',
      events: [first!.id, second!.id],
      by: [{ kind: 'note', duration: frac(2), heads: [{ pitch: { step: 'D', alter: 0, octave: 4 } }] }],
    },
  }
  const base = newArrangement('violin', '4/4')
  it('names the notes as they are played in the arrangement’s key', () => {
    const at = (key: string) =>
      changeViews(arrangedOf(tune, withKey(base, parseKey(key)!, tune.key), ASSUMED_HANDS), [change])[0]!
    expect(at('D')).toMatchObject({ measure: 1, sentence: 'D4 E4 thinned to D4' })
    expect(at('G').before).toMatch(/^G\d A\d$/)
  })
  it('says when its notes are gone', () => {
    const gone = { ...change, edit: { ...change.edit, events: ['nowhere'] } }
    expect(changeViews(arrangedOf(tune, base, ASSUMED_HANDS), [gone])[0]!.sentence).toBe(
      'its notes are not in the tune now',
    )
  })
  it('says where it strays from its tune, and what would help', () => {
    const all = { strongBeats: 1, phraseEnds: 1, contour: 1, rhythm: 1, line: 1 }
    expect(strayWords(all, [], 2)).toBeNull()
    expect(strayWords({ ...all, strongBeats: 0.8 }, [], 2)).toMatch(
      /^What carries the tune lies out of the hand in this key/,
    )
    expect(strayWords({ ...all, strongBeats: 0.75 }, [], 2)).toMatch(
      /^At level 2 it is hardly this tune: 25% of its strong beats are other notes\. Take it at a higher level/,
    )
  })
  it('tells what is kept in shares', () => {
    expect(keptWords({ strongBeats: 0.94, phraseEnds: 1, contour: 0.9, rhythm: 0.55, line: 1 })).toBe(
      'Kept: 94% of the strong beats, every phrase ending, 90% of the contour, 55% of the rhythm.',
    )
    expect(keptWords({ strongBeats: 1, phraseEnds: 0.5, contour: 1, rhythm: 1, line: 1 })).toContain(
      '50% of the phrase endings',
    )
  })
})
