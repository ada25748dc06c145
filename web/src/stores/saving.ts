/** Saves the bench by itself: soon after an edit, one save at a time, with a state the teacher can see. */
import { computed, onScopeDispose, ref } from 'vue'
import type { SaveDocuments, TuneWithArrangements } from '#contract/documents'
import { api, ApiError } from '../api/client'
import { dropDraft, keepDraft, openingOf, type Draft } from './drafts'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'full' | 'clash' | 'unsafe'

/** What is saved: documents by identity, so that a change is seen by `!==`. */
export interface Documents {
  readonly source: string | null
  readonly tune: TuneWithArrangements['tune']
  readonly arrangements: readonly {
    readonly id: string
    readonly arrangement: TuneWithArrangements['arrangements'][number]['arrangement']
  }[]
}

export interface UseSavingOptions {
  /** The name of this window, and where it keeps drafts. */
  readonly window: string
  readonly storage: Storage | null
  readonly documents: () => Documents
  /**
   * Called when the server holds something newer: what becomes of both. Nothing is saved until it is done; if
   * it fails it is tried again.
   */
  readonly clash: () => Promise<void>
  readonly saved: (tuneId: string) => void
}

/** Milliseconds from the last edit to the save, and between tries while the server is away. */
const PAUSE = 500
const RETRY = 4000
/** So many saves without an answer are remembered: any of them may have arrived. */
const MOST_SENT = 4

/** What the server holds of one tune, as far as this window knows. */
interface Held {
  readonly tuneId: string
  /** Under which its draft is kept: each opening has a name of its own, so that none takes another's place. */
  readonly draft: string
  docs: Documents
  tuneVersion: number
  readonly versions: Map<string, number>
  /** Sent and not answered. */
  sent: readonly SaveDocuments[]
}

export function useSaving({ window, storage, documents, clash, saved }: UseSavingOptions) {
  const state = ref<SaveState>('saved')
  const problem = ref('')
  let held: Held | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let keeping: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | null = null
  let openings = 0

  onScopeDispose(() => {
    clearTimeout(timer)
    clearTimeout(keeping)
    held = null
  })

  /**
   * From here on another tune is on the bench. What is not saved of the one before is sent once more; what does
   * not arrive stays in the browser until that tune is opened again.
   */
  function left() {
    clearTimeout(timer)
    clearTimeout(keeping)
    keeping = undefined
    const own = held
    const docs = own && documents()
    held = null
    if (!own || !docs || !keepOf(own, docs)) return
    const before = running ?? Promise.resolve()
    void before.then(() => attempt(own, docs))
  }

  /** The server holds these, by their versions; sent and unanswered before may be among them. */
  function opened(docs: Documents, record: TuneWithArrangements, sent: readonly SaveDocuments[] = []) {
    clearTimeout(timer)
    const versions = new Map(record.arrangements.map(a => [a.id, a.version]))
    held = {
      tuneId: record.id,
      draft: held?.tuneId === record.id ? held.draft : openingOf(window, ++openings),
      docs,
      tuneVersion: record.version,
      versions,
      sent: sent.slice(-MOST_SENT),
    }
    state.value = 'saved'
  }

  /** What is not on the server as it is here; null when all of it is. */
  function changes({ docs: stored, tuneVersion, versions }: Held, docs: Documents): SaveDocuments | null {
    const before = new Map(stored.arrangements.map(a => [a.id, a.arrangement]))
    const here = new Set(docs.arrangements.map(a => a.id))
    const tune =
      docs.tune !== stored.tune || docs.source !== stored.source
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

  /** What is only here, as a draft keeps it. */
  function pending(): Draft | null {
    const body = held && changes(held, documents())
    return body && { pending: body, sent: [...held!.sent] }
  }

  /**
   * An edit happened: it is in the browser's own store as soon as the page has shown it, and on the server
   * soon after.
   */
  function edited() {
    if (state.value !== 'unsafe' && state.value !== 'clash') state.value = 'unsaved'
    keeping ??= setTimeout(keep)
    clearTimeout(timer)
    timer = setTimeout(() => void save(), PAUSE)
  }

  function keep() {
    clearTimeout(keeping)
    keeping = undefined
    if (held) keepOf(held, documents())
  }

  /** Keeps what is only here, or drops what is not needed any more. False when all is on the server. */
  function keepOf(own: Held, docs: Documents): boolean {
    const body = changes(own, docs)
    if (!body) {
      dropDraft(own.tuneId, own.draft, storage)
      return false
    }
    const safe = keepDraft(own.tuneId, own.draft, { pending: body, sent: [...own.sent] }, storage)
    if (own !== held) return true
    if (!safe) state.value = 'unsafe'
    else if (state.value === 'unsafe') state.value = 'unsaved'
    return true
  }

  async function save(): Promise<void> {
    clearTimeout(timer)
    if (keeping !== undefined) keep()
    while (running) await running
    if (!held) return
    running = attempt(held, documents())
    try {
      await running
    } finally {
      running = null
    }
  }

  async function attempt(own: Held, docs: Documents) {
    const isOn = () => own === held
    const body = changes(own, docs)
    if (isOn()) state.value = 'saving'
    try {
      if (body) {
        own.sent = [...own.sent, body].slice(-MOST_SENT)
        keepOf(own, isOn() ? documents() : docs)
        arrived(own, docs, body, await api.save(own.tuneId, body))
        saved(own.tuneId)
      }
    } catch (e) {
      if (isOn()) await failed(e)
      return
    }
    if (isOn()) state.value = keepOf(own, documents()) ? 'unsaved' : 'saved'
    // The same tune may be open again by now, and keep what it has under the same name.
    else if (held?.draft !== own.draft) keepOf(own, docs)
  }

  function arrived(
    own: Held,
    docs: Documents,
    body: SaveDocuments,
    answer: Awaited<ReturnType<typeof api.save>>,
  ) {
    own.docs = docs
    own.sent = []
    if (answer.tune !== null) own.tuneVersion = answer.tune
    for (const { id } of body.removed) own.versions.delete(id)
    for (const { id, version } of answer.arrangements) own.versions.set(id, version)
  }

  async function failed(e: unknown) {
    problem.value = e instanceof Error ? e.message : String(e)
    if (e instanceof ApiError && e.code === 'conflict') {
      state.value = 'clash'
      try {
        return await clash()
      } catch (again) {
        problem.value = again instanceof Error ? again.message : String(again)
      }
    }
    state.value = e instanceof ApiError && e.code === 'diskFull' ? 'full' : 'offline'
    timer = setTimeout(() => void save(), RETRY)
  }

  return {
    state: computed(() => state.value),
    problem,
    left,
    opened,
    edited,
    keep,
    save,
    pending,
    /** What the server held when it last answered. */
    stored: () => held?.docs ?? null,
  }
}
