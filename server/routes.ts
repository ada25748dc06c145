/**
 * The routes, made of the contract's table: each question is checked on the way in, and a handler gives its
 * answer or refuses.
 */
import compression from 'compression'
import { json, Router, type Request, type RequestHandler, type Response } from 'express'
import { promisify } from 'node:util'
import { gunzip } from 'node:zlib'
import type { z } from 'zod'
import {
  BODY_LIMIT,
  ENDPOINTS,
  type AnswerOf,
  type ApiErrorCode,
  type BodyOf,
  type EndpointName,
  type ErrorOf,
  type ParamsOf,
  type QueryOf,
} from '#contract/api'
import { LOCAL_TEACHER, type Principal } from '#contract/principal'
import { bodyBy, sendError } from './errors'
import { UnreadableTable, type Stores } from './store/stores'
import { NobodyWaits } from './store/thread'
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

/** An answer as the bytes of its JSON, packed (gzip), and the mark it is known again by. */
class Ready<T> {
  declare private readonly of: T
  constructor(
    readonly packed: Buffer,
    readonly etag: string,
  ) {}
}

interface Question<N extends EndpointName> {
  readonly params: ParamsOf<N>
  readonly query: QueryOf<N>
  readonly body: BodyOf<N>
  /** Given when nobody waits for the answer any more. */
  readonly gone: AbortSignal
}
type Told<N extends EndpointName> = AnswerOf<N> | Ready<AnswerOf<N>> | Refusal<ErrorOf<N>>
type Handler<N extends EndpointName> = (q: Question<N>, by: Principal) => Told<N> | Promise<Told<N>>
export type Handlers = { readonly [N in EndpointName]: Handler<N> }

export interface Houses {
  readonly stores: Stores
  readonly version: string
  /** Who asks. Today it is always the one teacher at this machine. */
  readonly principalOf?: (req: Request) => Principal
}

const STALE = 'This was changed elsewhere since it was opened. Both versions are kept: choose one.'
const UNREADABLE =
  'Something that is stored can’t be read. What can be is served on; npm run restore -- --aside puts the newest backup in its place.'
const STALE_STUDIO = 'The studio’s settings were changed elsewhere since they were opened.'

const noTune = (id: string) => new Refusal('notFound', 'This tune is not on the shelf.', id)
const noVersion = (id: string) => new Refusal('notFound', 'There is no such version.', id)

export const handlersOf = ({ stores, version }: Houses): Handlers => ({
  async health() {
    try {
      await stores.check()
      return { ok: true, version }
    } catch (e) {
      const where = e instanceof UnreadableTable ? e.table : ''
      return new Refusal('internal', UNREADABLE, where)
    }
  },

  shelf: ({ query }, by) => stores.shelf(by).page(query),
  duplicates: async ({ gone }, by) => ({ pairs: await stores.shelf(by).duplicates(gone) }),
  alike: async ({ body }, by) => ({ alike: await stores.shelf(by).alike(body.prints) }),
  importTunes: async ({ body }, by) => ({ ids: await stores.shelf(by).createAll(body.tunes) }),
  createTune: ({ body }, by) => stores.shelf(by).create(body.source, body.tune, [body.arrangement]),

  async tune({ params }, by) {
    const packed = await stores.shelf(by).packed(params.id)
    return packed ? new Ready(packed.bytes, `W/"${packed.print}"`) : noTune(params.id)
  },
  async saveDocuments({ params, body }, by) {
    const result = await stores.shelf(by).save(params.id, body)
    if ('saved' in result) return result.saved
    if ('missing' in result) return noTune(params.id)
    return new Refusal('conflict', STALE, 'version', { current: result.stale })
  },
  away: async (_q, by) => ({ tunes: await stores.shelf(by).away() }),
  throwAway: async ({ params }, by) =>
    (await stores.shelf(by).throwAway(params.id)) ? undefined : noTune(params.id),
  putAway: async ({ params }, by) =>
    (await stores.shelf(by).putAway(params.id)) ? undefined : noTune(params.id),
  bringBack: async ({ params }, by) =>
    (await stores.shelf(by).bringBack(params.id)) ??
    new Refusal('notFound', 'There is no such tune to bring back.', params.id),
  async kin({ params, body }, by) {
    const tunes = await stores.shelf(by).kinOf(params.id, body.boundaries)
    return tunes ? { tunes } : noTune(params.id)
  },

  versions: async ({ params }, by) => ({ versions: await stores.shelf(by).versions.list(params.id) }),
  keepVersion: async ({ params, body }, by) =>
    (await stores.shelf(by).versions.keep(params.id, body.name)) ?? noTune(params.id),
  version: async ({ params }, by) => (await stores.shelf(by).versions.get(params.id)) ?? noVersion(params.id),
  renameVersion: async ({ params, body }, by) =>
    (await stores.shelf(by).versions.rename(params.id, body.name)) ? undefined : noVersion(params.id),

  studio: (_q, by) => stores.studio(by).get(),
  async saveStudio({ body }, by) {
    const result = await stores.studio(by).save(body.version, body.doc)
    if ('saved' in result) return { version: result.saved }
    return new Refusal('conflict', STALE_STUDIO, 'version', { current: result.stale })
  },
})

/** Ids as they are given. */
const ID = /^[\w-]{1,60}$/

/** Told at once: that the server is there, and tunes (what many ask for is read together). */
const AT_ONCE: ReadonlySet<EndpointName> = new Set(['health', 'tune'])
const AT_A_TIME = 8

/**
 * Answers larger than this, in bytes, are packed on the way: of a smaller one packing takes longer than
 * sending it.
 */
const PACKED_FROM = 32_768
const packing = compression()
const unpack = promisify(gunzip)

/** Every endpoint of the table on a router. */
export function routesOf(houses: Houses): Router {
  const handlers = handlersOf(houses)
  const principalOf = houses.principalOf ?? (() => LOCAL_TEACHER)
  const router = Router()
  const turns = new Turns(AT_A_TIME)
  const read = json({ limit: BODY_LIMIT, strict: true })
  const nothing: RequestHandler = (_req, _res, next) => next()
  for (const name of Object.keys(ENDPOINTS) as EndpointName[]) {
    const endpoint = ENDPOINTS[name]
    const verb = endpoint.method.toLowerCase() as 'get' | 'post' | 'put' | 'delete'
    router[verb](endpoint.path, 'body' in endpoint ? read : nothing, async (req, res) => {
      const by = principalOf(req)
      res.locals.endpoint = name
      if (!endpoint.who.includes(by.role))
        return sendError(res, 'forbidden', 'This is not for you to do here.', by.role)
      const { id } = req.params as { id?: string }
      if (id !== undefined && !ID.test(id))
        return sendError(res, 'badRequest', 'This is no name of anything stored.', 'id')
      const query = 'query' in endpoint ? bodyBy(endpoint.query as z.ZodType, req.query, res) : undefined
      if (query === null) return
      const body = 'body' in endpoint ? bodyBy(endpoint.body as z.ZodType, req.body, res) : undefined
      if (body === null) return
      const handler = handlers[name] as Handler<EndpointName>
      const gone = goneOf(res)
      const ask = () =>
        handler({ params: req.params as never, query: query as never, body: body as never, gone }, by)
      try {
        await answer(req, res, name, await (AT_ONCE.has(name) ? ask() : turns.take(ask)))
      } catch (e) {
        if (!(e instanceof NobodyWaits)) throw e
      }
    })
  }
  return router
}

/** Given when the one who asked hangs up. */
function goneOf(res: Response): AbortSignal {
  const gone = new AbortController()
  res.once('close', () => gone.abort())
  return gone.signal
}

async function answer(req: Request, res: Response, name: EndpointName, result: unknown) {
  const endpoint = ENDPOINTS[name]
  if (result instanceof Refusal) return sendError(res, result.code, result.message, result.where, result.more)
  if (endpoint.answer === null) return void res.status(204).end()
  res.statusCode = 'made' in endpoint ? 201 : 200
  res.setHeader('Content-Type', 'application/json; charset=utf-8')
  if (result instanceof Ready) return readyAnswer(req, res, result)
  const bytes = Buffer.from(JSON.stringify(result))
  res.setHeader('Content-Length', bytes.length)
  if (bytes.length < PACKED_FROM) res.end(bytes)
  else packing(req, res, () => res.end(bytes))
}

/** A browser may keep it, and asks each time whether it still holds. */
async function readyAnswer(req: Request, res: Response, { packed, etag }: Ready<unknown>) {
  res.setHeader('Cache-Control', 'private, no-cache')
  res.setHeader('ETag', etag)
  res.setHeader('Vary', 'Accept-Encoding')
  if (req.headers['if-none-match'] === etag) return void res.status(304).end()
  const asItIs = req.acceptsEncodings('gzip') === 'gzip'
  const bytes = asItIs ? packed : await unpack(packed)
  if (asItIs) res.setHeader('Content-Encoding', 'gzip')
  res.setHeader('Content-Length', bytes.length)
  res.end(bytes)
}
