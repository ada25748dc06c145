/**
 * Windows and browsers that edit one tune, close and crash, and a server that comes, goes and answers into the
 * void: whatever the order, every edit that was acknowledged or kept in a browser is found afterwards, and no
 * copy is made where nobody else changed anything.
 */
import fc from 'fast-check'
import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { SaveDocuments, TuneWithArrangements } from '#contract/documents'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Tune } from '#core/music/tune'
import { useDocuments } from './documents'
import { madeUpChannels, madeUpStorage, stage } from './testing'

/** How the next save ends: as it should, unheard by the server, or heard with no answer. */
type Fate = 'arrives' | 'fails' | 'arrives unanswered' | 'arrives, never ends'

const world = vi.hoisted(() => ({
  tunes: new Map<string, unknown>(),
  made: 0,
  fate: 'arrives' as string,
}))
const held = () => world.tunes as Map<string, TuneWithArrangements>

vi.mock('../api/client', () => {
  class ApiError extends Error {
    constructor(
      readonly code: string,
      message: string,
    ) {
      super(message)
    }
  }
  const copy = <T>(x: T) => JSON.parse(JSON.stringify(x)) as T
  const away = () => new ApiError('offline', 'away')
  function store(id: string, body: SaveDocuments) {
    const there = world.tunes.get(id) as TuneWithArrangements
    const versionOf = (a: string) => there.arrangements.find(x => x.id === a)?.version ?? null
    const stale =
      (body.tune && body.tune.version !== there.version) ||
      [...body.arrangements, ...body.removed].some(a => a.version !== versionOf(a.id))
    if (stale) throw new ApiError('conflict', 'newer')
    const arrangements = new Map(there.arrangements.map(a => [a.id, a]))
    for (const { id: own, arrangement } of copy(body.arrangements))
      arrangements.set(own, { id: own, tuneId: id, version: (versionOf(own) ?? 0) + 1, arrangement })
    for (const a of body.removed) arrangements.delete(a.id)
    const tune = body.tune && {
      source: body.tune.source,
      tune: copy(body.tune.tune),
      version: there.version + 1,
    }
    world.tunes.set(id, { ...there, ...tune, arrangements: [...arrangements.values()] })
    return {
      tune: tune && tune.version,
      arrangements: body.arrangements.map(a => ({ id: a.id, version: arrangements.get(a.id)!.version })),
    }
  }
  return {
    ApiError,
    api: {
      tune: (id: string) =>
        world.fate === 'fails' ? Promise.reject(away()) : Promise.resolve(copy(world.tunes.get(id))),
      save: async (id: string, body: SaveDocuments) => {
        const { fate } = world
        if (fate === 'fails') throw away()
        const answer = store(id, body)
        if (fate === 'arrives unanswered') throw away()
        if (fate === 'arrives, never ends') await new Promise(() => {})
        return answer
      },
      createTune: async (source: string, tune: Tune, arrangement: Arrangement) => {
        if (world.fate === 'fails') throw away()
        const id = `copy${++world.made}`
        const own = { id: `a${world.made}`, tuneId: id, version: 1, arrangement }
        world.tunes.set(id, { id, version: 1, source, tune, updatedAt: '', arrangements: [own] })
        return { id }
      },
    },
  }
})

class Browser {
  private readonly storage = madeUpStorage()
  private readonly channels = madeUpChannels()
  readonly windows: { pinia: Pinia; docs: ReturnType<typeof useDocuments> }[] = []

  async open() {
    vi.stubGlobal('localStorage', this.storage)
    vi.stubGlobal('BroadcastChannel', this.channels)
    const pinia = createPinia()
    setActivePinia(pinia)
    const docs = useDocuments()
    this.windows.push({ pinia, docs })
    void docs.open('t')
    await pass(200)
  }

  /** As a crash: nothing more runs in it. */
  close(at: number) {
    const [gone] = this.windows.splice(at, 1)
    ;(gone!.pinia as unknown as { _e: { stop: () => void } })._e.stop()
  }
}

const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)
/** A word that is to be found again: on the tune, or among the pins of an arrangement. */
async function edit(
  { docs }: Browser['windows'][number],
  what: 'tune' | 'fingers' | 'another',
  word: string,
) {
  if (docs.loading !== 'ready') return false
  if (what === 'tune') docs.editFacts({ tags: [...docs.documents!.tune.tags, word] })
  else {
    const marked = (r: Arrangement) =>
      withPlayed(r, {
        pins: { ...r.played.pins, fingers: { ...r.played.pins.fingers, [word]: { finger: 1 } } },
      })
    if (what === 'fingers') docs.editArrangement(docs.arrangements[0]!.id, marked)
    else docs.takeArrangements([marked({ ...docs.recipe!, name: word })])
  }
  await pass(1)
  return true
}

const wordsKept = () =>
  new Set(
    [...held().values()].flatMap(t => [
      ...t.tune.tags,
      ...t.arrangements.flatMap(a => Object.keys(a.arrangement.played.pins.fingers)),
    ]),
  )

/** Everybody saves, closes, and looks once more at what was left. */
async function inTheEnd(browsers: readonly Browser[]) {
  world.fate = 'arrives'
  for (let round = 0; round < 3; round++)
    for (const b of browsers) {
      if (b.windows.length === 0) await b.open()
      for (const { docs } of b.windows) if (docs.loading !== 'ready') void docs.open('t')
      await pass(5000)
      while (b.windows.length > 0) b.close(0)
    }
}

const step = fc.record({
  browser: fc.nat(1),
  window: fc.nat(1),
  does: fc.constantFrom('tune', 'fingers', 'fingers', 'another', 'save', 'wait', 'open', 'close'),
  fate: fc.constantFrom<Fate>('arrives', 'arrives', 'fails', 'arrives unanswered', 'arrives, never ends'),
})

async function live(
  steps: readonly (typeof step extends fc.Arbitrary<infer T> ? T : never)[],
  browsers: Browser[],
) {
  const words: string[] = []
  for (const [i, s] of steps.entries()) {
    const b = browsers[s.browser % browsers.length]!
    world.fate = s.does === 'save' || s.does === 'wait' ? s.fate : 'arrives'
    if (b.windows.length === 0 || (s.does === 'open' && b.windows.length < 2)) await b.open()
    const at = s.window % b.windows.length
    const w = b.windows[at]!
    if (s.does === 'save') {
      void w.docs.save()
      await pass(1)
      // A save that never ends is one of a window that crashed.
      if (s.fate === 'arrives, never ends') b.close(at)
    } else if (s.does === 'wait') {
      if (s.fate === 'arrives, never ends') world.fate = 'arrives'
      await pass(700)
    } else if (s.does === 'close') b.close(at)
    else if (s.does !== 'open' && (await edit(w, s.does, `w${i}`))) words.push(`w${i}`)
  }
  await inTheEnd(browsers)
  return words
}

beforeEach(() => vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const fresh = () => {
  const staged = stage('D E F G |') as unknown as TuneWithArrangements
  world.tunes = new Map([['t', staged]])
}

describe('whatever the order of edits, saves, crashes and answers that never come', () => {
  it('every edit is found afterwards', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 2, maxLength: 14 }), async steps => {
        fresh()
        const words = await live(steps, [new Browser(), new Browser()])
        const kept = wordsKept()
        expect(words.filter(w => !kept.has(w))).toEqual([])
      }),
      { numRuns: 150 },
    )
  })

  it('where one window at a time edits there is one tune, and no second version of anything', async () => {
    const alone = fc.array(
      step.map(s => ({ ...s, window: 0, does: s.does === 'open' ? ('wait' as const) : s.does })),
      { minLength: 2, maxLength: 14 },
    )
    await fc.assert(
      fc.asyncProperty(alone, async steps => {
        fresh()
        await live(steps, [new Browser()])
        const names = held()
          .get('t')!
          .arrangements.map(a => a.arrangement.name)
        expect([...held().keys()]).toEqual(['t'])
        expect(names.filter(n => n.includes('second version'))).toEqual([])
      }),
      { numRuns: 150 },
    )
  })
})
