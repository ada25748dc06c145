import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import {
  newStudio,
  STUDIO_PARTS,
  type Studio,
  type StudioPart,
  type StudioPartDocument,
} from '#core/instruments/studio'
import { useLearners } from './learners'
import { useStudio } from './studio'

/** A made-up server that holds one studio part by part, refuses what is stale, and can be away. */
const server = vi.hoisted(() => ({
  versions: {} as Record<StudioPart, number>,
  studio: null as unknown as Studio,
  away: false,
  saves: 0,
  /** Runs once before the next save: another window saves first. */
  meanwhile: null as (() => void) | null,
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
  const there = () =>
    server.away ? Promise.reject(new ApiError('offline', 'The server can’t be reached.')) : null
  return {
    ApiError,
    api: {
      studio: () => there() ?? Promise.resolve({ versions: server.versions, studio: server.studio }),
      saveStudio: (version: number, { part, ...fields }: StudioPartDocument) => {
        server.meanwhile?.()
        server.meanwhile = null
        const away = there()
        if (away) return away
        if (version !== server.versions[part]) return Promise.reject(new ApiError('conflict', 'stale'))
        server.saves++
        server.studio = { ...server.studio, ...fields }
        return Promise.resolve({ version: ++server.versions[part] })
      },
    },
  }
})

beforeEach(() => {
  setActivePinia(createPinia())
  const versions = Object.fromEntries(STUDIO_PARTS.map(p => [p, 0]))
  Object.assign(server, { versions, studio: newStudio(), away: false, saves: 0, meanwhile: null })
})

describe('the studio', () => {
  it('is read once, and saved at every change, one after another', async () => {
    const studio = useStudio()
    await Promise.all([
      studio.edit(() => ({ leftHanded: true })),
      studio.edit(({ levelNames }) => ({ levelNames: [...levelNames, 'Acorns'] })),
    ])
    expect(server.studio).toMatchObject({ leftHanded: true, levelNames: ['Acorns'] })
    expect([server.saves, server.versions.tapes, server.versions.ladder, server.versions.learners]).toEqual([
      2, 1, 1, 0,
    ])
    expect(studio.levelName(1)).toBe('Acorns')
    expect(studio.levelName(2)).toBe('')
  })
  it('makes a change that came too late again, on what is stored by then', async () => {
    const studio = useStudio()
    await studio.load()
    server.meanwhile = () => {
      server.versions.ladder++
      server.studio = { ...server.studio, levelNames: ['Theirs'] }
    }
    await studio.edit(({ levelNames }) => ({ levelNames: [...levelNames, 'Ours'] }))
    expect(server.studio.levelNames).toEqual(['Theirs', 'Ours'])
    expect(studio.problem).toBe('')
  })
  it('says that the server is away, saves nothing then, and reads again when it is there', async () => {
    const studio = useStudio()
    server.away = true
    await studio.edit(() => ({ leftHanded: true }))
    expect(studio.problem).toMatch(/can’t be reached/)
    expect(server.saves).toBe(0)
    server.away = false
    await studio.edit(() => ({ leftHanded: true }))
    expect(server.studio.leftHanded).toBe(true)
    expect(studio.problem).toBe('')
  })
  it('keeps the model of the hand the very same where it did not change, so that nothing is worked out anew', async () => {
    const studio = useStudio()
    const { model } = studio.context
    await studio.load()
    expect(studio.context.model).toBe(model)
  })
})

describe('learners', () => {
  it('are added, changed, told of single skills, and erased', async () => {
    const learners = useLearners()
    await learners.add('  Pip  ')
    await learners.add('Anna')
    expect(learners.list.map(l => l.name)).toEqual(['Anna', 'Pip'])
    const pip = learners.list[1]!
    await learners.change(pip.id, { level: 3, instrument: 'cello' })
    await learners.setSkill(learners.list[1]!, 'low2', 'notYet')
    expect(learners.list[1]).toMatchObject({
      name: 'Pip',
      level: 3,
      instrument: 'cello',
      skills: { low2: 'notYet' },
    })
    await learners.setSkill(learners.list[1]!, 'low2', null)
    expect(learners.list[1]!.skills).toEqual({})
    learners.chosenId = pip.id
    await learners.erase(pip.id)
    expect(learners.chosen).toBeNull()
    expect(server.studio.learners.map(l => l.name)).toEqual(['Anna'])
  })
})
