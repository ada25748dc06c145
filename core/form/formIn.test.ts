import { readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { octaveShift, transposeToKey, transposeTune } from '#core/music/transpose'
import type { Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { analyseForm, type Form } from './form'
import { formIn } from './formIn'

const files = readdirSync(new URL('../../demo/tunes', import.meta.url)).filter(f => f.endsWith('.abc'))
const tunes = files.flatMap(f => readAbc(demoSource(f)).tunes.map(t => t.tune))

/** What is said of a form: everything but how it was heard. */
const told = (form: Form) => ({
  parts: form.parts.map(p => ({ ...p, phrases: p.phrases.map(x => x.label) })),
  phrases: form.phrases.map(({ stretch: _, ...p }) => p),
})

describe('a form heard in the line, in another key or octave', () => {
  it('is what would be heard there', () => {
    expect(tunes.length).toBeGreaterThan(14)
    const moves: ((t: Tune) => Tune)[] = [
      t => transposeTune(t, octaveShift(-1)),
      t => transposeToKey(t, { step: 'F', alter: 0, mode: 'major' }),
      t => transposeToKey(t, { step: 'A', alter: 0, mode: 'major' }),
    ]
    for (const tune of tunes)
      for (const move of moves)
        expect(told(formIn(analyseForm(tune), move(tune))), tune.title).toEqual(told(analyseForm(move(tune))))
  })
})
