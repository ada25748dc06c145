/**
 * What is not yet on the server, kept in the browser from the very moment of the edit: nothing is lost on
 * reload or while the server is away. One draft per tune.
 */
import { z } from 'zod'
import { arrangementSchema } from '#core/arrangement/recipe'
import { isObject } from '#core/documents/versioned'
import { tuneSchema } from '#core/music/tune'

const kept = z.strictObject({
  tuneVersion: z.int(),
  source: z.string().nullable(),
  tune: tuneSchema,
  arrangements: z.array(z.strictObject({ id: z.string(), arrangement: arrangementSchema })),
  /**
   * Arrangements the server held when the draft was kept: one that is not among them was made elsewhere
   * since.
   */
  known: z.array(z.string()),
})
export type Draft = z.infer<typeof kept>

/** A draft as it was kept before it said what the server held: its arrangements, each with a version. */
function fromEarlier(doc: unknown): unknown {
  if (!isObject(doc) || 'known' in doc || !Array.isArray(doc.arrangements)) return doc
  const held = doc.arrangements.filter(isObject)
  return {
    ...doc,
    arrangements: held.map(({ id, arrangement }) => ({ id, arrangement })),
    known: held.map(a => a.id),
  }
}
const draftSchema = z.preprocess(fromEarlier, kept)

const key = (tuneId: string) => `nokta.draft.${tuneId}`

/** The browser's storage; null where it is barred (asking for it throws there). */
function ownStorage(): Storage | null {
  try {
    return localStorage
  } catch {
    return null
  }
}

/** False when the browser has no room for it: the page then says that the work is not safe yet. */
export function keepDraft(tuneId: string, draft: Draft, storage = ownStorage()): boolean {
  try {
    storage?.setItem(key(tuneId), JSON.stringify(draft))
    return storage !== null
  } catch {
    return false
  }
}

export function findDraft(tuneId: string, storage = ownStorage()): Draft | null {
  const text = storage?.getItem(key(tuneId)) ?? null
  if (text === null) return null
  try {
    const result = draftSchema.safeParse(JSON.parse(text))
    return result.success ? result.data : null
  } catch {
    return null
  }
}

export const dropDraft = (tuneId: string, storage = ownStorage()) => storage?.removeItem(key(tuneId))
