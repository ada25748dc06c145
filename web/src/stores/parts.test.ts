import { afterEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import type { PartDocuments } from '#core/desk/part'
import { useDocuments } from './documents'
import { openPart } from './openPart'
import { useParts } from './parts'
import { settled, stage, straightDesk } from './testing'

const served = vi.hoisted(() => ({ tune: null as unknown, derived: 0 }))
vi.mock('../api/client', () => ({
  api: {
    tune: () => Promise.resolve(served.tune),
    save: () => Promise.resolve({ tune: 2, arrangements: [] }),
  },
  ApiError: class extends Error {},
}))
vi.mock('../worker/client', async importOriginal => ({
  ...(await importOriginal<object>()),
  askPart: (...asked: Parameters<typeof desk.askPart>) => desk.askPart(...asked),
  derivedOf: (part: PartDocuments) => {
    served.derived++
    return desk.derivedOf(part)
  },
}))
const desk = straightDesk()
afterEach(() => void vi.unstubAllGlobals())

/** A violin in use, and a cello beside it. */
async function two() {
  served.tune = stage('D E F G | A4 |')
  const docs = useDocuments()
  const violin = useParts().inUse
  await docs.open('t')
  docs.addArrangement('cello')
  const ids = docs.arrangements.map(a => a.id)
  docs.choose(ids[0]!)
  const scope = effectScope()
  const cello = scope.run(() => openPart(() => ids[1]!))!
  await settled()
  return { docs, violin, cello, scope }
}

describe('parts beside each other', () => {
  it('are each worked out, edited and walked through by themselves', async () => {
    const { docs, violin, cello } = await two()
    expect([violin, cello].map(p => p.result!.strings[0])).toEqual(['E', 'A'])
    cello.rename('Low')
    cello.editPlayed({ octave: 0 })
    await settled()
    expect(docs.arrangements.map(a => a.arrangement.name)).toEqual(['As written', 'Low'])
    expect(violin.recipe!.played.octave).toBe('auto')
    cello.walk(1)
    expect([violin.selected, cello.selectedNote?.pitch]).toEqual([null, 'D4'])
    violin.pin('fingers', violin.notes[0]!.id, { finger: 3 })
    await settled()
    expect(violin.notes[0]!.finger).toBe(3)
    expect(cello.recipe!.played.pins.fingers).toEqual({})
  })
  it('follow an edit of the tune together, and undo takes it back in both', async () => {
    const { docs, violin, cello } = await two()
    const [first] = docs.documents!.tune.measures
    docs.changeTune({ ...docs.documents!.tune, measures: [first!] })
    await settled()
    expect([violin.notes.length, cello.notes.length]).toEqual([4, 4])
    docs.undo()
    await settled()
    expect([violin.notes.length, cello.notes.length]).toEqual([5, 5])
  })
  it('one that is closed asks no more', async () => {
    const { docs, scope } = await two()
    scope.stop()
    served.derived = 0
    docs.editFacts({ title: 'Other' })
    await settled()
    expect(served.derived).toBe(1)
  })
  it('the part in use is whichever is chosen', async () => {
    const { docs, violin: inUse } = await two()
    docs.choose(docs.arrangements[1]!.id)
    await settled()
    expect(inUse.result!.strings[0]).toBe('A')
  })
})
