import { describe, expect, it } from 'vitest'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { entriesOf, openBook } from './book'
import { joinedBook } from './joinedBook'
import { readAbc } from './readAbc'

describe('a book of several tunes', () => {
  it('is read back as the same tunes, numbered in their order', () => {
    const texts = DEMO_TUNES.map(t => demoSource(t.file))
    const opened = openBook(joinedBook(texts))
    if (!('book' in opened)) throw new Error('no book')
    const titles = texts.map(t => readAbc(t).tunes[0]!.tune.title)
    expect(entriesOf(opened.book).map(e => e.title)).toEqual(titles)
    const first = readAbc(texts[0]!).tunes[0]!.tune
    const back = readAbc(joinedBook(texts)).tunes
    expect(back).toHaveLength(texts.length)
    expect(back[0]!.tune.measures).toHaveLength(first.measures.length)
  })
  it('numbers what has no number, or another one, and keeps no empty line within a tune', () => {
    expect(joinedBook(['T:One\n\nK:D\nDEF|\n', 'X:7\r\nT:Two\r\nK:G\r\nGAB|'])).toBe(
      'X:1\nT:One\nK:D\nDEF|\n\nX:2\nT:Two\nK:G\nGAB|\n',
    )
  })
})
