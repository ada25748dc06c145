/** Calls to the server, made of the contract's table and checked with its schemas. */
import type { StoredArrangement } from '#core/formats/backup/backup'
import type { z } from 'zod'
import type { Arrangement } from '#core/arrangement/recipe'
import type { StudioPartDocument } from '#core/instruments/studio'
import type { Tune } from '#core/music/tune'
import { melodyPrint, type MelodyPrint } from '#core/melody/print'
import {
  conflictSchema,
  ENDPOINTS,
  errorSchema,
  urlOf,
  type AnswerOf,
  type ApiErrorCode,
  type BodyOf,
  type EndpointName,
  type ParamsOf,
  type QueryIn,
} from '#contract/api'
import type { SaveDocuments } from '#contract/documents'
import { takeAnswer } from '../worker/early'

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

interface Call<N extends EndpointName> {
  readonly params?: ParamsOf<N>
  readonly query?: QueryIn<N>
  readonly body?: BodyOf<N>
  /** Given when nobody waits for the answer any more. */
  readonly gone?: AbortSignal
}

async function call<N extends EndpointName>(
  name: N,
  { params, query, body, gone }: Call<N> = {},
): Promise<AnswerOf<N>> {
  const { method, answer } = ENDPOINTS[name]
  let response: Response
  try {
    const url = urlOf(name, params, query)
    const early = method === 'GET' ? takeAnswer(url) : undefined
    response = await (early ??
      fetch(url, {
        method,
        ...(gone && { signal: gone }),
        ...(body !== undefined && {
          body: JSON.stringify(body),
          headers: { 'Content-Type': 'application/json' },
        }),
      }))
  } catch {
    throw new ApiError(
      'offline',
      'The server can’t be reached. Your work is kept in this browser until it can.',
    )
  }
  if (response.ok && answer === null) return undefined as AnswerOf<N>
  const json: unknown = await response.json().catch(() => null)
  if (!response.ok) throw failure(json, response.status)
  const result = (answer as z.ZodType).safeParse(json)
  if (result.success) return result.data as AnswerOf<N>
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

export const api = {
  shelf: (query: QueryIn<'shelf'> = {}) => call('shelf', { query }),
  importTunes: (
    tunes: readonly { source: string | null; tune: Tune; arrangements: readonly StoredArrangement[] }[],
  ) =>
    call('importTunes', { body: { tunes: tunes.map(t => ({ ...t, arrangements: [...t.arrangements] })) } }),
  away: async () => (await call('away')).tunes,
  throwAway: (id: string) => call('throwAway', { params: { id } }),
  alike: async (prints: readonly MelodyPrint[], gone?: AbortSignal) =>
    (await call('alike', { body: { prints: prints.map(p => [...p]) }, ...(gone && { gone }) })).alike,
  alikeTo: async (tune: Tune) => (await api.alike([melodyPrint(tune)]))[0]!,
  kin: async (id: string, boundaries: Readonly<Record<string, boolean>>) =>
    (await call('kin', { params: { id }, body: { boundaries } })).tunes,
  studio: () => call('studio'),
  saveStudio: (version: number, doc: StudioPartDocument) => call('saveStudio', { body: { version, doc } }),
  duplicates: (gone: AbortSignal) => call('duplicates', { gone }),
  versions: (tuneId: string) => call('versions', { params: { id: tuneId } }),
  version: (id: string) => call('version', { params: { id } }),
  keepVersion: (tuneId: string, name: string) =>
    call('keepVersion', { params: { id: tuneId }, body: { name } }),
  renameVersion: (id: string, name: string) => call('renameVersion', { params: { id }, body: { name } }),
  tune: (id: string) => call('tune', { params: { id } }),
  createTune: (source: string | null, tune: Tune, arrangement: Arrangement) =>
    call('createTune', { body: { source, tune, arrangement } }),
  /** Everything that changed of a tune, saved together or not at all. */
  save: (id: string, body: SaveDocuments) => call('saveDocuments', { params: { id }, body }),
  putAway: (id: string) => call('putAway', { params: { id } }),
  bringBack: (id: string) => call('bringBack', { params: { id } }),
}
