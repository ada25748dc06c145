/**
 * What can be undone, kept for this tab over a reload: the last few states of a tune, as long as the newest is
 * still what the tune is.
 */
import equal from 'fast-deep-equal'
import { z } from 'zod'
import { arrangementSchema } from '#core/arrangement/recipe'
import { tuneSchema } from '#core/music/tune'
import type { History } from './history'
import type { Documents } from './saving'

const KEY = 'nokta.undo'
/** States before and after that are kept, and about how many letters those before may take. */
const MOST_STATES = 30
const MOST_LETTERS = 2_000_000

const stateSchema = z.object({
  source: z.string().nullable(),
  tune: tuneSchema,
  arrangements: z.array(z.object({ id: z.string(), arrangement: arrangementSchema })),
})
const keptSchema = z.object({
  tune: z.string(),
  past: z.array(stateSchema),
  present: stateSchema,
  future: z.array(stateSchema),
})

export function keepHistory(storage: Storage | null, tune: string, history: History<Documents>): void {
  const { past, present, future } = history
  const room = Math.floor(MOST_LETTERS / JSON.stringify(present).length) - 1
  const states = Math.min(MOST_STATES, room)
  storage?.removeItem(KEY)
  if (states < 1) return
  try {
    const kept = { tune, past: past.slice(-states), present, future: future.slice(0, states) }
    storage?.setItem(KEY, JSON.stringify(kept))
  } catch {
    // No room: undo begins anew after a reload, as it would without.
  }
}

/** The history that was kept of a tune whose state now is this one; else null. It is given once. */
export function keptHistory(
  storage: Storage | null,
  tune: string,
  present: Documents,
): History<Documents> | null {
  const text = storage?.getItem(KEY)
  storage?.removeItem(KEY)
  if (!text?.includes(`"tune":"${tune}"`)) return null
  const kept = keptSchema.safeParse(parsed(text))
  if (!kept.success || kept.data.tune !== tune || !equal(kept.data.present, present)) return null
  return { past: kept.data.past, present, future: kept.data.future, group: null }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
