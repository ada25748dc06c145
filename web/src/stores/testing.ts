/**
 * For tests of the stores: a bench with a tune on it, the core called straight, the server and the browser's
 * storage made up.
 */
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement, type Played } from '#core/arrangement/recipe'
import { Memories } from '#core/desk/memories'
import { pack, unpack } from '#core/desk/packed'
import type { PartDocuments } from '#core/desk/part'
import { QUESTIONS, type Question } from '#core/desk/questions'
import { toldOf } from '#core/desk/told'
import type { DerivedView } from '#core/desk/views'
import { readAbc } from '#core/formats/abc/readAbc'

/** Answers of a test's own, by question. */
type OwnAnswers = Readonly<Record<string, (part: PartDocuments, ...rest: never[]) => unknown>>

/** What the worker would answer, without a worker: in the place of `worker/client`, and of one of a crew. */
export function straightDesk(own: OwnAnswers = {}) {
  const memories = new Memories()
  const ask = async (question: Question, part: PartDocuments, ...rest: never[]): Promise<unknown> => {
    const asked = QUESTIONS[question] as (m: Memories, p: PartDocuments, ...rest: never[]) => unknown
    const answer = own[question] ? own[question](part, ...rest) : asked(memories, part, ...rest)
    return unpack(pack(await answer))
  }
  const derivedOf = async (part: PartDocuments): Promise<DerivedView> =>
    toldOf(unpack(memories.view(part).view), part.tune)
  return { ask, askPart: ask, derivedOf }
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

/** Other windows of the same browser hear what one says, and never what they say themselves. */
export function madeUpChannels() {
  const open = new Set<{ onmessage: ((e: { data: unknown }) => void) | null }>()
  return class {
    onmessage: ((e: { data: unknown }) => void) | null = null
    constructor() {
      open.add(this)
    }
    postMessage(data: unknown) {
      for (const other of open)
        if (other !== this) void Promise.resolve().then(() => open.has(other) && other.onmessage?.({ data }))
    }
    close() {
      open.delete(this)
    }
  }
}

/** Lets every promise under way come to its end. */
export const settled = () => new Promise<void>(done => setTimeout(done, 5))
