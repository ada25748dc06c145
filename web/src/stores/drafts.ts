/**
 * What is not yet on the server, kept in the browser from the very moment of the edit: nothing is lost on
 * reload or while the server is away. A draft is what the next save would send, so that it knows of every
 * document which version it was made on; each opening of a tune, in each window, keeps its own.
 */
import { z } from 'zod'
import { saveDocumentsSchema } from '#contract/documents'
import { isObject } from '#core/documents/versioned'

const draftSchema = z.strictObject({
  pending: saveDocumentsSchema,
  /** What was sent and never answered: the server may hold it or not. */
  sent: z.array(saveDocumentsSchema),
})
export type Draft = z.infer<typeof draftSchema>

/**
 * Of an arrangement in a draft that did not say its version: any is the one it was made on. It is the highest
 * there can be, which no document comes to.
 */
export const ANY_VERSION = 2_147_483_646

/** A draft of an earlier Nokta: all documents of a tune, with the version of the tune alone. */
function fromEarlier(doc: unknown): unknown {
  if (!isObject(doc) || !('tuneVersion' in doc) || !Array.isArray(doc.arrangements)) return doc
  const known = Array.isArray(doc.known) ? doc.known : doc.arrangements.filter(isObject).map(a => a.id)
  const pending = {
    tune: { version: doc.tuneVersion, source: doc.source, tune: doc.tune },
    arrangements: doc.arrangements.filter(isObject).map(({ id, arrangement }) => ({
      id,
      version: known.includes(id) ? ANY_VERSION : null,
      arrangement,
    })),
    removed: [],
  }
  return { pending, sent: [] }
}
const anyDraftSchema = z.preprocess(fromEarlier, draftSchema)

/** The browser's storage; null where it is barred (asking for it throws there). */
export function ownStorage(): Storage | null {
  try {
    return localStorage
  } catch {
    return null
  }
}

/** The storage of this tab alone, which a reload keeps; null where there is none. */
export function tabStorage(): Storage | null {
  try {
    return sessionStorage
  } catch {
    return null
  }
}

const prefix = (tuneId: string) => `nokta.draft.${tuneId}`
/** The name of an opening, in which the window's can be found again. */
export const openingOf = (window: string, count: number) => `${window}.${count}`
export const windowOf = (opening: string) => opening.split('.')[0]!
/** Where an opening keeps its draft; earlier ones, of no window, stand under the tune alone. */
const key = (tuneId: string, opening: string) => (opening ? `${prefix(tuneId)}.${opening}` : prefix(tuneId))

/** False when the browser has no room for it: the page then says that the work is not safe yet. */
export function keepDraft(tuneId: string, opening: string, draft: Draft, storage: Storage | null): boolean {
  try {
    storage?.setItem(key(tuneId, opening), JSON.stringify(draft))
    return storage !== null
  } catch {
    return false
  }
}

export const dropDraft = (tuneId: string, opening: string, storage: Storage | null) =>
  storage?.removeItem(key(tuneId, opening))

export interface KeptDraft {
  /** Empty for one that was kept before windows had names. */
  readonly opening: string
  readonly draft: Draft
}

/** All drafts of a tune; one that cannot be read is left where it is. */
export function findDrafts(tuneId: string, storage: Storage | null): KeptDraft[] {
  if (!storage) return []
  const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i)!)
  return keys
    .filter(k => k === prefix(tuneId) || k.startsWith(`${prefix(tuneId)}.`))
    .sort()
    .flatMap(k => {
      const draft = readDraft(storage.getItem(k))
      return draft ? [{ opening: k.slice(prefix(tuneId).length + 1), draft }] : []
    })
}

function readDraft(text: string | null): Draft | null {
  try {
    const result = anyDraftSchema.safeParse(JSON.parse(text ?? ''))
    return result.success ? result.data : null
  } catch {
    return null
  }
}
