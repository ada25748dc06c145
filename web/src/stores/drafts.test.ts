import { readFileSync } from 'node:fs'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { arrangementSchema, newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { dropDraft, findDraft, keepDraft, type Draft } from './drafts'
import { madeUpStorage } from './testing'

const source = 'X:1\nT:Kept\nK:G\nG A B |\n'
const draft: Draft = {
  tuneVersion: 3,
  source,
  tune: readAbc(source).tunes[0]!.tune,
  arrangements: [{ id: 'a', arrangement: newArrangement('viola', 'full', 'As written') }],
  known: ['a'],
}
afterEach(() => void vi.unstubAllGlobals())

describe('drafts', () => {
  it('gives back what was kept, tune by tune, until it is dropped', () => {
    const storage = madeUpStorage()
    expect(keepDraft('t', draft, storage)).toBe(true)
    expect(findDraft('t', storage)).toEqual(draft)
    expect(findDraft('u', storage)).toBeNull()
    dropDraft('t', storage)
    expect(findDraft('t', storage)).toBeNull()
  })

  it('takes up one that was kept by an earlier Nokta', () => {
    const storage = madeUpStorage()
    const recipe = JSON.parse(readFileSync('core/documents/examples/arrangement.v1.json', 'utf8')) as object
    const { known, ...rest } = draft
    const earlier = { ...rest, arrangements: [{ id: 'a', version: 4, arrangement: recipe }] }
    storage.setItem('nokta.draft.t', JSON.stringify(earlier))
    const found = findDraft('t', storage)
    expect(found?.known).toEqual(known)
    expect(found?.arrangements[0]?.arrangement).toEqual(arrangementSchema.parse(recipe))
  })

  it('takes no draft for one that is damaged or of another shape', () => {
    const storage = madeUpStorage()
    storage.setItem('nokta.draft.t', '{"tuneVersion":3,')
    expect(findDraft('t', storage)).toBeNull()
    storage.setItem('nokta.draft.t', '{"tuneVersion":"three"}')
    expect(findDraft('t', storage)).toBeNull()
  })

  it('says that the work is not safe when the storage is full or barred, and goes on', () => {
    const full = {
      ...madeUpStorage(),
      setItem: () => {
        throw new Error('full')
      },
    }
    expect(keepDraft('t', draft, full)).toBe(false)
    vi.stubGlobal('localStorage', madeUpStorage())
    expect(keepDraft('t', draft)).toBe(true)
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      get: () => {
        throw new Error('barred')
      },
    })
    expect(keepDraft('t', draft)).toBe(false)
    expect(findDraft('t')).toBeNull()
    expect(() => dropDraft('t')).not.toThrow()
  })
})
