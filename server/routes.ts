/** The routes, made of the contract's table: each question is checked on the way in, and a handler gives its answer or refuses. */
import compression from 'compression'
import { json, Router, type Request, type RequestHandler, type Response } from 'express'
import { promisify } from 'node:util'
import { gunzip } from 'node:zlib'
import type { z } from 'zod'
import {
  BODY_LIMIT, ENDPOINTS, type AnswerOf, type ApiErrorCode, type BodyOf, type EndpointName, type ErrorOf, type ParamsOf, type QueryOf,
} from '#contract/api' // prettier-ignore
import { bodyBy, sendError } from './errors'
import type { Shelf } from './storage/shelf'
import type { StudioRepository } from './storage/studioRepository'
import { Turns } from './turns'

/** A refusal in words; with what is stored now, where that helps. */
class Refusal<Code extends ApiErrorCode = ApiErrorCode> {
  constructor(
    readonly code: Code,
    readonly message: string,
    readonly where: string,
    readonly more: object = {},
  ) {}
}

/** An answer as the bytes of its JSON; packed (gzip) for those who take it so. */
class Ready<T> {
  declare private readonly of: T
  constructor(
    readonly bytes: Buffer,
    readonly packed = false,
  ) {}
}

interface Question<N extends EndpointName> {
  readonly params: ParamsOf<N>
  readonly query: QueryOf<N>
  readonly body: BodyOf<N>
}
type Told<N extends EndpointName> = AnswerOf<N> | Ready<AnswerOf<N>> | Refusal<ErrorOf<N>>
type Handler<N extends EndpointName> = (q: Question<N>) => Told<N> | Promise<Told<N>>
export type Handlers = { readonly [N in EndpointName]: Handler<N> }

export interface Houses {
  readonly shelf: Shelf
  readonly studio: StudioRepository
  readonly version: string
}

const STALE = 'This was changed elsewhere since it was opened. Both versions are kept: choose one.'
const STALE_STUDIO = 'The studio’s settings were changed elsewhere since they were opened.'

const noTune = (id: string) => new Refusal('notFound', 'This tune is not on the shelf.', id)
const noVersion = (id: string) => new Refusal('notFound', 'There is no such version.', id)

export const handlersOf = ({ shelf, studio, version }: Houses): Handlers => ({
  health: () => ({ ok: true, version }),

  shelf: async ({ query }) => new Ready(Buffer.from(await shelf.page(query))),
  duplicates: async () => ({ pairs: await shelf.duplicates() }),
  alike: async ({ body }) => ({ alike: await shelf.alike(body.prints) }),
  importTunes: async ({ body }) => ({
    ids: await shelf.createAll(body.tunes),
  }),
  createTune: ({ body }) => shelf.create(body.source, body.tune, [body.arrangement]),

  async tune({ params }) {
    const packed = await shelf.packed(params.id)
    return packed ? new Ready(packed, true) : noTune(params.id)
  },
  async saveDocuments({ params, body }) {
    const result = await shelf.save(params.id, body)
    if ('saved' in result) return result.saved
    if ('missing' in result) return noTune(params.id)
    return new Refusal('conflict', STALE, 'version', { current: result.stale })
  },
  away: async () => ({ tunes: await shelf.away() }),
  throwAway: async ({ params }) => ((await shelf.throwAway(params.id)) ? undefined : noTune(params.id)),
  putAway: async ({ params }) => ((await shelf.putAway(params.id)) ? undefined : noTune(params.id)),
  bringBack: async ({ params }) =>
    (await shelf.bringBack(params.id)) ??
    new Refusal('notFound', 'There is no such tune to bring back.', params.id),
  async kin({ params, body }) {
    const tunes = await shelf.kinOf(params.id, body.boundaries)
    return tunes ? { tunes } : noTune(params.id)
  },

  versions: async ({ params }) => ({ versions: await shelf.versions.list(params.id) }),
  keepVersion: async ({ params, body }) =>
    (await shelf.versions.keep(params.id, body.name)) ?? noTune(params.id),
  version: async ({ params }) => (await shelf.versions.get(params.id)) ?? noVersion(params.id),
  renameVersion: async ({ params, body }) =>
    (await shelf.versions.rename(params.id, body.name)) ? undefined : noVersion(params.id),

  studio: () => studio.get(),
  async saveStudio({ body }) {
    const result = await studio.save(body.version, body.studio)
    if ('saved' in result) return { version: result.saved }
    return new Refusal('conflict', STALE_STUDIO, 'version', { current: result.stale })
  },
})

/** Ids as they are given. */
const ID = /^[\w-]{1,60}$/

/** What is kept ready is told at once: that the server is there, the list, and tunes used of late (the others are read together). */
const AT_ONCE: ReadonlySet<EndpointName> = new Set(['health', 'shelf', 'tune'])
const AT_A_TIME = 8

/** Answers larger than this, in bytes, are packed on the way: of a smaller one packing takes longer than sending it. */
const PACKED_FROM = 32_768
const packing = compression()
const unpack = promisify(gunzip)

/** Every endpoint of the table on a router. */
export function routesOf(handlers: Handlers): Router {
  const router = Router()
  const turns = new Turns(AT_A_TIME)
  const read = json({ limit: BODY_LIMIT, strict: true })
  const nothing: RequestHandler = (_req, _res, next) => next()
  for (const name of Object.keys(ENDPOINTS) as EndpointName[]) {
    const endpoint = ENDPOINTS[name]
    const verb = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete'
    router[verb](endpoint.path, 'body' in endpoint ? read : nothing, async (req, res) => {
      const { id } = req.params as { id?: string }
      if (id !== undefined && !ID.test(id)) return sendError(res, 'badRequest', 'This is no name of anything stored.', 'id') // prettier-ignore
      const query = 'query' in endpoint ? bodyBy(endpoint.query as z.ZodType, req.query, res) : undefined
      if (query === null) return
      const body = 'body' in endpoint ? bodyBy(endpoint.body as z.ZodType, req.body, res) : undefined
      if (body === null) return
      const handler = handlers[name] as Handler<EndpointName>
      const ask = () => handler({ params: req.params as never, query: query as never, body: body as never })
      await answer(req, res, name, await (AT_ONCE.has(name) ? ask() : turns.take(ask)))
    })
  }
  return router
}

async function answer(req: Request, res: Response, name: EndpointName, result: unknown) {
  const endpoint = ENDPOINTS[name]
  if (result instanceof Refusal) return sendError(res, result.code, result.message, result.where, result.more)
  if (endpoint.answer === null) return void res.status(204).end()
  const ready = result instanceof Ready ? result : new Ready(Buffer.from(JSON.stringify(result)))
  const asItIs = ready.packed && req.acceptsEncodings('gzip') === 'gzip'
  const bytes = ready.packed && !asItIs ? await unpack(ready.bytes) : ready.bytes
  res.statusCode = 'made' in endpoint ? 201 : 200
  // Nothing on the way keeps it, so it needs no mark to know it again by.
  res.setHeader('Content-Type', 'application/json; charset=utf-8')
  res.setHeader('Content-Length', bytes.length)
  if (ready.packed) res.setHeader('Vary', 'Accept-Encoding')
  if (asItIs) res.setHeader('Content-Encoding', 'gzip')
  if (asItIs || bytes.length < PACKED_FROM) res.end(bytes)
  else packing(req, res, () => res.end(bytes))
}
