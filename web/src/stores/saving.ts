/** Saves the bench by itself: soon after an edit, one save at a time, with a state the teacher can see. */
import { computed, ref, type Ref } from 'vue'
import { api, ApiError } from '../api/client'
import { dropDraft, keepDraft, type Draft } from './drafts'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'clash' | 'unsafe'

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

export function useSaving({ tuneId, documents, clash }: UseSavingOptions) {
  const state = ref<SaveState>('saved')
  const problem = ref('')
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

  const added = (id: string, version: number, docs: Documents) => {
    versions.set(id, version)
    stored = stored && {
      ...stored,
      arrangements: [...stored.arrangements, docs.arrangements.find(a => a.id === id)!],
    }
  }

  function draftOf(docs: Documents): Draft {
    return {
      tuneVersion,
      source: docs.source,
      tune: docs.tune,
      arrangements: docs.arrangements.map(a => ({ ...a, version: versions.get(a.id) ?? 1 })),
    }
  }

  /** An edit happened: it is in the browser's own store as soon as the page has shown it, and on the server soon after. */
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

  async function attempt() {
    const docs = documents()
    state.value = 'saving'
    try {
      if (docs.tune !== stored!.tune || docs.source !== stored!.source) {
        tuneVersion = (await api.saveTune(tuneId.value, tuneVersion, docs.source, docs.tune)).version
        stored = { ...stored!, tune: docs.tune, source: docs.source }
      }
      for (const a of docs.arrangements) {
        const before = stored!.arrangements.find(x => x.id === a.id)
        if (before?.arrangement === a.arrangement) continue
        versions.set(a.id, (await api.saveArrangement(a.id, versions.get(a.id) ?? 1, a.arrangement)).version)
        stored = {
          ...stored!,
          arrangements: docs.arrangements.map(x =>
            x.id === a.id ? a : (stored!.arrangements.find(s => s.id === x.id) ?? x),
          ),
        }
      }
      const now = documents()
      const moved =
        now.tune !== docs.tune || now.source !== docs.source || now.arrangements !== docs.arrangements
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
    state.value = 'offline'
    timer = setTimeout(() => void save(), RETRY)
  }

  return { state: computed(() => state.value), problem, opened, added, edited, save }
}
