/** Calls to the server, checked with the contract's schemas. */
import type { z, ZodType } from 'zod'
import type { Arrangement } from '#core/arrangement/recipe'
import type { Studio } from '#core/instruments/studio'
import type { Tune } from '#core/music/tune'
import { melodyPrint, type MelodyPrint } from '#core/melody/print'
import {
  alikeSchema, arrangementRecordSchema, conflictSchema, duplicatesSchema, errorSchema, importedSchema, kinSchema, paths, savedSchema, studioRecordSchema, tuneListSchema,
  tuneWithArrangementsSchema, versionItemSchema, versionListSchema, versionSchema, type ApiErrorCode, type ShelfQuery,
} from '#contract/api' // prettier-ignore

export class ApiError extends Error {
  constructor(
    readonly code: ApiErrorCode | 'offline' | 'unexpected',
    message: string,
    readonly where = '',
    /** With a conflict: what the server holds. */
    readonly current?: z.infer<typeof conflictSchema>['current'],
  ) {
    super(message)
  }
}

async function call<T>(method: string, path: string, schema: ZodType<T> | null, body?: object): Promise<T> {
  let response: Response
  try {
    response = await fetch(path, {
      method,
      ...(body && { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    })
  } catch {
    throw new ApiError(
      'offline',
      'The server can’t be reached. Your work is kept in this browser until it can.',
    )
  }
  if (response.status === 204 || (response.ok && !schema)) return undefined as T
  const json: unknown = await response.json().catch(() => null)
  if (!response.ok) throw failure(json, response.status)
  const result = schema!.safeParse(json)
  if (result.success) return result.data
  throw new ApiError(
    'unexpected',
    'The server’s answer could not be read. Is it another version?',
    result.error.issues[0]?.path.join('.'),
  )
}

function failure(json: unknown, status: number): ApiError {
  const conflict = conflictSchema.safeParse(json)
  if (conflict.success) {
    const { code, message, where } = conflict.data.error
    return new ApiError(code, message, where, conflict.data.current)
  }
  const known = errorSchema.safeParse(json)
  if (!known.success)
    return new ApiError(status >= 500 ? 'offline' : 'unexpected', `The server answered ${status}.`)
  const { code, message, where } = known.data.error
  return new ApiError(code, message, where)
}

/** Answers asked for before anybody wanted them, each used once. */
const early = new Map<string, ReturnType<typeof askTune>>()
const askTune = (id: string) => call('GET', paths.tune(id), tuneWithArrangementsSchema)

/** Asks for a tune while the page that will show it still loads. */
export function prefetchTune(id: string) {
  const answer = askTune(id)
  // Whoever opens the tune meets the failure.
  answer.catch(() => {})
  early.set(id, answer)
}

export const api = {
  shelf: (query: Partial<ShelfQuery> = {}) => call('GET', paths.shelf(query), tuneListSchema),
  importTunes: (tunes: readonly { source: string | null; tune: Tune; arrangement: Arrangement }[]) =>
    call('POST', paths.importTunes, importedSchema, { tunes }),
  alike: async (prints: readonly MelodyPrint[]) =>
    (await call('POST', paths.alike, alikeSchema, { prints })).alike,
  alikeTo: async (tune: Tune) => (await api.alike([melodyPrint(tune)]))[0]!,
  kin: async (id: string, boundaries: Readonly<Record<string, boolean>>) =>
    (await call('POST', paths.kin(id), kinSchema, { boundaries })).tunes,
  studio: () => call('GET', paths.studio, studioRecordSchema),
  saveStudio: (version: number, studio: Studio) =>
    call('PUT', paths.studio, savedSchema, { version, studio }),
  duplicates: () => call('GET', paths.duplicates, duplicatesSchema),
  versions: (tuneId: string) => call('GET', paths.versions(tuneId), versionListSchema),
  version: (id: string) => call('GET', paths.version(id), versionSchema),
  keepVersion: (tuneId: string, name: string) =>
    call('POST', paths.versions(tuneId), versionItemSchema, { name }),
  renameVersion: (id: string, name: string) => call<void>('PUT', paths.version(id), null, { name }),
  tune(id: string) {
    const asked = early.get(id)
    early.delete(id)
    return asked ?? askTune(id)
  },
  createTune: (source: string | null, tune: Tune, arrangement: Arrangement) =>
    call('POST', paths.tunes, tuneWithArrangementsSchema, { source, tune, arrangement }),
  saveTune: (id: string, version: number, source: string | null, tune: Tune) =>
    call('PUT', paths.tune(id), savedSchema, { version, source, tune }),
  putAway: (id: string) => call<void>('DELETE', paths.tune(id), null),
  bringBack: (id: string) => call('POST', paths.restoreTune(id), tuneWithArrangementsSchema),
  addArrangement: (tuneId: string, arrangement: Arrangement) =>
    call('POST', paths.arrangements(tuneId), arrangementRecordSchema, { arrangement }),
  saveArrangement: (id: string, version: number, arrangement: Arrangement) =>
    call('PUT', paths.arrangement(id), savedSchema, { version, arrangement }),
}
