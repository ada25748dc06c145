import { describe, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { emptyTune } from '#core/music/tune'
import { begin, record, undo } from './history'
import { keepHistory, keptHistory } from './keptHistory'
import type { Documents } from './saving'

/** A browser's storage with so much room, in letters. */
function roomFor(most = Infinity) {
  const texts = new Map<string, string>()
  return {
    getItem: (k: string) => texts.get(k) ?? null,
    setItem(k: string, v: string) {
      if (v.length > most) throw new Error('full')
      texts.set(k, v)
    },
    removeItem: (k: string) => void texts.delete(k),
  } as unknown as Storage
}
const titled = (title: string): Documents => ({
  source: null,
  tune: emptyTune(title),
  arrangements: [{ id: 'a', arrangement: newArrangement('violin', 'full') }],
})
const edited = ['one', 'two', 'three'].reduce((h, t) => record(h, titled(t)), begin(titled('zero')))
const titles = (list: readonly Documents[]) => list.map(d => d.tune.title)

describe('the history kept over a reload', () => {
  it('is given back once, with what was undone', () => {
    const storage = roomFor()
    keepHistory(storage, 't1', undo(edited))
    const back = keptHistory(storage, 't1', titled('two'))!
    expect(titles(back.past)).toEqual(['zero', 'one'])
    expect(titles(back.future)).toEqual(['three'])
    expect(keptHistory(storage, 't1', titled('two'))).toBeNull()
  })
  it('is dropped when the tune is another, or was changed meanwhile', () => {
    const storage = roomFor()
    keepHistory(storage, 't1', edited)
    expect(keptHistory(storage, 't2', titled('three'))).toBeNull()
    keepHistory(storage, 't1', edited)
    expect(keptHistory(storage, 't1', titled('changed elsewhere'))).toBeNull()
  })
  it('does without where there is no room, and with what is no history', () => {
    const storage = roomFor(10)
    keepHistory(storage, 't1', edited)
    expect(keptHistory(storage, 't1', titled('three'))).toBeNull()
    const odd = roomFor()
    odd.setItem('nokta.undo', '{"tune":"t1","past":[{}]}')
    expect(keptHistory(odd, 't1', titled('three'))).toBeNull()
    expect(keptHistory(null, 't1', titled('three'))).toBeNull()
  })
})
