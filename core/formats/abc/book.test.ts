import { describe, expect, it } from 'vitest'
import { openFile, readFile, tuneOfBook } from '#core/formats/readFile'
import { composedAbc } from '#core/music/composed'
import { entriesOf, MAX_ABC_LENGTH, openBook, type AbcBook } from './book'
import { readAbc, readFromBook } from './readAbc'

function bookOf(text: string): AbcBook {
  const opened = openBook(text)
  if ('finding' in opened) throw new Error(opened.finding.code)
  return opened.book
}
const many = (count: number) =>
  Array.from({ length: count }, (_, i) =>
    composedAbc(i % 40).replace(/^X:\d+\nT:.*/, `X:${i + 1}\nT:Tune ${i + 1}`),
  ).join('\n')
const bytes = (text: string) => new TextEncoder().encode(text)

describe('a book', () => {
  it('is listed by its headers, what stands before the first tune included', () => {
    const text =
      "%abc-2.1\nM:3/4\nR:waltz\n\nX:1\nT:Caf\\'e by the Weir\nT:The Other Name\nK:Edor\nABc|\n\nX:2\nM:6/8\nR:jig\nK:G % a remark\nABc|\nT:not a title\n\nX:3\n"
    expect(entriesOf(bookOf(text))).toEqual([
      { title: 'Café by the Weir', kind: '', key: 'Edor', metre: '3/4' },
      { title: '', kind: 'jig', key: 'G', metre: '6/8' },
      { title: '', kind: '', key: '', metre: '3/4' },
    ])
  })
  it('read tune by tune gives what it gives read at once, with the same places', () => {
    const text = `%abc-2.1\nL:1/8\n\n${many(7)}\nX:8\nT:Wrong\nM:4/4\nK:D\nDEFG @A2 hh|\n`
    const { tunes } = readAbc(text)
    const book = bookOf(text)
    expect(tunes).toHaveLength(8)
    expect(tunes[7]!.findings.length).toBeGreaterThan(0)
    // In any order.
    for (const i of [7, 0, 3, 6, 5, 4, 2, 1]) expect(readFromBook(book, i)).toEqual(tunes[i])
  })
  it('of many tunes is opened instead of read, any other file is not', () => {
    const long = bytes(many(300))
    const opened = openFile('long.abc', long)!
    expect(opened.entries).toHaveLength(300)
    expect(opened.entries[299]!.title).toBe('Tune 300')
    const { tunes } = readFile('long.abc', long)
    for (const i of [0, 150, 299]) expect(tuneOfBook(opened.book, i)).toEqual(tunes[i])
    expect(openFile('short.abc', bytes(many(40)))).toBeNull()
    expect(openFile('a.mid', bytes('MThd'))).toBeNull()
    expect(openFile('empty.abc', bytes('X:'))).toBeNull()
  })
  it('keeps its other tunes where one is too long to be read', () => {
    const text = `X:1\nT:Short\nK:D\nDEFG|\nX:2\nT:Endless\nK:D\n${'D'.repeat(MAX_ABC_LENGTH)}\nX:3\nT:Last\nK:D\nDEFG|\n`
    const { tunes } = readAbc(text)
    expect(tunes.map(t => t.tune.measures.length > 0)).toEqual([true, false, true])
    expect(tunes[1]!.findings.map(f => [f.code, f.where.line])).toEqual([['abc.tooLong', 5]])
  })
})
