import type { ErrorRequestHandler, RequestHandler, Response } from 'express'
import type { ZodType } from 'zod'
import type { Log } from './log'
import { isDiskFull, OverLimit } from './store/limits'
import { BODY_LIMIT, type ApiErrorCode } from '#contract/api'

const STATUS: Record<ApiErrorCode, number> = {
  badRequest: 400,
  forbidden: 403,
  notFound: 404,
  conflict: 409,
  tooLarge: 413,
  internal: 500,
  diskFull: 507,
}

export function sendError(res: Response, code: ApiErrorCode, message: string, where = '', more: object = {}) {
  res.status(STATUS[code]).json({ error: { code, message, where }, ...more })
}

/** The body by its schema; answers 400 with the field at fault and returns null when it does not fit. */
export function bodyBy<T>(schema: ZodType<T>, body: unknown, res: Response): T | null {
  const result = schema.safeParse(body)
  if (result.success) return result.data
  const first = result.error.issues[0]!
  sendError(res, 'badRequest', first.message, first.path.join('.'))
  return null
}

export const noSuchPath: RequestHandler = (req, res) =>
  sendError(res, 'notFound', `There is nothing at ${req.originalUrl}.`, req.originalUrl)

/** Last in line: broken JSON, bodies over the limit, and our own mistakes, of which only the fact is told. */
export const errorsTo =
  (log: Log): ErrorRequestHandler =>
  (error: { type?: string; message?: string; status?: number }, _req, res, next) => {
    const { request } = res.locals as { request?: string }
    // What has begun to be sent can only be broken off.
    if (res.headersSent) {
      log.error({ request, fault: logged(error) }, 'broken off')
      return next(error)
    }
    if (error instanceof OverLimit) {
      sendError(res, 'badRequest', error.message, error.where)
    } else if (error.type === 'entity.too.large') {
      sendError(res, 'tooLarge', `The request is larger than ${BODY_LIMIT / 1024 / 1024} MB.`)
    } else if (
      error.type === 'entity.parse.failed' ||
      error.type === 'charset.unsupported' ||
      error.type === 'encoding.unsupported'
    ) {
      sendError(res, 'badRequest', `The body is not JSON: ${error.message ?? ''}`, 'body')
    } else if (error.status !== undefined && error.status >= 400 && error.status < 500) {
      // An address or a body that can't be read: bad escapes, broken packing.
      sendError(res, 'badRequest', `The request can’t be read: ${error.message ?? ''}`)
    } else if (isDiskFull(error)) {
      log.error({ request }, DISK_FULL)
      sendError(res, 'diskFull', `${DISK_FULL} Make room there; it is saved as soon as there is some.`)
    } else {
      log.error({ request, fault: logged(error) }, 'our own mistake')
      sendError(res, 'internal', 'Something went wrong on our side. Nothing was changed; try again.')
    }
  }

export const DISK_FULL = 'The disk Nokta keeps its data on is full: nothing was saved.'
/**
 * What is written to the log of a fault: where it came from, and no word of anybody's documents. A failed
 * query holds what was asked.
 */
export function logged(error: unknown): string {
  if (!(error instanceof Error)) return 'an error that is none'
  const cause = error.cause as { code?: unknown } | undefined
  const code = [(error as { code?: unknown }).code, cause?.code].find(c => typeof c === 'string')
  const at = (error.stack ?? '')
    .split('\n')
    .filter(l => /^\s+at /.test(l))
    .slice(0, 6)
    .join('\n')
  return [`${error.name}${code ? ` ${String(code)}` : ''}`, at].filter(Boolean).join('\n')
}
