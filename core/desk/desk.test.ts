import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { forInstrument, pinned, withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { demoSource } from '#demo/fillShelf'
import { Desk } from './desk'
import { derivedView } from './derivedView'
import { pack, unpack } from './packed'

const reel = readAbc(demoSource('brindlewick-bridge.abc')).tunes[0]!.tune
const violin = newArrangement('violin', 'full')

/** A desk with the reel on it (1), the hands (2), and eight parts (3 and on). */
function laid() {
  const desk = new Desk()
  const recipes = (['violin', 'viola', 'cello', 'bass'] as const).flatMap(i =>
    ([null, 3] as const).map(level => withPlayed(forInstrument(violin, i), { level })),
  )
  desk.put(
    [reel, ASSUMED_HANDS, ...recipes].map((d, i) => [i + 1, pack(d)] as const),
    [],
  )
  const parts = recipes.map((_, i) => ({ tune: 1, context: 2, recipe: i + 3 }))
  return { desk, recipes, parts }
}

describe('the desk', () => {
  it('tells what a part comes to, the same as worked out straight, but for the facts', () => {
    const { desk, recipes, parts } = laid()
    const d = derive(reel, recipes[0]!, ASSUMED_HANDS)
    const told = unpack(desk.derive(parts[0]!, []).view!)
    expect(told).toEqual(unpack(pack({ ...derivedView(d, recipes[0]!), tune: { ...told.tune } })))
    expect(told.tune).toMatchObject({ title: '', measures: unpack(pack(d.tune.measures)) })
  })
  it('does not tell again what whoever asks has, were it under another title', () => {
    const { desk, parts } = laid()
    const stamps = parts.map(p => desk.derive(p, []).stamp)
    expect(new Set(stamps).size).toBe(8)
    desk.put([[20, pack({ ...reel, title: 'Another title', notes: 'Learned at the mill.' })]], [1])
    for (const [i, p] of parts.entries())
      expect(desk.derive({ ...p, tune: 20 }, stamps)).toEqual({ stamp: stamps[i], view: null })
  })
  it('answers questions about a part, with what they ask beside it', async () => {
    const { desk, parts } = laid()
    const report = unpack(await desk.ask('inspect', parts[0]!, reel.measures[1]!.events[0]!.id as never))
    expect(report!.alternatives.length).toBeGreaterThan(1)
    const made = unpack(await desk.ask('easier', parts[0]!, 2, 'own', {}, null))
    expect(made.played.level).toBe(2)
    const heard = unpack(await desk.ask('read', parts[0]!, 'X:1\nT:t\nM:4/4\nL:1/4\nK:D\nDEFG|', true))
    expect(heard.derived!.tune.title).toBe('t')
    expect(heard.derived!.notes.map(n => n.pitch)).toEqual(['D4', 'E4', 'F#4', 'G4'])
  })
  it('goes by what is put there last, and says when a document is missing', async () => {
    const { desk, parts } = laid()
    const first = reel.measures[1]!.events[0]!.id
    desk.put([[30, pack(pinned(violin, 'fingers', first, { string: 2 }))]], [])
    const told = unpack(desk.derive({ ...parts[0]!, recipe: 30 }, []).view!)
    expect(told.notes.find(n => n.id === (first as string))!.string).toBe(2)
    desk.put([], [30])
    expect(() => desk.derive({ ...parts[0]!, recipe: 30 }, [])).toThrow('before its document')
    await expect(desk.ask('teach', { ...parts[0]!, recipe: 30 })).rejects.toThrow('before its document')
  })
  it('lists a long book and reads its tunes when they are asked for', async () => {
    const { desk } = laid()
    await expect(desk.tunesOfBook([0])).rejects.toThrow('not open any more')
    const book = Array.from({ length: 600 }, (_, i) => `X:${i + 1}\nT:Tune ${i + 1}\nM:4/4\nK:D\nD4|\n`)
    const bytes = new TextEncoder().encode(book.join('\n'))
    const { listed, tunes } = unpack(await desk.readFile('book.abc', bytes))
    expect(tunes).toEqual([])
    expect(listed).toHaveLength(600)
    const some = unpack(await desk.tunesOfBook([0, 599]))
    expect(some.tunes.map(t => t.tune.title)).toEqual(['Tune 1', 'Tune 600'])
    expect(some.prints).toHaveLength(2)
  })
})
