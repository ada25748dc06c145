/**
 * The contract between client and server: one table of what can be asked, how, and what comes back. The
 * client's calls and the server's routes are both derived from it.
 */
import { z } from 'zod'
import { EVERYBODY, TEACHERS, type Role } from './principal'
import {
  alikeRequestSchema,
  alikeSchema,
  awaySchema,
  createTuneSchema,
  duplicatesSchema,
  healthSchema,
  importedSchema,
  importSchema,
  kinRequestSchema,
  kinSchema,
  nameVersionSchema,
  savedDocumentsSchema,
  savedSchema,
  saveDocumentsSchema,
  saveStudioSchema,
  shelfQuerySchema,
  studioRecordSchema,
  tuneListSchema,
  tuneWithArrangementsSchema,
  versionItemSchema,
  versionListSchema,
  versionSchema,
} from './documents'

export const API = '/api/v1'
/** Largest request body, bytes. */
export const BODY_LIMIT = 4 * 1024 * 1024

export const ERROR_CODES = [
  'badRequest',
  'notFound',
  'conflict',
  'tooLarge',
  'forbidden',
  'diskFull',
  'internal',
] as const
export type ApiErrorCode = (typeof ERROR_CODES)[number]

export const errorSchema = z.strictObject({
  error: z.strictObject({
    code: z.enum(ERROR_CODES),
    message: z.string(),
    /** The field or place at fault, "" when there is none. */
    where: z.string(),
  }),
})
/** A stale save: what is stored now comes with the refusal; the caller still has its own. */
export const conflictSchema = errorSchema.extend({
  current: z.union([tuneWithArrangementsSchema, studioRecordSchema]),
})

export interface Endpoint {
  /** Who may call it. */
  readonly who: readonly Role[]
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  /** `:name` is a parameter. */
  readonly path: `/${string}`
  readonly query?: z.ZodType
  readonly body?: z.ZodType
  /** Null: nothing comes back but that it is done. */
  readonly answer: z.ZodType | null
  /** Something was made. */
  readonly made?: true
  /** What it may refuse beside a bad request. */
  readonly errors: readonly ApiErrorCode[]
}

export const ENDPOINTS = {
  health: { who: EVERYBODY, method: 'GET', path: '/health', answer: healthSchema, errors: ['internal'] },

  shelf: {
    who: TEACHERS,
    method: 'GET',
    path: '/tunes',
    query: shelfQuerySchema,
    answer: tuneListSchema,
    errors: [],
  },
  duplicates: {
    who: TEACHERS,
    method: 'GET',
    path: '/tunes/duplicates',
    answer: duplicatesSchema,
    errors: [],
  },
  alike: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes/alike',
    body: alikeRequestSchema,
    answer: alikeSchema,
    errors: [],
  },
  importTunes: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes/import',
    body: importSchema,
    answer: importedSchema,
    made: true,
    errors: [],
  },
  createTune: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes',
    body: createTuneSchema,
    answer: tuneWithArrangementsSchema,
    made: true,
    errors: [],
  },

  tune: {
    who: TEACHERS,
    method: 'GET',
    path: '/tunes/:id',
    answer: tuneWithArrangementsSchema,
    errors: ['notFound'],
  },
  saveDocuments: {
    who: TEACHERS,
    method: 'PUT',
    path: '/tunes/:id',
    body: saveDocumentsSchema,
    answer: savedDocumentsSchema,
    errors: ['notFound', 'conflict'],
  },
  putAway: { who: TEACHERS, method: 'DELETE', path: '/tunes/:id', answer: null, errors: ['notFound'] },
  bringBack: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes/:id/restore',
    answer: tuneWithArrangementsSchema,
    errors: ['notFound'],
  },
  kin: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes/:id/kin',
    body: kinRequestSchema,
    answer: kinSchema,
    errors: ['notFound'],
  },

  away: { who: TEACHERS, method: 'GET', path: '/away', answer: awaySchema, errors: [] },
  throwAway: { who: TEACHERS, method: 'DELETE', path: '/away/:id', answer: null, errors: ['notFound'] },

  versions: {
    who: TEACHERS,
    method: 'GET',
    path: '/tunes/:id/versions',
    answer: versionListSchema,
    errors: [],
  },
  keepVersion: {
    who: TEACHERS,
    method: 'POST',
    path: '/tunes/:id/versions',
    body: nameVersionSchema,
    answer: versionItemSchema,
    made: true,
    errors: ['notFound'],
  },
  version: {
    who: TEACHERS,
    method: 'GET',
    path: '/versions/:id',
    answer: versionSchema,
    errors: ['notFound'],
  },
  renameVersion: {
    who: TEACHERS,
    method: 'PUT',
    path: '/versions/:id',
    body: nameVersionSchema,
    answer: null,
    errors: ['notFound'],
  },

  studio: { who: TEACHERS, method: 'GET', path: '/studio', answer: studioRecordSchema, errors: [] },
  saveStudio: {
    who: TEACHERS,
    method: 'PUT',
    path: '/studio',
    body: saveStudioSchema,
    answer: savedSchema,
    errors: ['conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>

export type EndpointName = keyof typeof ENDPOINTS
type Of<N extends EndpointName> = (typeof ENDPOINTS)[N]
type Part<N extends EndpointName, K extends 'body' | 'query', Side extends 'in' | 'out'> =
  Of<N> extends { readonly [P in K]: infer S extends z.ZodType }
    ? Side extends 'in'
      ? z.input<S>
      : z.output<S>
    : undefined

/** What the caller sends; documents in their present form. */
export type BodyOf<N extends EndpointName> = Part<N, 'body', 'out'>
export type QueryOf<N extends EndpointName> = Part<N, 'query', 'out'>
/** A query as the caller gives it: what has a default may be left out. */
export type QueryIn<N extends EndpointName> = Partial<NonNullable<QueryOf<N>>>
export type AnswerOf<N extends EndpointName> =
  Of<N> extends { readonly answer: infer S extends z.ZodType } ? z.output<S> : undefined
export type ErrorOf<N extends EndpointName> = Of<N>['errors'][number] | 'badRequest'
/** Parameters of the path by name. */
export type ParamsOf<N extends EndpointName> = Of<N>['path'] extends `${string}:id${string}`
  ? { readonly id: string }
  : undefined

/** Where the whole shelf is to be had as one open document. */
export const BACKUP_PATH = `${API}/backup`

/** The address of an endpoint, parameters and query filled in. */
export function urlOf(
  name: EndpointName,
  params: Readonly<Record<string, string>> = {},
  query: Readonly<Record<string, unknown>> = {},
): string {
  const path = ENDPOINTS[name].path.replace(/:(\w+)/g, (_all, p: string) => encodeURIComponent(params[p]!))
  const given = Object.entries(query).filter(([, v]) => v !== undefined && v !== '')
  const entries = given.map(([k, v]): [string, string] => [k, String(v)])
  const search = entries.length > 0 ? `?${new URLSearchParams(entries).toString()}` : ''
  return API + path + search
}
