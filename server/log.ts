/**
 * What the server says of its work: one line of JSON for each event, with the request's id, its endpoint,
 * code and duration; never a word of a document or a name.
 */
import { randomUUID } from 'node:crypto'
import type { RequestHandler } from 'express'
import { destination, pino, type Logger } from 'pino'
import type { Config } from './config'

export type Log = Logger

/** To the error channel: what is said on the other is for people. */
export const logAt = (level: Config['log']): Log => pino({ level, base: null }, destination(2))
export const SILENT: Log = pino({ level: 'silent' })

/** Gives each request an id, told in its answer too, and says how it ended. */
export const requestLog =
  (log: Log): RequestHandler =>
  (req, res, next) => {
    const id = randomUUID()
    const began = performance.now()
    res.locals.request = id
    res.setHeader('X-Request-Id', id)
    res.once('close', () => {
      const { endpoint } = res.locals as { endpoint?: string }
      const ms = Math.round(performance.now() - began)
      const told = { request: id, method: req.method, endpoint: endpoint ?? null, status: res.statusCode, ms }
      if (res.statusCode >= 500) log.error(told, 'failed')
      else log.info(told, 'answered')
    })
    next()
  }
