import { describe, expect, it } from 'vitest'
import { finding, type Mend } from '#core/findings/finding'
import { BOW_SCHOOLS, BOW_WAYS } from '#core/bowing/schools'
import { bowed } from '#core/bowing/testing'
import { MAY_ALL } from '#core/bowing/schools'
import { measuresText } from './places'
import {
  bowEditsWords,
  driftWords,
  effectWords,
  groupedFindings,
  offerWords,
  placeWords,
  WAY_WORDS,
  whyStroke,
} from './bow'

describe('the words of the bow', () => {
  it.each([
    [[3], 'measure 3'],
    [[3, 4], 'measures 3 and 4'],
    [[6, 3, 4, 5, 9], 'measures 3 to 6 and 9'],
    [[1, 3, 5, 6], 'measures 1, 3, 5 and 6'],
    [[0], 'the pickup'],
    [[3, 0], 'the pickup and measure 3'],
    [[0, 1, 2, 3], 'the pickup and measures 1 to 3'],
  ])('measures %s', (measures, said) => expect(measuresText(measures)).toBe(said))
  it('say marks that go together in one breath', () => {
    const edits = [
      { note: 'a', way: 'slur' as const, measure: 1 },
      { note: 'b', way: 'slur' as const, measure: 2 },
      { note: 'c', way: 'lift' as const, measure: 5 },
    ]
    expect(bowEditsWords(edits)).toBe('Slur in measures 1 and 2, lift before in measure 5')
    expect(bowEditsWords([{ note: 'a', way: 'part' }])).toBe('Part the slur here')
  })
  it('say what a mend does', () => {
    expect(effectWords({ measures: [4], answers: 1 })).toBe('then measure 4 comes down')
    expect(effectWords({ measures: [], answers: 2 })).toBe('then 2 of these are gone')
  })
  it('say what all marks together do', () => {
    expect(offerWords(0, 0, 8, 0)).toBe('All 8 first beats come down.')
    expect(offerWords(3, 0, 8, 2)).toBe('3 of 8 first beats come up. With 2 marks all come down.')
    expect(offerWords(3, 1, 8, 1)).toBe('3 of 8 first beats come up. With 1 mark 1 still does.')
  })
  it('say where on the bow, and where it drifts', () => {
    expect([0, 0.3, 0.5, 0.7, 1].map(placeWords)).toEqual([
      'at the frog',
      'in the lower half',
      'in the middle',
      'in the upper half',
      'at the tip',
    ])
    expect(driftWords({ part: 'B', pass: 2, cm: 21.6 })).toBe('Part B, second time: 22 cm towards the tip')
    expect(driftWords({ part: null, pass: 1, cm: 0.2 })).toBe('All of it: comes back to where it began')
  })
  it('put first beats with one mend into one line, and leave the rest', () => {
    const mends: Mend[] = [{ kind: 'bow', edits: [{ note: 'n', way: 'slur', measure: 2 }] }]
    const up = (measure: number) =>
      finding('bow.firstBeatUp', 'warning', { measure, note: `n${measure}` }, { pass: 1 }, mends)
    const groups = groupedFindings([up(3), finding('bow.endsUp', 'note', { measure: 8 }), up(4)])
    expect(groups.map(g => g.sentence)).toEqual(['The first beats of measures 3 and 4 come up.', ''])
    expect(groups[0]).toMatchObject({ mends, findings: [{}, {}] })
  })
  it('have a sentence for every reason a stroke can have', () => {
    const lines = [
      bowed('A2|D>F A2|(DF)A2 z2|G2 !upbow!B2 d2|', { metre: '4/4', may: MAY_ALL }),
      bowed('DF AG (3FGA GF|D2F2A2FG|D8|', { may: MAY_ALL }),
      bowed('D3E F2A2|d4 B4|', { school: 'phrase', tempo: '1/4=60' }),
      bowed('DFAF DFAF|', { school: 'pattern', groove: { pattern: [2, 1, 1], unit: 0.5, offset: 0 } }),
    ]
    for (const s of lines.flatMap(b => b.strokes))
      for (const school of BOW_SCHOOLS) expect(whyStroke(s, school)).toMatch(/^[A-Z].*\.$/)
    expect(BOW_WAYS.every(w => WAY_WORDS[w].length > 3)).toBe(true)
  })
})
