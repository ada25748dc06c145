import { beforeEach, describe, expect, it, vi } from 'vitest'
import { openFile, tuneOfBook } from '#core/formats/readFile'
import type { AbcBook } from '#core/formats/abc/book'
import type { Packed } from '#core/desk/packed'
import type { BookPart } from '#core/desk/views'
import { composedAbc } from '#core/music/composed'
import { useLongBook } from './longBook'

const COUNT = 230
/** A core called straight, and a shelf that has the tune named “Here” already. */
const made = vi.hoisted(() => ({
  book: null as unknown,
  read: [] as number[],
  fails: false,
  asked: 0,
  wait: null as Promise<void> | null,
}))
const files = {
  tunesOfBook: (which: readonly number[]) => {
    made.read.push(...which)
    const tunes = which.map(i => tuneOfBook(made.book as AbcBook, i))
    return Promise.resolve(
      JSON.stringify({ tunes, prints: tunes.map(t => [t.tune.title]) }) as unknown as Packed<BookPart>,
    )
  },
}
vi.mock('../api/client', () => ({
  api: {
    alike: async (prints: readonly (readonly string[])[]) => {
      made.asked++
      await made.wait
      if (made.fails) throw new Error('The server is away.')
      return prints.map(([title]) => (title === 'Here' ? [{ id: 't', title: 'Here', likeness: 1 }] : []))
    },
  },
}))

const text = Array.from({ length: COUNT }, (_, i) => {
  if (i === 4) return 'X:5\nT:Nothing\nM:4/4\nL:1/8\nK:D\n'
  return composedAbc(i).replace(/^X:\d+\nT:.*/, `X:${i + 1}\nT:${i === 2 ? 'Here' : `Tune ${i + 1}`}`)
}).join('\n')
const opened = openFile('book.abc', new TextEncoder().encode(text))!

beforeEach(() => {
  Object.assign(made, { book: opened.book, read: [], fails: false, asked: 0, wait: null })
})

function open() {
  const book = useLongBook(files)
  book.open(opened.entries)
  return book
}

describe('a long book', () => {
  it('is there before anything of it is read, all of it chosen', () => {
    const book = open()
    expect([book.entries.value!.length, book.chosen.value.size, made.read.length]).toEqual([COUNT, COUNT, 0])
  })
  it('is looked over part by part; what is on the shelf, or has no note, is not taken', async () => {
    const book = open()
    await book.lookOver()
    expect(book.seen.value).toBe(COUNT)
    expect(made.asked).toBe(Math.ceil(COUNT / 25))
    expect(book.chosen.value.size).toBe(COUNT - 2)
    expect([book.chosen.value.has(2), book.chosen.value.has(4)]).toEqual([false, false])
    expect(book.looked.value.get(2)!.like).toMatchObject({ title: 'Here' })
    expect(book.looked.value.get(4)!).toMatchObject({ measures: 0 })
  })
  it('stops between two parts, and goes on where it stopped', async () => {
    const book = open()
    let go = () => {}
    made.wait = new Promise(done => (go = done))
    const first = book.lookOver()
    book.stop()
    go()
    await first
    expect([book.looking.value, book.seen.value]).toEqual([false, 0])
    made.wait = null
    await book.lookOver()
    expect(book.seen.value).toBe(COUNT)
  })
  it('leaves an older book alone when a newer one is opened in the meantime', async () => {
    const book = open()
    const older = book.lookOver()
    book.open(opened.entries.slice(0, 3))
    await older
    expect([book.seen.value, book.chosen.value.size]).toEqual([0, 3])
  })
  it('tells that the shelf can’t be asked, and keeps what was chosen', async () => {
    const book = open()
    made.fails = true
    await expect(book.lookOver()).rejects.toThrow('The server is away.')
    expect([book.looking.value, book.chosen.value.size]).toEqual([false, COUNT])
  })
  it('gives what is chosen a part at a time, in order, without what has no note', async () => {
    const book = open()
    book.choose(new Set([60, 4, 0, 7, ...Array.from({ length: 30 }, (_, i) => 100 + i)]))
    const parts = []
    for await (const part of book.parts()) {
      // The next part is read when this one is done with.
      expect(made.read.length).toBeLessThanOrEqual(25 * (parts.length + 1))
      parts.push(part.map(t => t.tune.title))
    }
    expect(parts.map(p => p.length)).toEqual([24, 9])
    expect(parts[0]!.slice(0, 3)).toEqual(['Tune 1', 'Tune 8', 'Tune 61'])
  })
})
