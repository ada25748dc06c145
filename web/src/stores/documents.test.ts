import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { pinned } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { SaveDocuments } from '#contract/documents'
import { eventOf, type NoteId } from '#core/music/ids'
import { useDocuments } from './documents'
import { findDraft } from './drafts'
import { stage } from './testing'

/** A made-up server: it holds one tune, counts versions, and can be away or say no. */
const server = vi.hoisted(() => ({
  tune: null as unknown,
  saves: [] as unknown[],
  answer: (() => Promise.reject(new Error('not staged'))) as (body: unknown) => Promise<unknown>,
  created: [] as unknown[],
}))
vi.mock('../api/client', () => {
  class ApiError extends Error {
    constructor(
      readonly code: string,
      message: string,
    ) {
      super(message)
    }
  }
  return {
    ApiError,
    api: {
      tune: () => Promise.resolve(server.tune),
      save: (id: string, body: unknown) => {
        server.saves.push({ id, ...(body as object) })
        return server.answer(body)
      },
      createTune: (source: unknown, tune: unknown, arrangement: unknown) => {
        server.created.push({ source, tune, arrangement })
        return Promise.resolve({ id: 'copy' })
      },
    },
  }
})

const accepted = (raw: unknown) => {
  const body = raw as SaveDocuments
  return Promise.resolve({
    tune: body.tune && body.tune.version + 1,
    arrangements: body.arrangements.map(a => ({ id: a.id, version: (a.version ?? 0) + 1 })),
  })
}

beforeEach(() => {
  vi.useFakeTimers()
  server.saves.length = server.created.length = 0
  server.answer = accepted
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function open() {
  server.tune = stage('D E F G |')
  const docs = useDocuments()
  await docs.open('t')
  return docs
}
const pause = () => vi.advanceTimersByTimeAsync(600)
const named = (r: Arrangement, name: string): Arrangement => ({ ...r, name })

describe('what is saved', () => {
  it('is only what changed, together, a moment after the last edit', async () => {
    const docs = await open()
    docs.editArrangement('a', r => named(r, 'One'))
    docs.editArrangement('a', r => named(r, 'Two'))
    docs.editFacts({ composer: 'Ada Fenwick' })
    expect(docs.saveState).toBe('unsaved')
    await pause()
    expect(server.saves).toMatchObject([
      { id: 't', tune: { version: 1 }, arrangements: [{ id: 'a', version: 1 }], removed: [] },
    ])
    expect(docs.saveState).toBe('saved')
    docs.editArrangement('a', r => named(r, 'Three'))
    await pause()
    expect(server.saves[1]).toMatchObject({ tune: null, arrangements: [{ id: 'a', version: 2 }] })
  })

  it('an edit that gives the same back is none', async () => {
    const docs = await open()
    docs.editArrangement('a', r => r)
    await pause()
    expect([server.saves, docs.canUndo]).toEqual([[], false])
  })

  it('an arrangement that came and went again before the save is not named in it', async () => {
    const docs = await open()
    docs.addArrangement('cello')
    docs.removeArrangement()
    await pause()
    expect(server.saves).toEqual([])
    expect(docs.saveState).toBe('saved')
  })

  it('one taken away is named with its version, and comes back with undo', async () => {
    const docs = await open()
    docs.addArrangement('cello')
    const cello = docs.arrangementId
    await pause()
    docs.removeArrangement()
    expect(docs.arrangementId).toBe('a')
    await pause()
    expect(server.saves[1]).toMatchObject({ arrangements: [], removed: [{ id: cello, version: 1 }] })
    docs.undo()
    expect(docs.arrangements.map(a => a.id)).toEqual(['a', cello])
    await pause()
    expect(server.saves[2]).toMatchObject({ arrangements: [{ id: cello, version: null }], removed: [] })
  })

  it('the last one stays', async () => {
    const docs = await open()
    docs.removeArrangement()
    expect(docs.arrangements).toHaveLength(1)
  })

  it('a duplicate has the same recipe under a name of its own, and is in use', async () => {
    const docs = await open()
    const note = docs.documents!.tune.measures[0]!.events[0]!.id as unknown as NoteId
    docs.editArrangement('a', r => pinned(r, 'fingers', note, { finger: 2 }))
    docs.duplicateArrangement()
    const [first, second] = docs.arrangements
    expect(docs.arrangementId).toBe(second!.id)
    expect(second!.arrangement.name).not.toBe(first!.arrangement.name)
    expect(second!.arrangement.played).toEqual(first!.arrangement.played)
    expect(Object.keys(second!.arrangement.played.pins.fingers)).toEqual([eventOf(note)])
  })
})

describe('nothing is lost', () => {
  it('while the server is away: kept in the browser, tried again, dropped when it is there', async () => {
    const docs = await open()
    server.answer = () => Promise.reject(new Error('away'))
    docs.editArrangement('a', r => named(r, 'Kept'))
    await pause()
    expect(docs.saveState).toBe('offline')
    expect(findDraft('t')?.arrangements[0]?.arrangement.name).toBe('Kept')
    server.answer = accepted
    await vi.advanceTimersByTimeAsync(5000)
    expect(docs.saveState).toBe('saved')
    expect(findDraft('t')).toBeNull()
  })

  it('while the disk of the server is full: said as that, kept, and saved when there is room', async () => {
    const { ApiError } = await import('../api/client')
    const docs = await open()
    server.answer = () => Promise.reject(new ApiError('diskFull', 'The disk is full.'))
    docs.editArrangement('a', r => named(r, 'Kept'))
    await pause()
    expect([docs.saveState, docs.saveProblem]).toEqual(['full', 'The disk is full.'])
    expect(findDraft('t')?.arrangements[0]?.arrangement.name).toBe('Kept')
    server.answer = accepted
    await vi.advanceTimersByTimeAsync(5000)
    expect(docs.saveState).toBe('saved')
  })

  it('an edit made while a save is under way is saved after it', async () => {
    const docs = await open()
    let let_go = () => {}
    server.answer = body => new Promise(done => (let_go = () => void accepted(body).then(done)))
    docs.editArrangement('a', r => named(r, 'One'))
    await pause()
    docs.editArrangement('a', r => named(r, 'Two'))
    server.answer = accepted
    let_go()
    await pause()
    await pause()
    expect(server.saves).toMatchObject([
      { arrangements: [{ version: 1, arrangement: { name: 'One' } }] },
      { arrangements: [{ version: 2, arrangement: { name: 'Two' } }] },
    ])
    expect(docs.saveState).toBe('saved')
  })

  it('a draft comes back, with the arrangements that were made elsewhere meanwhile', async () => {
    const docs = await open()
    server.answer = () => Promise.reject(new Error('away'))
    docs.editArrangement('a', r => named(r, 'Mine'))
    await pause()
    const draft = localStorage.getItem('nokta.draft.t')!
    const staged = stage('D E F G |')
    localStorage.setItem('nokta.draft.t', draft)
    const other = {
      ...staged.arrangements[0]!,
      id: 'b',
      arrangement: named(staged.arrangements[0]!.arrangement, 'Theirs'),
    }
    server.tune = { ...staged, arrangements: [...staged.arrangements, other] }
    server.answer = accepted
    const again = useDocuments()
    await again.open('t')
    expect(again.arrangements.map(a => a.arrangement.name)).toEqual(['Mine', 'Theirs'])
    expect(again.notice).toContain('brought back')
  })

  it('when the server holds something newer, a title as long as it may be still has room for what the other is called', async () => {
    const docs = await open()
    const { ApiError } = await import('../api/client')
    server.answer = () => Promise.reject(new ApiError('conflict', 'newer'))
    docs.editFacts({ title: 'x'.repeat(400) })
    await pause()
    await vi.runAllTimersAsync()
    const { title } = (server.created[0] as { tune: { title: string } }).tune
    expect([title.length, title.endsWith('x (second version)')]).toEqual([400, true])
  })

  it('when the server holds something newer, mine becomes a tune of its own with all its arrangements', async () => {
    const docs = await open()
    docs.addArrangement('viola')
    await pause()
    const { ApiError } = await import('../api/client')
    server.answer = body =>
      (body as SaveDocuments).arrangements.every(a => a.version === null)
        ? accepted(body)
        : Promise.reject(new ApiError('conflict', 'newer'))
    docs.editArrangement(docs.arrangementId, r => named(r, 'Mine'))
    await pause()
    await vi.runAllTimersAsync()
    expect(server.created).toMatchObject([
      { tune: { title: 'Staged (second version)' }, arrangement: { name: 'Mine' } },
    ])
    expect(server.saves.at(-1)).toMatchObject({ id: 'copy', arrangements: [{ version: null }] })
    expect(docs.notice).toContain('another window')
  })
})
