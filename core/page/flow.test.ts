import { describe, expect, it } from 'vitest'
import { paragraph, rowsOf } from './flow'
import { PLAIN_MEASURER } from './measurer'

const SIZE = 4
const wide = (text: string) => PLAIN_MEASURER.text(text, { size: SIZE })
const rows = (text: string, width: number) => {
  const { lines } = rowsOf(paragraph(text, SIZE), width, PLAIN_MEASURER)
  return lines.map(l => l.text.trimEnd())
}

describe('a paragraph', () => {
  it('is as wide as its words: the blank after the last of a row takes no room', () => {
    expect(rows('let it ring', wide('let it ring'))).toEqual(['let it ring'])
    expect(rows('let it ring on', wide('let it ring'))).toEqual(['let it ring', 'on'])
    expect(rows('let it ring on', wide('let it ring') - 0.01)).toEqual(['let it', 'ring on'])
  })
  it('lets a word that is wider than the page stand alone', () =>
    expect(rows('a semidemisemiquaver here', wide('semi'))).toEqual(['a', 'semidemisemiquaver', 'here']))
  it('begins as far in as it is told, in every row', () => {
    const p = paragraph('let it ring on', SIZE, { indent: 5, before: 2 })
    const { lines, height } = rowsOf(p, 5 + wide('let it ring'), PLAIN_MEASURER)
    expect(lines.map(l => l.x)).toEqual([5, 5])
    expect(lines[0]!.y).toBe(2 + SIZE)
    expect(height).toBeGreaterThan(lines[1]!.y)
  })
})
