import { beforeAll, describe, expect, it, vi } from 'vitest'
import { stacked, wrapped } from './stacked'

// Every sign is half its size wide.
beforeAll(() => {
  const canvas = { font: '', measureText: (s: string) => ({ width: [...s].length * 50 }) }
  vi.stubGlobal('document', { createElement: () => ({ getContext: () => canvas }) })
})
const SIZE = 10
const at = (x: number, said: string, id = said) => ({ id, said, x })
const placed = (...given: Parameters<typeof stacked>) =>
  [...stacked(...given).texts.values()].map(t => [t.x, t.end, t.row])

describe('a text in lines', () => {
  it('is broken between words, and stays whole where it has room', () => {
    expect(wrapped('let the bow fall', SIZE, 80)).toEqual(['let the bow fall'])
    expect(wrapped('let the bow fall', SIZE, 79)).toEqual(['let the bow', 'fall'])
    expect(wrapped('let the bow fall', SIZE, 40)).toEqual(['let the', 'bow fall'])
  })
  it('is broken within a word that is wider than a line, and nothing is lost', () => {
    const lines = wrapped(`so ${'long'.repeat(20)} a word`, SIZE, 100)
    expect(lines.join('').replaceAll(' ', '')).toBe(`so${'long'.repeat(20)}aword`)
    for (const l of lines) expect([...l].length * 5).toBeLessThanOrEqual(100)
    // Signs outside the basic plane are not cut in two.
    expect(wrapped('𝄞𝄞𝄞𝄞𝄞𝄞', SIZE, 12).join('')).toBe('𝄞𝄞𝄞𝄞𝄞𝄞')
    expect(wrapped('𝄞𝄞𝄞', SIZE, 1)).toEqual(['𝄞', '𝄞', '𝄞'])
  })
})

describe('texts over a line', () => {
  it('stand at their notes, side by side where there is room, over each other where there is none', () => {
    expect(placed([at(0, 'half'), at(30, 'pos.')], SIZE, 200)).toEqual([
      [0, 20, 0],
      [30, 50, 0],
    ])
    expect(placed([at(0, 'half'), at(10, 'pos.')], SIZE, 200)).toEqual([
      [0, 20, 0],
      [10, 30, 1],
    ])
    // A gap of four units at least.
    expect(placed([at(0, 'half'), at(24, 'a'), at(48, 'b')], SIZE, 200).map(p => p[2])).toEqual([0, 0, 0])
    expect(placed([at(0, 'half'), at(23, 'a')], SIZE, 200).map(p => p[2])).toEqual([0, 1])
    expect(stacked([], SIZE, 200).rows).toBe(1)
  })
  it('go to the left of the edge, and no further left than the line', () => {
    expect(placed([at(190, 'half')], SIZE, 200)).toEqual([[180, 200, 0]])
    expect(placed([at(190, 'x'.repeat(50))], SIZE, 200)).toEqual([[0, 250, 0]])
  })
  it('in more rows than there are go where it is free the soonest', () => {
    const texts = [at(0, 'aaaa'), at(1, 'aaaaaa', '2'), at(2, 'aaa', '3'), at(3, 'aa', '4')]
    const { texts: found, rows } = stacked(texts, SIZE, 200)
    expect(rows).toBe(3)
    // The third, which ends at 17, is followed after the gap.
    expect(found.get('4')).toMatchObject({ row: 2, x: 21 })
  })
  it('in several lines take as many rows, one over the other', () => {
    const texts = [at(0, 'one two'), at(10, 'x'), at(60, 'far')]
    const { texts: found, rows } = stacked(texts, SIZE, 100, { most: Infinity, wrap: 20 })
    expect(found.get('one two')).toMatchObject({ lines: ['one', 'two'], row: 0, end: 15 })
    expect(found.get('x')).toMatchObject({ lines: ['x'], row: 2 })
    expect(found.get('far')!.row).toBe(0)
    expect(rows).toBe(3)
  })
})
