import helmet from 'helmet'
import type { RequestHandler } from 'express'
import { sendError } from './errors'

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d{1,5})?$/i

/** Only this machine's own names are served: a page from elsewhere that points its name here gets nothing. */
export const localHostOnly: RequestHandler = (req, res, next) => {
  if (LOCAL.test(req.headers.host ?? '')) return next()
  sendError(res, 'forbidden', 'This server answers only to 127.0.0.1 and localhost.', 'Host')
}

/** Changes come from our own page: another origin, or a form post that needs no permission, is refused. */
export const ownPageOnly: RequestHandler = (req, res, next) => {
  if (req.method === 'GET' || req.method === 'HEAD') return next()
  const { origin } = req.headers
  // Another port of this machine is another page.
  const foreign = origin !== undefined && origin.replace(/^https?:\/\//, '') !== req.headers.host
  if (foreign)
    return sendError(res, 'forbidden', 'Changes are taken only from this server’s own page.', 'Origin')
  if (!req.is('application/json') && req.headers['content-length'] && req.headers['content-length'] !== '0') {
    return sendError(res, 'badRequest', 'Send the body as application/json.', 'Content-Type')
  }
  next()
}

export const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      // The component library sets sizes and theme colours as inline styles.
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'", 'data:'],
      workerSrc: ["'self'", 'blob:'],
      connectSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      frameAncestors: ["'none'"],
      formAction: ["'self'"],
    },
  },
  strictTransportSecurity: false,
})
