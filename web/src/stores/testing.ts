/**
 * For tests of the stores: a bench with a tune on it, the core called straight, the server and the browser's
 * storage made up.
 */
import { withPlayed } from '#core/arrangement/edits'
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { newArrangement, type Played } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { benchResult } from '../worker/benchResult'
import { pack, type Asked } from '../worker/contract'

/** What the worker would answer, without a worker. */
export const straightCore = {
  derive: ({ tune, recipe, context }: Asked) =>
    Promise.resolve(pack(benchResult(derive(tune, recipe, context), recipe))),
  inspect: () => Promise.resolve(null),
  read: (text: string) => {
    const first = readAbc(text).tunes[0]
    return Promise.resolve(
      pack({
        tune: first?.tune ?? null,
        findings: first?.findings ?? [],
        spans: [],
        tunesInText: 1,
        derived: null,
      }),
    )
  },
}

/** A place to keep things, like the browser's. */
export function madeUpStorage(): Storage {
  const kept = new Map<string, string>()
  return {
    get length() {
      return kept.size
    },
    key: i => [...kept.keys()][i] ?? null,
    getItem: k => kept.get(k) ?? null,
    setItem: (k, v) => void kept.set(k, v),
    removeItem: k => void kept.delete(k),
    clear: () => kept.clear(),
  }
}

/** Sets the stage anew; gives what the server would answer for the tune on it. */
export function stage(music: string, played: Partial<Played> = {}, head = 'M:4/4\nL:1/4\nK:D') {
  vi.stubGlobal('localStorage', madeUpStorage())
  setActivePinia(createPinia())
  const source = `X:1\nT:Staged\n${head}\n${music}\n`
  const arrangement = withPlayed(newArrangement('violin', 'full', 'As written'), played)
  const tune = readAbc(source).tunes[0]?.tune
  return {
    id: 't',
    version: 1,
    source,
    tune: tune!,
    updatedAt: '',
    arrangements: [{ id: 'a', tuneId: 't', version: 1, arrangement }],
  }
}

/** Lets every promise under way come to its end. */
export const settled = () => new Promise<void>(done => setTimeout(done, 5))
