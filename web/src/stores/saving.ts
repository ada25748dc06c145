/** Saves the bench by itself: soon after an edit, one save at a time, with a state the teacher can see. */
import { computed, ref, type Ref } from 'vue'
import type { SaveDocuments } from '#contract/documents'
import { api, ApiError } from '../api/client'
import { dropDraft, keepDraft, type Draft } from './drafts'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'full' | 'clash' | 'unsafe'

/** What is saved: documents by identity, so that a change is seen by `!==`. */
export interface Documents {
  readonly source: string | null
  readonly tune: Draft['tune']
  readonly arrangements: readonly {
    readonly id: string
    readonly arrangement: Draft['arrangements'][number]['arrangement']
  }[]
}

export interface UseSavingOptions {
  readonly tuneId: Ref<string>
  readonly documents: () => Documents
  /** Called when the server holds something newer. */
  readonly clash: (mine: Documents) => Promise<void>
}

/** Milliseconds from the last edit to the save, and between tries while the server is away. */
const PAUSE = 500
const RETRY = 4000

const parted = (a: Documents, b: Documents) =>
  a.tune !== b.tune || a.source !== b.source || a.arrangements !== b.arrangements

export function useSaving({ tuneId, documents, clash }: UseSavingOptions) {
  const state = ref<SaveState>('saved')
  const problem = ref('')
  /** What the server holds, and the version it holds of each. */
  let stored: Documents | null = null
  let tuneVersion = 0
  const versions = new Map<string, number>()
  let timer: ReturnType<typeof setTimeout> | undefined
  let keeping: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | null = null

  function opened(
    docs: Documents,
    version: number,
    arrangementVersions: readonly (readonly [string, number])[],
  ) {
    clearTimeout(timer)
    stored = docs
    tuneVersion = version
    versions.clear()
    for (const [id, v] of arrangementVersions) versions.set(id, v)
    state.value = 'saved'
  }

  const draftOf = (docs: Documents): Draft => ({
    tuneVersion,
    source: docs.source,
    tune: docs.tune,
    arrangements: docs.arrangements.map(a => ({ ...a })),
    known: [...versions.keys()],
  })

  /**
   * An edit happened: it is in the browser's own store as soon as the page has shown it, and on the server
   * soon after.
   */
  function edited() {
    if (state.value === 'clash') return
    if (state.value !== 'unsafe') state.value = 'unsaved'
    keeping ??= setTimeout(keep)
    clearTimeout(timer)
    timer = setTimeout(() => void save(), PAUSE)
  }

  function keep() {
    clearTimeout(keeping)
    keeping = undefined
    if (!keepDraft(tuneId.value, draftOf(documents()))) state.value = 'unsafe'
    else if (state.value === 'unsafe') state.value = 'unsaved'
  }

  async function save(): Promise<void> {
    clearTimeout(timer)
    if (keeping !== undefined) keep()
    while (running) await running
    if (!stored || state.value === 'clash') return
    running = attempt()
    try {
      await running
    } finally {
      running = null
    }
  }

  /** What is not on the server as it is here; null when all of it is. */
  function changes(docs: Documents): SaveDocuments | null {
    const before = new Map(stored!.arrangements.map(a => [a.id, a.arrangement]))
    const here = new Set(docs.arrangements.map(a => a.id))
    const tune =
      docs.tune !== stored!.tune || docs.source !== stored!.source
        ? { version: tuneVersion, source: docs.source, tune: docs.tune }
        : null
    const arrangements = docs.arrangements
      .filter(a => before.get(a.id) !== a.arrangement)
      .map(a => ({ ...a, version: versions.get(a.id) ?? null }))
    const removed = [...before.keys()]
      .filter(id => !here.has(id))
      .map(id => ({ id, version: versions.get(id)! }))
    return tune || arrangements.length > 0 || removed.length > 0 ? { tune, arrangements, removed } : null
  }

  async function attempt() {
    const docs = documents()
    const body = changes(docs)
    state.value = 'saving'
    try {
      if (body) {
        const saved = await api.save(tuneId.value, body)
        stored = docs
        if (saved.tune !== null) tuneVersion = saved.tune
        for (const { id } of body.removed) versions.delete(id)
        for (const { id, version } of saved.arrangements) versions.set(id, version)
      }
      const moved = parted(documents(), docs)
      state.value = moved ? 'unsaved' : 'saved'
      if (!moved) dropDraft(tuneId.value)
    } catch (e) {
      await failed(e, docs)
    }
  }

  async function failed(e: unknown, docs: Documents) {
    problem.value = e instanceof Error ? e.message : String(e)
    if (e instanceof ApiError && e.code === 'conflict') {
      state.value = 'clash'
      await clash(docs)
      return
    }
    state.value = e instanceof ApiError && e.code === 'diskFull' ? 'full' : 'offline'
    timer = setTimeout(() => void save(), RETRY)
  }

  return { state: computed(() => state.value), problem, opened, edited, save }
}
