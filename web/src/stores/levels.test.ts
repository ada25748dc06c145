import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import type { PartDocuments } from '#core/desk/part'
import type { KeyQuestion } from '#core/grading/keyRows'
import { tryKey } from '#core/grading/keySearch'
import { newArrangement } from '#core/arrangement/recipe'
import { newStudio } from '#core/instruments/studio'
import { parseKey } from '#core/music/key'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { useLevels } from './levels'
import { settled, stage, straightDesk } from './testing'

/** What the made-up server and workers do. */
const world = vi.hoisted(() => ({
  tune: null as unknown,
  asked: [] as unknown[],
  /** Runs before each key is tried. */
  before: (() => {}) as () => void,
  fault: '',
  /** What the crew of workers was told last. */
  crew: '',
  /** Levels that easier versions were made for. */
  eased: [] as number[],
  levels: {} as Record<string, Record<string, number>>,
}))
vi.mock('../api/client', () => ({
  api: {
    tune: () => Promise.resolve(world.tune),
    save: () => Promise.resolve({ tune: 2, arrangements: [] }),
    studio: () => Promise.resolve({ versions: {}, studio: newStudio() }),
    saveStudio: (_: number, studio: { levels: typeof world.levels }) => {
      world.levels = studio.levels
      return Promise.resolve({ version: 2 })
    },
  },
  ApiError: class extends Error {},
}))
const own = {
  grade: () => ({ grade: { level: 3, demands: [], butFor: null }, kept: null, parts: [] }),
  easier: ({ recipe }: PartDocuments, level: number) => {
    world.eased.push(level)
    if (world.fault) throw new Error(world.fault)
    return { ...recipe, played: { ...recipe.played, level } }
  },
  tryKey: ({ tune }: PartDocuments, q: KeyQuestion) => {
    world.asked.push(q)
    world.before()
    const search = { instruments: [q.instrument], keys: [q.key], tunings: 'all' as const }
    return tryKey(tune, q, search, ASSUMED_HANDS)
  },
}
const desk = straightDesk(own)
vi.mock('../worker/client', async importOriginal => ({
  ...(await importOriginal<object>()),
  askPart: (...asked: Parameters<typeof desk.askPart>) => desk.askPart(...asked),
  derivedOf: (part: PartDocuments) => desk.derivedOf(part),
}))
/** One worker, on the spot. */
vi.mock('../worker/crew', () => ({
  Crew: class {
    gather(practise: (c: typeof desk, nth: number) => Promise<unknown>) {
      world.crew = 'gathered'
      for (const nth of [0, 1]) void practise(desk, nth)
    }
    dismiss() {
      world.crew = 'dismissed'
    }
    async askAll(
      questions: readonly unknown[],
      ask: (c: typeof desk, q: never) => Promise<unknown>,
      use: (a: never) => void,
      signal: AbortSignal,
    ) {
      for (const q of questions) {
        if (signal.aborted) return
        const answer = await ask(desk, q as never)
        if (!signal.aborted) use(answer as never)
      }
    }
  },
}))
beforeEach(
  () =>
    void Object.assign(world, { asked: [], before: () => {}, fault: '', crew: '', eased: [], levels: {} }),
)
afterEach(() => void vi.unstubAllGlobals())

async function open(music = 'D F A d | B A F D |') {
  world.tune = stage(music)
  const [docs, part, store] = [useDocuments(), useParts().inUse, useLevels()]
  await docs.open('t')
  await settled()
  return { docs, part, store }
}

describe('the search through keys', () => {
  it('tries each key on each instrument, tells how far it is, and ends with the best', async () => {
    const { store } = await open()
    store.instruments = ['violin', 'cello']
    const seen: number[] = []
    world.before = () => seen.push(store.progress!.of)
    await store.search()
    expect(world.asked).toHaveLength(24)
    expect(new Set(seen)).toEqual(new Set([24]))
    expect(store.progress).toBeNull()
    expect(store.rows.map(r => r.instrument)).toContain('cello')
    expect(store.best.size).toBeGreaterThan(0)
    for (const r of store.best) expect(store.rows).toContain(r)
    expect(store.common.length).toBeGreaterThan(0)
  })
  it('looks for no tuning in which a tune is harder than at home, or nothing is gained', async () => {
    const { store } = await open()
    store.instruments = ['violin']
    store.tunings = true
    await store.search()
    const asked = world.asked as KeyQuestion[]
    expect(asked.map(q => q.tunings[0])).toEqual(Array(12).fill(null))
    expect(store.rows.filter(r => r.tuning).length).toBeGreaterThan(3)
    for (const r of store.rows.filter(r => r.tuning)) {
      const home = store.rows.find(
        h => !h.tuning && h.key.step === r.key.step && h.key.alter === r.key.alter,
      )!
      expect(r.level).toBeLessThanOrEqual(home.level)
    }
  })
  it('once cancelled asks nothing more; what was found stays', async () => {
    const { store } = await open()
    store.instruments = ['violin']
    world.before = () => world.asked.length === 3 && store.cancel()
    await store.search()
    expect(world.asked).toHaveLength(3)
    expect(store.progress).toBeNull()
    expect(store.rows.length).toBeGreaterThan(0)
  })
  it('forgets what was found when the notes change', async () => {
    const { docs, store } = await open()
    store.instruments = ['violin']
    await store.search()
    store.cell = store.rows[0]!
    docs.editFacts({ title: 'Other' })
    await settled()
    expect([store.rows.length, store.cell]).toEqual([0, null])
  })
  it('has its workers ready when it is likely to be asked for, and lets them go with the station', async () => {
    const { docs, store } = await open()
    const leave = store.follow()
    expect(world.crew).toBe('')
    store.expectSearch()
    expect(world.crew).toBe('gathered')
    // Each with tasks of its own: the tune as it stands.
    const own = docs.documents!.tune.key
    expect(world.asked).toEqual(
      ['violin', 'cello', 'viola', 'bass'].map(instrument => ({ instrument, key: own, tunings: [null] })),
    )
    expect(store.rows).toEqual([])
    leave()
    expect(world.crew).toBe('dismissed')
  })
  it('makes of a row an arrangement that is named by what it is', async () => {
    const { docs, part, store } = await open()
    store.instruments = ['violin']
    await store.search()
    store.make(store.rows.find(r => r.own)!)
    await settled()
    expect(part.recipe!.name).toMatch(/^Violin in D major, level \d$/)
    expect(docs.documents!.arrangements).toHaveLength(2)
  })
})

describe('a version', () => {
  it('is a new arrangement, with its level in its name; the side tells of it', async () => {
    const { part, store } = await open()
    await store.makeEasier(2)
    expect(part.recipe).toMatchObject({ name: 'Violin, level 2', played: { level: 2 } })
    expect([store.side, store.making, store.problem]).toEqual(['version', false, ''])
  })
  it('is got ready for every lower rung while the ladder is looked at, and for none once the station is left', async () => {
    const { store } = await open()
    const leave = store.follow()
    await vi.waitFor(() => expect(world.eased).toEqual([1, 2]))
    leave()
    world.eased = []
    const back = store.follow()
    back()
    await new Promise(done => setTimeout(done, 200))
    expect(world.eased).toEqual([])
  })
  it('that can’t be made says why, and another may be tried', async () => {
    const { docs, part, store } = await open()
    world.fault = 'no notes are left'
    await store.makeEasier(2)
    expect([store.problem, store.making, docs.documents!.arrangements.length]).toEqual([
      'no notes are left',
      false,
      1,
    ])
    world.fault = ''
    await store.makeEasier(1)
    expect([store.problem, part.recipe!.played.level]).toEqual(['', 1])
  })
})

describe('what still asks for more', () => {
  const demand = (skill: string, level: number) => ({ asked: { kind: 'skill', skill }, level, notes: [] })
  it('is told for a level that is set, by the studio’s own ladder', async () => {
    const { part, store } = await open()
    const grade = { level: 4, demands: [demand('low2', 4), demand('eighths', 2)], butFor: null }
    vi.spyOn(own, 'grade').mockReturnValue({ grade, kept: null, parts: [] } as never)
    const stop = store.follow()
    await settled()
    expect(store.grade!.level).toBe(4)
    expect(store.blocked).toEqual([])
    part.edit(r => ({ ...newArrangement('violin', 'full'), played: { ...r.played, level: 3 } }))
    await settled()
    expect(store.blocked.map(d => d.asked)).toEqual([{ kind: 'skill', skill: 'low2' }])
    await store.moveSkill('low2', 3)
    expect(world.levels).toEqual({ violin: { low2: 3 } })
    expect(store.blocked).toEqual([])
    stop()
  })
  it('a version that asks for too much is tried in other keys, and taken over there at a word', async () => {
    const { part, store } = await open()
    const grade = { level: 4, demands: [demand('low2', 4)], butFor: null }
    vi.spyOn(own, 'grade').mockReturnValue({ grade, kept: null, parts: [] } as never)
    const inA = parseKey('A')!
    vi.spyOn(own, 'easier').mockImplementation(
      ({ recipe }: PartDocuments) => ({ ...recipe, played: { ...recipe.played, key: inA } }) as never,
    )
    const stop = store.follow()
    part.edit(r => ({
      ...r,
      name: 'Violin, level 2',
      played: { ...r.played, level: 2, eased: { tempo: null, octave: null, parted: [] } },
    }))
    await settled()
    expect(store.better?.played.key).toEqual(inA)
    store.takeBetter()
    await settled()
    expect(part.recipe!.played.key).toEqual(inA)
    expect(part.recipe!.name).toBe('Violin in A major, level 2')
    expect(store.better).toBeNull()
    stop()
  })
  it('a skill on its own rung again is no word of the studio’s', async () => {
    const { store } = await open()
    await store.moveSkill('low2', 5)
    expect(world.levels.violin).toEqual({ low2: 5 })
    const own = (await import('#core/grading/catalogue')).skillById('low2')!.levels.violin!
    await store.moveSkill('low2', own)
    expect(world.levels.violin).toEqual({})
  })
})
