import { describe, expect, it } from 'vitest'
import { readAbc } from './readAbc'
import { rewriteAbc } from './rewriteAbc'

const music = 'M:2/4\nL:1/8\nK:D\nDE|\n'
const { tune } = readAbc(`X:1\nT:Name\n${music}`).tunes[0]!
const head = (text: string) => text.slice(0, text.search(/^K:/m)).trimEnd().split('\n')

describe('a text written anew', () => {
  it('keeps the fields and remarks of the old one that a tune does not hold, before its metre', () => {
    const old = `X:7\n% from the green book\nT:Old\nZ:copied by lamplight\n%%wide\n${music}`
    const text = rewriteAbc(old, { ...tune, title: 'New $1' })
    expect(head(text)).toEqual([
      'X:7',
      'T:New $1',
      '% from the green book',
      'Z:copied by lamplight',
      '%%wide',
      'M:2/4',
      'L:1/8',
    ])
  })
  it('says what the tune says, whatever the old one said', () => {
    const fields = 'XTCRSNMLQKVP'.split('').map(l => `${l}:old`)
    const text = rewriteAbc(['X:7', ...fields.slice(1, -3), 'V:old', 'P:old', music].join('\n'), tune)
    expect(text).not.toContain('old')
    expect(head(text)).toEqual(['X:7', 'T:Name', 'M:2/4', 'L:1/8'])
  })
  it('leaves out what is no field', () => {
    expect(head(rewriteAbc(`X:7\nwords of somebody\n Z:not at the margin\n12:x\n${music}`, tune))).toEqual([
      'X:7',
      'T:Name',
      'M:2/4',
      'L:1/8',
    ])
  })
  it('takes nothing from behind the key', () => {
    expect(rewriteAbc(`X:7\n${music}Z:late\n% late\n`, tune)).not.toContain('late')
  })
  it.each([
    ['X:7', 7],
    ['X: 12', 12],
    ['T:x\nX:3', 3],
    ['X:1234567890', 123456789],
    ['X:none', 1],
    [' X:5', 1],
    ['', 1],
  ])('%j: numbered %i', (line, number) => {
    expect(rewriteAbc(`${line}\n${music}`, tune)).toMatch(new RegExp(`^X:${number}\n`))
  })
  it('is cut at the fields themselves, not at letters within them', () => {
    const named = { ...tune, title: 'AM: and PM:' }
    expect(head(rewriteAbc(`X:7\nZ:see K:D below\nZ:more\nM:2/4\nK:Dmix\nDE|\n`, named))).toEqual([
      'X:7',
      'T:AM: and PM:',
      'Z:see K:D below',
      'Z:more',
      'M:2/4',
      'L:1/8',
    ])
  })
  it('of none is the tune alone', () => {
    expect(head(rewriteAbc(null, tune))).toEqual(['X:1', 'T:Name', 'M:2/4', 'L:1/8'])
  })
})
