/** What files and pasted text hold: read, looked over, compared with the shelf, and chosen from. */
import { computed, onUnmounted, ref, shallowRef } from 'vue'
import { unpack } from '#core/desk/packed'
import type { FileResult } from '#core/desk/views'
import { sentence } from '#core/words/findings'
import { api } from '../api/client'
import { inParts } from '../stores/shelf'
import type { GivenFile } from '../stores/intake'
import { FileDesk } from '../worker/fileDesk'
import { useLongBook } from './longBook'

/** Milliseconds to wait for what the shelf has of it already. */
const LOOKING = 8000
/** So like one on the shelf that it is the same tune. */
const SAME = 0.95

/** A file of several that gave no tune, and why. */
export interface Unread {
  readonly name: string
  readonly said: string
}
const NONE: FileResult = {
  kind: null,
  tunes: [],
  findings: [],
  choices: [],
  taken: 0,
  prints: [],
  listed: null,
}
const messageOf = (e: unknown) => (e instanceof Error ? e.message : String(e))

/** @param desk reads; in a worker of its own */
export function useReading(desk: FileDesk = new FileDesk()) {
  const book = useLongBook(desk)
  const read = shallowRef<FileResult | null>(null)
  const unread = shallowRef<readonly Unread[]>([])
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  const alike = shallowRef<Awaited<ReturnType<typeof api.alike>>>([])
  const problem = ref('')
  const reading = ref(false)
  let turn = 0
  onUnmounted(() => {
    book.stop()
    desk.close()
  })

  const readOne = async ({ name, bytes }: GivenFile, choice?: number) =>
    unpack(await desk.readFile(name, bytes, choice === undefined ? {} : { choice }))

  /** Of several files all their tunes; one that gives none is named with its reason. */
  async function readAll(files: readonly GivenFile[], mine: number): Promise<FileResult> {
    const [results, left]: [FileResult[], Unread[]] = [[], []]
    for (const file of files) {
      if (mine !== turn) break
      try {
        const result = await readOne(file)
        const first = result.findings[0]
        if (result.listed) left.push({ name: file.name, said: 'This is a long book: choose it by itself.' })
        else if (result.tunes.length === 0)
          left.push({ name: file.name, said: first ? sentence(first) : 'No tune is in it.' })
        else results.push(result)
      } catch (e) {
        left.push({ name: file.name, said: messageOf(e) })
      }
    }
    unread.value = left
    return {
      ...NONE,
      tunes: results.flatMap(r => r.tunes),
      prints: results.flatMap(r => r.prints),
      findings: results.flatMap(r => r.findings),
    }
  }

  /**
   * Reads files; only the newest call counts.
   * @param choice of one file which part, voice or track, by its number
   */
  async function look(files: readonly GivenFile[], choice?: number): Promise<void> {
    const mine = ++turn
    unread.value = []
    if (files.length === 0) {
      read.value = null
      return
    }
    reading.value = true
    try {
      const result = files.length === 1 ? await readOne(files[0]!, choice) : await readAll(files, mine)
      if (mine !== turn) return
      read.value = result
      book.open(result.listed)
      if (result.listed) void lookOver()
      chosen.value = new Set(result.tunes.keys())
      problem.value = ''
      alike.value = []
      const looked = lookOnShelf(mine, result)
      // One tune can be taken whatever the shelf says.
      if (result.tunes.length > 1) await looked
    } catch (e) {
      if (mine === turn) problem.value = messageOf(e)
    } finally {
      if (mine === turn) reading.value = false
    }
  }

  /** What is on the shelf already is not taken a second time unless one asks for it. */
  async function lookOnShelf(mine: number, { tunes, prints }: FileResult) {
    if (tunes.length === 0) return
    try {
      const found = await api.alike(prints, AbortSignal.timeout(LOOKING))
      if (mine !== turn) return
      alike.value = found
      if (tunes.length > 1)
        chosen.value = new Set([...tunes.keys()].filter(i => (found[i]?.[0]?.likeness ?? 0) < SAME))
    } catch {
      if (mine === turn) problem.value = 'Whether this is on the shelf already could not be looked up.'
    }
  }
  const lookOver = () => book.lookOver().catch((e: unknown) => (problem.value = messageOf(e)))

  const tunes = computed(() => read.value?.tunes ?? [])
  /** Errors first: the list is cut by the window. */
  const findings = computed(() =>
    [...(read.value?.findings ?? []), ...(tunes.value.length === 1 ? tunes.value[0]!.findings : [])].toSorted(
      (a, b) => Number(b.severity === 'error') - Number(a.severity === 'error'),
    ),
  )
  const choices = computed(() =>
    (read.value?.choices ?? [])
      .map((c, value) => ({ value, title: `${c.label} (${c.notes} notes)`, notes: c.notes }))
      .filter(c => c.notes > 0),
  )
  const count = computed(() => (book.entries.value ? book.chosen.value.size : chosen.value.size))

  function toggle(i: number) {
    const next = new Set(chosen.value)
    if (!next.delete(i)) next.add(i)
    chosen.value = next
  }
  const toggleAll = () =>
    (chosen.value = count.value === tunes.value.length ? new Set() : new Set(tunes.value.keys()))

  /** The chosen tunes, a part at a time. */
  function parts() {
    book.stop()
    return book.entries.value ? book.parts() : inParts(tunes.value.filter((_, i) => chosen.value.has(i)))
  }

  return {
    book,
    read,
    unread,
    chosen,
    alike,
    problem,
    reading,
    tunes,
    findings,
    choices,
    count,
    look,
    lookOver,
    toggle,
    toggleAll,
    parts,
  }
}
