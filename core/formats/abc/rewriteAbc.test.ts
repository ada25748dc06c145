import { expect, it } from 'vitest'
import { readAbc } from './readAbc'
import { rewriteAbc } from './rewriteAbc'

it('keeps the fields and remarks of the old text that a tune does not hold', () => {
  const old = 'X:7\n% from the green book\nT:Old\nZ:copied by lamplight\nM:2/4\nL:1/8\nK:D\nDE|\n'
  const { tune } = readAbc(old).tunes[0]!
  const text = rewriteAbc(old, { ...tune, title: 'New $1' })
  expect(text.split('\n').slice(0, 6)).toEqual(['X:7', 'T:New $1', '% from the green book', 'Z:copied by lamplight', 'M:2/4', 'L:1/8']) // prettier-ignore
  expect(rewriteAbc(null, tune)).toMatch(/^X:1\nT:Old\nM:2\/4/)
})
