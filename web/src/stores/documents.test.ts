import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { pinned } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { SaveDocuments } from '#contract/documents'
import { eventOf, type NoteId } from '#core/music/ids'
import { useDocuments } from './documents'
import { findDrafts } from './drafts'
import { madeUpChannels, stage } from './testing'

/** A made-up server: it holds one tune, counts versions, and can be away or say no. */
const server = vi.hoisted(() => ({
  tune: null as unknown,
  saves: [] as unknown[],
  answer: (() => Promise.reject(new Error('not staged'))) as (body: unknown) => Promise<unknown>,
  created: [] as unknown[],
  create: (() => Promise.resolve({ id: 'copy' })) as () => Promise<unknown>,
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
        return server.create()
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
  server.create = () => Promise.resolve({ id: 'copy' })
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
const pendingName = () => findDrafts('t', localStorage)[0]?.draft.pending.arrangements[0]?.arrangement.name
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
    expect(pendingName()).toBe('Kept')
    server.answer = accepted
    await vi.advanceTimersByTimeAsync(5000)
    expect(docs.saveState).toBe('saved')
    expect(findDrafts('t', localStorage)).toEqual([])
  })

  it('while the disk of the server is full: said as that, kept, and saved when there is room', async () => {
    const { ApiError } = await import('../api/client')
    const docs = await open()
    server.answer = () => Promise.reject(new ApiError('diskFull', 'The disk is full.'))
    docs.editArrangement('a', r => named(r, 'Kept'))
    await pause()
    expect([docs.saveState, docs.saveProblem]).toEqual(['full', 'The disk is full.'])
    expect(pendingName()).toBe('Kept')
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
    const kept = localStorage
    const staged = stage('D E F G |')
    vi.stubGlobal('localStorage', kept)
    const other = {
      ...staged.arrangements[0]!,
      id: 'b',
      arrangement: named(staged.arrangements[0]!.arrangement, 'Theirs'),
    }
    server.tune = { ...staged, arrangements: [...staged.arrangements, other] }
    server.answer = accepted
    const again = useDocuments()
    ;(docs as unknown as { $dispose: () => void }).$dispose()
    void again.open('t')
    await vi.advanceTimersByTimeAsync(200)
    expect(again.arrangements.map(a => a.arrangement.name)).toEqual(['Mine', 'Theirs'])
    expect(again.notice).toContain('brought back')
    again.undo()
    expect(again.arrangements.map(a => a.arrangement.name)).toEqual(['As written', 'Theirs'])
  })

  it('what two windows changed is kept twice, and mine stays in use', async () => {
    const docs = await open()
    const { ApiError } = await import('../api/client')
    const staged = server.tune as { arrangements: [{ arrangement: Arrangement }] }
    const theirs = {
      ...staged.arrangements[0],
      version: 2,
      arrangement: named(staged.arrangements[0].arrangement, 'Theirs'),
    }
    docs.editArrangement('a', r => named(r, 'Mine'))
    server.tune = { ...staged, arrangements: [theirs] }
    server.answer = body =>
      (body as SaveDocuments).arrangements.some(a => a.version === 1)
        ? Promise.reject(new ApiError('conflict', 'newer'))
        : accepted(body)
    await pause()
    expect(docs.arrangements.map(a => a.arrangement.name)).toEqual(['Theirs', 'Mine (second version)'])
    expect(docs.recipe?.name).toBe('Mine (second version)')
    expect(docs.notice).toContain('“Mine (second version)”')
    await pause()
    expect(docs.saveState).toBe('saved')
    expect(server.saves.at(-1)).toMatchObject({ tune: null, arrangements: [{ version: null }], removed: [] })
  })

  it('when the server can’t keep my own version of a tune, the work stays here and it is tried again', async () => {
    const docs = await open()
    const { ApiError } = await import('../api/client')
    docs.editFacts({ title: 'Mine' })
    server.answer = () => Promise.reject(new ApiError('conflict', 'newer'))
    server.tune = {
      ...(server.tune as object),
      version: 2,
      tune: { ...docs.documents!.tune, title: 'Theirs' },
    }
    server.create = () => Promise.reject(new ApiError('diskFull', 'The disk is full.'))
    await pause()
    expect(docs.documents!.tune.title).toBe('Mine')
    expect([docs.saveState, docs.saveProblem]).toEqual(['offline', 'The disk is full.'])
    docs.editFacts({ title: 'Mine, further' })
    server.create = () => Promise.resolve({ id: 'copy' })
    await vi.advanceTimersByTimeAsync(6000)
    expect(docs.documents!.tune.title).toBe('Theirs')
    expect(server.created.at(-1)).toMatchObject({ tune: { title: 'Mine, further (second version)' } })
    expect(docs.notice).toContain('“Mine, further (second version)”')
  })

  it('what is edited while drafts are brought back stands beside them', async () => {
    const staged = stage('D E F G |')
    server.tune = { ...staged, version: 2 }
    const { arrangement } = staged.arrangements[0]!
    const draft = (opening: string, pending: object) =>
      localStorage.setItem(
        `nokta.draft.t.${opening}`,
        JSON.stringify({ pending: { tune: null, arrangements: [], removed: [], ...pending }, sent: [] }),
      )
    draft('gone.1', { tune: { version: 1, source: null, tune: { ...staged.tune, title: 'Mine' } } })
    draft('gone.2', { arrangements: [{ id: 'a', version: 1, arrangement: named(arrangement, 'Fingers') }] })
    let made = () => {}
    server.create = () => new Promise(done => (made = () => done({ id: 'copy' })))
    const docs = useDocuments()
    void docs.open('t')
    await vi.advanceTimersByTimeAsync(200)
    docs.editArrangement('a', r => named(r, 'Late'))
    made()
    await vi.advanceTimersByTimeAsync(50)
    expect(server.created).toMatchObject([{ tune: { title: 'Mine (second version)' } }])
    expect(docs.arrangements.map(a => a.arrangement.name)).toEqual(['Fingers', 'Late (second version)'])
  })

  it('what is not saved when another tune is opened is sent all the same', async () => {
    const docs = await open()
    docs.editArrangement('a', r => named(r, 'Last word'))
    server.tune = { ...(server.tune as object), id: 'u' }
    await docs.open('u')
    await pause()
    expect(server.saves).toMatchObject([
      { id: 't', arrangements: [{ id: 'a', arrangement: { name: 'Last word' } }] },
    ])
    expect(findDrafts('t', localStorage)).toEqual([])
    expect([docs.tuneId, docs.saveState]).toEqual(['u', 'saved'])
  })
})

describe('two windows of one browser', () => {
  it('the one without edits of its own shows at once what the other saved', async () => {
    vi.stubGlobal('BroadcastChannel', madeUpChannels())
    const one = await open()
    setActivePinia(createPinia())
    const two = useDocuments()
    await two.open('t')
    one.editArrangement('a', r => named(r, 'Saved by one'))
    const staged = server.tune as { arrangements: [{ arrangement: Arrangement }] }
    const arrangement = named(staged.arrangements[0].arrangement, 'Saved by one')
    server.tune = { ...staged, arrangements: [{ ...staged.arrangements[0], version: 2, arrangement }] }
    await pause()
    expect(two.recipe?.name).toBe('Saved by one')
    expect([two.saveState, two.canUndo, two.notice]).toEqual(['saved', false, ''])
    expect(server.saves).toHaveLength(1)
  })
})
