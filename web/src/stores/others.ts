/**
 * What others did to the tune on the bench: another window, another browser, or this one before it was closed.
 * Their changes and those made here are brought together; nothing of either is lost.
 */
import type { Ref, ShallowRef } from 'vue'
import type { TuneWithArrangements } from '#contract/documents'
import type { Arrangement } from '#core/arrangement/recipe'
import { api } from '../api/client'
import { dropDraft, findDrafts, windowOf, type Draft } from './drafts'
import { begin, moved, record, type History } from './history'
import { asHeld, documentsOf, rebased, reconcile, secondTitle, type Reconciled } from './reconcile'
import type { Documents, useSaving } from './saving'
import type { useSiblings } from './siblings'

export interface UseOthersOptions {
  readonly bench: {
    readonly tuneId: Ref<string>
    readonly loading: Ref<string>
    readonly notice: Ref<string>
    readonly history: ShallowRef<History<Documents> | null>
    readonly documents: Readonly<Ref<Documents | null>>
    readonly arrangementId: Ref<string>
    readonly recipe: Readonly<Ref<Arrangement | null>>
    readonly choose: (id: string) => void
  }
  readonly saving: ReturnType<typeof useSaving>
  readonly siblings: ReturnType<typeof useSiblings>
  readonly storage: Storage | null
}

export function useOthers({ bench, saving, siblings, storage }: UseOthersOptions) {
  const { tuneId, loading, notice, history, documents, arrangementId, recipe, choose } = bench

  /**
   * Work that had not reached the server comes back: of this window and of those that are closed. What others
   * changed meanwhile too is kept twice.
   */
  async function takeUpDrafts(found: TuneWithArrangements) {
    const kept = findDrafts(found.id, storage)
    const ofOthers = kept.some(k => windowOf(k.opening) !== siblings.name)
    const open = ofOthers ? await siblings.open() : new Set<string>()
    const mine = kept.filter(k => !open.has(windowOf(k.opening)))
    if (mine.length === 0 || tuneId.value !== found.id) return
    // Edits made since the tune was opened are the last of them.
    const since = saving.pending()
    try {
      const differs = await layOver(found, [...mine.map(k => k.draft), ...(since ? [since] : [])])
      if (differs) notice.value ||= 'Work that had not been saved yet was brought back.'
    } catch (e) {
      const why = e instanceof Error ? e.message : String(e)
      notice.value = `Work kept in this browser could not be brought back yet; it stays here. ${why}`
      return
    }
    saving.keep()
    // Where there is no room for all of it together, each stays where it is until it is saved.
    if (saving.state.value === 'unsafe') return
    for (const { opening } of mine) dropDraft(found.id, opening, storage)
  }

  /**
   * Lays drafts over what the server holds, one after another. True when something of them is to be saved.
   * Tells what had to be kept twice.
   */
  async function layOver(found: TuneWithArrangements, drafts: readonly Draft[]): Promise<boolean> {
    const before = documents.value
    const seconds: Documents[] = []
    const beside: Reconciled['beside'][number][] = []
    let now = found
    for (const { pending, sent } of drafts) {
      const r = reconcile(now, pending, sent, () => crypto.randomUUID())
      now = asHeld(now, r.docs)
      if (r.second) seconds.push(r.second)
      beside.push(...r.beside)
    }
    for (const second of seconds) await keepSecond(second)
    if (tuneId.value !== found.id) return false
    // Made while that was kept.
    const late = documents.value === before ? null : saving.pending()
    const [stored, theirs, docs] = [saving.stored()!, documentsOf(found), documentsOf(now)]
    const untouched = saving.pending() === null
    saving.opened(
      theirs,
      found,
      drafts.flatMap(d => [...d.sent, d.pending]),
    )
    const afresh = beside.length + seconds.length > 0 || (untouched && drafts.length > 0)
    history.value = afresh ? begin(theirs) : moved(history.value!, s => rebased(s, stored, theirs))
    history.value = { ...history.value, present: docs }
    const differs = saving.pending() !== null
    if (afresh && differs) history.value = record(begin(theirs), docs)
    if (beside.length > 0) {
      const names = beside.map(b => `“${b.name}”`).join(', ')
      notice.value = `Fingers and bows of this tune were changed elsewhere too. Yours are kept beside them as ${names}.`
    }
    const own = beside.find(b => b.of === arrangementId.value)
    if (own) choose(own.id)
    else if (!recipe.value) choose(docs.arrangements[0]?.id ?? '')
    if (late) {
      const kept = saving.pending()
      return layOver(found, kept ? [kept, late] : [late])
    }
    if (differs) saving.edited()
    return differs
  }

  /** Both changed the tune: mine becomes a tune of its own, with all its arrangements. */
  async function keepSecond(mine: Documents) {
    const first = mine.arrangements.find(a => a.id === arrangementId.value) ?? mine.arrangements[0]!
    const title = secondTitle(mine.tune.title)
    const copy = await api.createTune(mine.source, { ...mine.tune, title }, first.arrangement)
    const rest = mine.arrangements.filter(a => a !== first)
    if (rest.length > 0) {
      const added = rest.map(a => ({ id: crypto.randomUUID(), version: null, arrangement: a.arrangement }))
      await api.save(copy.id, { tune: null, arrangements: added, removed: [] })
    }
    notice.value = `This tune was changed elsewhere too. Your version is kept on the shelf as “${title}”; here is the other one.`
  }

  /** The server holds something newer than what this window changed. */
  async function clashed() {
    const id = tuneId.value
    const found = await api.tune(id)
    const draft = tuneId.value === id ? saving.pending() : null
    if (draft) await layOver(found, [draft])
  }

  /** Another window saved something of a tune: this one follows where it has no edit of its own. */
  async function follow(saved: string) {
    if (saved !== tuneId.value || loading.value !== 'ready' || saving.pending()) return
    const found = await api.tune(saved).catch(() => null)
    if (!found || saved !== tuneId.value || !history.value || saving.pending()) return
    await layOver(found, [])
  }

  return { takeUpDrafts, clashed, follow }
}
