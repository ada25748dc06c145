import { readFileSync } from 'node:fs'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { arrangementSchema, newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import {
  ANY_VERSION,
  dropDraft,
  findDrafts,
  keepDraft,
  openingOf,
  ownStorage,
  windowOf,
  type Draft,
} from './drafts'
import { madeUpStorage } from './testing'

const source = 'X:1\nT:Kept\nK:G\nG A B |\n'
const { tune } = readAbc(source).tunes[0]!
const draft: Draft = {
  pending: {
    tune: { version: 3, source, tune },
    arrangements: [{ id: 'a', version: 2, arrangement: newArrangement('viola', 'full', 'As written') }],
    removed: [{ id: 'b', version: 1 }],
  },
  sent: [],
}
afterEach(() => void vi.unstubAllGlobals())

describe('drafts', () => {
  it('gives back what was kept, tune by tune, until it is dropped', () => {
    const storage = madeUpStorage()
    expect(keepDraft('t', 'w.1', draft, storage)).toBe(true)
    expect(findDrafts('t', storage)).toEqual([{ opening: 'w.1', draft }])
    expect(findDrafts('u', storage)).toEqual([])
    expect(findDrafts('t1', storage)).toEqual([])
    dropDraft('t', 'w.1', storage)
    expect(findDrafts('t', storage)).toEqual([])
  })

  it('no opening of a tune takes the place of another one’s', () => {
    const storage = madeUpStorage()
    const [first, second] = [openingOf('w', 1), openingOf('w', 2)]
    const later = { ...draft, sent: [draft.pending] }
    keepDraft('t', first, draft, storage)
    keepDraft('t', second, later, storage)
    keepDraft('t', first, later, storage)
    dropDraft('t', second, storage)
    expect(findDrafts('t', storage)).toEqual([{ opening: first, draft: later }])
    expect(windowOf(first)).toBe('w')
  })

  it('takes up those that were kept by an earlier Nokta, of all documents with the version of the tune', () => {
    const recipe = JSON.parse(readFileSync('core/documents/examples/arrangement.v1.json', 'utf8')) as object
    const arrangement = arrangementSchema.parse(recipe)
    const earlier = [
      { tuneVersion: 3, source, tune, arrangements: [{ id: 'a', version: 4, arrangement: recipe }] },
      { tuneVersion: 3, source, tune, arrangements: [{ id: 'a', arrangement: recipe }], known: ['a'] },
      { tuneVersion: 3, source, tune, arrangements: [{ id: 'a', arrangement: recipe }], known: [] },
    ]
    const versions = earlier.map(kept => {
      const storage = madeUpStorage()
      storage.setItem('nokta.draft.t', JSON.stringify(kept))
      const [found] = findDrafts('t', storage)
      expect(found?.draft.pending).toMatchObject({ tune: { version: 3, source, tune }, removed: [] })
      expect(found?.draft.pending.arrangements[0]?.arrangement).toEqual(arrangement)
      return found?.draft.pending.arrangements[0]?.version
    })
    expect(versions).toEqual([ANY_VERSION, ANY_VERSION, null])
  })

  it('takes no draft for one that is damaged or of another shape, and leaves it where it is', () => {
    const storage = madeUpStorage()
    for (const text of ['{"tuneVersion":3,', '{"tuneVersion":"three"}', '[]']) {
      storage.setItem('nokta.draft.t', text)
      expect(findDrafts('t', storage)).toEqual([])
      expect(storage.getItem('nokta.draft.t')).toBe(text)
    }
  })

  it('says that the work is not safe when the storage is full or barred, and goes on', () => {
    const full = {
      ...madeUpStorage(),
      setItem: () => {
        throw new Error('full')
      },
    }
    expect(keepDraft('t', 'w.1', draft, full)).toBe(false)
    vi.stubGlobal('localStorage', madeUpStorage())
    expect(keepDraft('t', 'w.1', draft, ownStorage())).toBe(true)
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      get: () => {
        throw new Error('barred')
      },
    })
    expect(ownStorage()).toBeNull()
    expect(keepDraft('t', 'w.1', draft, null)).toBe(false)
    expect(findDrafts('t', null)).toEqual([])
    expect(() => dropDraft('t', 'w.1', null)).not.toThrow()
  })
})
