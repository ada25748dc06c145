import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sentence } from '#core/words/findings'
import { bare, tunes } from '#core/music/testing'
import { emptyTune, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { readAbc } from './readAbc'
import { writeAbc } from './writeAbc'

const reread = (t: Tune) => readAbc(writeAbc(t).text).tunes[0]!.tune

describe('reading what was written', () => {
  it.each(DEMO_TUNES.map(t => t.file))('gives %s back', file => {
    const { tune } = readAbc(demoSource(file)).tunes[0]!
    expect(bare(reread(tune))).toEqual(bare(tune))
  })

  it('gives any tune back', () => {
    fc.assert(
      fc.property(tunes(), t => {
        expect(bare(reread(t))).toEqual(bare(t))
      }),
      { numRuns: 300 },
    )
  })

  it.each(['50 % of it', 'A \\ B', 'Rock & Roll', '&eacute; as typed', "\\'e as typed", '\\u00e9', 'Café'])(
    'a title: %s',
    title => {
      expect(reread({ ...readAbc('X:1\nM:4/4\nL:1/4\nK:D\nDEFG|\n').tunes[0]!.tune, title }).title).toBe(
        title,
      )
    },
  )

  it('says what the text cannot carry', () => {
    const t: Tune = { ...emptyTune('x'), tags: ['a'], rights: 'protected' }
    expect(writeAbc(t).findings.map(sentence).join(' ')).toMatch(/tags.*rights/)
  })
})
