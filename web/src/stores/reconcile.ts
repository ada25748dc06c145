/**
 * What one window changed, laid over what the server holds by then. Each document goes by itself: what only
 * one side changed stands as that side has it; what both sides changed otherwise is kept twice.
 */
import equal from 'fast-deep-equal'
import type { SaveDocuments, TuneWithArrangements } from '#contract/documents'
import { MOST } from '#core/music/tune'
import { MOST_NAME } from '#core/arrangement/recipe'
import { ANY_VERSION } from './drafts'
import type { Documents } from './saving'

/** What a second version of a tune or an arrangement is called after. */
const SECOND = ' (second version)'
export const secondTitle = (title: string) => title.slice(0, MOST.line - SECOND.length) + SECOND
const secondName = (name: string) => name.slice(0, MOST_NAME - SECOND.length) + SECOND

export interface Reconciled {
  /** What stands from now on: theirs, with the changes that are only mine. */
  readonly docs: Documents
  /** The whole of mine where both changed the tune itself: to be kept as a tune of its own. */
  readonly second: Documents | null
  /** Arrangements both changed: mine, as they are kept beside theirs. */
  readonly beside: readonly { readonly id: string; readonly name: string; readonly of: string }[]
  /** Whether anything of mine is not on the server as it is. */
  readonly changed: boolean
}

/** The documents of a record, without their versions. */
export const documentsOf = ({ source, tune, arrangements }: TuneWithArrangements): Documents => ({
  source,
  tune,
  arrangements: arrangements.map(({ id, arrangement }) => ({ id, arrangement })),
})

/**
 * @param mine what I changed, each document with the version it was made on
 * @param sent what I sent before and may have arrived: what the server holds of it is mine
 * @param newId names an arrangement that is kept beside theirs
 */
export function reconcile(
  theirs: TuneWithArrangements,
  mine: SaveDocuments,
  sent: readonly SaveDocuments[],
  newId: () => string,
): Reconciled {
  const bodies = [mine, ...sent]
  const isMineTune = () =>
    bodies.some(b => b.tune && b.tune.source === theirs.source && sameDocument(b.tune.tune, theirs.tune))
  const tuneIsFree = !mine.tune || mine.tune.version === theirs.version || isMineTune()
  const there = new Map(theirs.arrangements.map(a => [a.id, a]))
  const isFree = (id: string, version: number | null) => {
    const t = there.get(id)
    if (!t || version === ANY_VERSION || t.version === version) return true
    return bodies.some(b =>
      b.arrangements.some(a => a.id === id && sameDocument(a.arrangement, t.arrangement)),
    )
  }
  const beside: Reconciled['beside'][number][] = []
  const removed = new Set(mine.removed.filter(r => isFree(r.id, r.version)).map(r => r.id))
  const changed = new Map(mine.arrangements.map(a => [a.id, a]))
  const kept = theirs.arrangements.flatMap(({ id, arrangement }) => {
    if (removed.has(id)) return []
    const own = changed.get(id)
    if (!own || sameDocument(own.arrangement, arrangement)) return [{ id, arrangement }]
    if (isFree(id, own.version)) return [{ id, arrangement: own.arrangement }]
    const second = {
      id: newId(),
      arrangement: { ...own.arrangement, name: secondName(own.arrangement.name) },
    }
    beside.push({ id: second.id, name: second.arrangement.name, of: id })
    return [{ id, arrangement }, second]
  })
  const added = mine.arrangements
    .filter(a => !there.has(a.id))
    .map(({ id, arrangement }) => ({ id, arrangement }))
  const arrangements = [...kept, ...added]
  if (!tuneIsFree) {
    // Mine were made for my tune: they go with it, under their own names, and theirs stay as they are.
    const own = theirs.arrangements.flatMap(({ id, arrangement }) =>
      removed.has(id) ? [] : [{ id, arrangement: changed.get(id)?.arrangement ?? arrangement }],
    )
    const { source, tune } = mine.tune!
    const second = { source, tune, arrangements: [...own, ...added] }
    return { docs: documentsOf(theirs), second, beside: [], changed: false }
  }
  const { source, tune } =
    mine.tune && !(mine.tune.source === theirs.source && sameDocument(mine.tune.tune, theirs.tune))
      ? mine.tune
      : theirs
  const docs = { source, tune, arrangements }
  const before = new Map(theirs.arrangements.map(a => [a.id, a.arrangement]))
  const moved =
    tune !== theirs.tune ||
    arrangements.length !== theirs.arrangements.length ||
    arrangements.some(a => before.get(a.id) !== a.arrangement)
  return { docs, second: null, beside, changed: moved }
}

/** What the server would hold once documents were saved: for another draft that is laid over them. */
export const asHeld = (theirs: TuneWithArrangements, docs: Documents): TuneWithArrangements => {
  const before = new Map(theirs.arrangements.map(a => [a.id, a]))
  return {
    ...theirs,
    source: docs.source,
    tune: docs.tune,
    version: docs.tune === theirs.tune ? theirs.version : NOT_YET,
    arrangements: docs.arrangements.map(({ id, arrangement }) => {
      const was = before.get(id)
      return was?.arrangement === arrangement ? was : { id, tuneId: theirs.id, version: NOT_YET, arrangement }
    }),
  }
}
/** Of what was never saved: no draft was made on it. */
const NOT_YET = -1

/**
 * Earlier and later states of mine, now that the server holds something else: what a state has as it was saved
 * before stands as it is there now, so that undoing my edits does not take back those of others.
 */
export function rebased(state: Documents, from: Documents, to: Documents): Documents {
  const saved = new Map(from.arrangements.map(a => [a.id, a.arrangement]))
  const now = new Map(to.arrangements.map(a => [a.id, a.arrangement]))
  const here = new Set(state.arrangements.map(a => a.id))
  const { source, tune } = state.tune === from.tune && state.source === from.source ? to : state
  const own = state.arrangements.flatMap(a => {
    if (saved.get(a.id) !== a.arrangement) return [a]
    const arrangement = now.get(a.id)
    return arrangement ? [{ id: a.id, arrangement }] : []
  })
  const others = to.arrangements.filter(a => !saved.has(a.id) && !here.has(a.id))
  return { source, tune, arrangements: [...own, ...others] }
}

/** Equal in what they say, in whatever order their fields stand; a field that is undefined is none. */
export const sameDocument = (a: object, b: object): boolean => a === b || equal(plain(a), plain(b))
const plain = (doc: object): unknown => JSON.parse(JSON.stringify(doc))
