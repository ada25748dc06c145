/**
 * A book too long to be read at once: listed first, looked over a part at a time, taken a part at a time;
 * each can be stopped.
 */
import { computed, ref, shallowRef } from 'vue'
import type { BookEntry } from '#core/formats/abc/book'
import type { FileTune } from '#core/formats/readFile'
import { sentence } from '#core/words/findings'
import { api } from '../api/client'
import { unpack } from '#core/desk/packed'
import type { BookPart } from '#core/desk/views'
import type { FileDesk } from '../worker/fileDesk'

/** Tunes read at once: few enough for a stop to be felt. */
const PART = 25
/** So like one on the shelf that it is the same tune. */
const SAME = 0.95

/** What was seen of a tune when it was read. */
export interface Looked {
  readonly measures: number
  /** What to look at, in a sentence; "" for nothing. */
  readonly said: string
  /** What is on the shelf already and sounds like it. */
  readonly like: { readonly title: string; readonly likeness: number } | null
}

/** @param files where the book was opened */
export function useLongBook(files: Pick<FileDesk, 'tunesOfBook'>) {
  const entries = shallowRef<readonly BookEntry[] | null>(null)
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  const looked = shallowRef<ReadonlyMap<number, Looked>>(new Map())
  const looking = ref(false)
  /** A newer file puts the work on an older one to an end. */
  let turn = 0

  const read = async (which: readonly number[]): Promise<BookPart> => unpack(await files.tunesOfBook(which))

  function open(list: readonly BookEntry[] | null) {
    turn++
    looking.value = false
    entries.value = list
    looked.value = new Map()
    chosen.value = new Set(list?.keys())
  }

  /** Reads all tunes, tells what is wrong with each, and leaves out what is on the shelf already. */
  async function lookOver(): Promise<void> {
    const mine = ++turn
    const all = entries.value?.length ?? 0
    looking.value = true
    try {
      for (let i = looked.value.size; i < all && mine === turn; i += PART) {
        const which = Array.from({ length: Math.min(PART, all - i) }, (_, k) => i + k)
        const part = await read(which)
        const alike = await api.alike(part.prints)
        if (mine !== turn) return
        const [seen, kept] = [new Map(looked.value), new Set(chosen.value)]
        which.forEach((k, n) => {
          const t = part.tunes[n]!
          const like = alike[n]?.[0] ?? null
          seen.set(k, { measures: t.tune.measures.length, said: saidOf(t), like })
          if (t.tune.measures.length === 0 || (like?.likeness ?? 0) >= SAME) kept.delete(k)
        })
        looked.value = seen
        chosen.value = kept
      }
    } finally {
      if (mine === turn) looking.value = false
    }
  }

  function saidOf({ findings }: FileTune): string {
    const bad = findings.filter(f => f.severity !== 'note')
    return bad.length === 0 ? '' : `${bad.length} to look at: ${sentence(bad[0]!)}`
  }

  function stop() {
    turn++
    looking.value = false
  }

  /** The chosen tunes, a part at a time: read only when those before are on the shelf. */
  async function* parts(): AsyncGenerator<readonly FileTune[]> {
    const list = [...chosen.value].sort((a, b) => a - b)
    for (let i = 0; i < list.length; i += PART) {
      const { tunes } = await read(list.slice(i, i + PART))
      // A tune without a note is nothing to take.
      yield tunes.filter(t => t.tune.measures.length > 0)
    }
  }

  const choose = (which: ReadonlySet<number>) => (chosen.value = which)
  return {
    entries,
    chosen,
    choose,
    looked,
    looking,
    seen: computed(() => looked.value.size),
    open,
    lookOver,
    stop,
    parts,
  }
}
