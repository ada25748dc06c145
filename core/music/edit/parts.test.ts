import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import { playOrderText } from '../unfold'
import { partsOf, setPartOrder } from './parts'

const tune = readAbc('X:1\nM:4/4\nL:1/1\nK:D\n[P:A]D|E|[P:B]F|[P:Trio]G|\n').tunes[0]!.tune
const letters = readAbc('X:1\nM:4/4\nL:1/1\nK:D\n[P:A]D|E|[P:B]F|\n').tunes[0]!.tune

describe('the order of parts', () => {
  it('is said by their names, or by letters alone', () => {
    expect(partsOf(tune)).toEqual(['A', 'B', 'Trio'])
    expect(playOrderText(setPartOrder(tune, 'A Trio, A')!)).toBe('1–2, 4, 1–2')
    expect(playOrderText(setPartOrder(letters, 'ABA')!)).toBe('1–3, 1–2')
  })
  it('that names what is not there is none', () => {
    expect(setPartOrder(tune, 'A C')).toBeNull()
    expect(setPartOrder(letters, 'ABX')).toBeNull()
  })
  it('as they are written, or nothing, is no order of its own', () => {
    const other = setPartOrder(letters, 'BA')!
    expect(setPartOrder(other, '')!.play).toEqual({ struck: [], times: 1 })
    expect(setPartOrder(other, 'A B')!.play).toEqual({ struck: [], times: 1 })
  })
})
