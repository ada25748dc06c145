import compression from 'compression'
import express, { type Express } from 'express'
import packedStatic from 'express-static-gzip'
import { API, BACKUP_PATH } from '#contract/api'
import { backupPieces } from '#core/formats/backup/backup'
import { noSuchPath, onError } from './errors'
import { readPage } from './page'
import { handlersOf, routesOf, type Houses } from './routes'
import { headers, localHostOnly, ownPageOnly } from './security'

export interface AppOptions extends Houses {
  /** Folder of the built web app; without it only the API is served. */
  readonly web?: string
}

export function createApp({ web, ...houses }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(headers, localHostOnly)
  const api = express.Router()
  // What is answered is somebody's own: nothing on the way keeps it.
  api.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store')
    next()
  })
  api.use(ownPageOnly)
  api.get(BACKUP_PATH.slice(API.length), compression(), async (_req, res) => {
    res.attachment('shelf.nokta.json').type('application/json')
    for await (const piece of backupPieces(houses.shelf.texts(), (await houses.studio.get()).studio))
      if (!res.write(piece)) await new Promise(done => res.once('drain', done))
    res.end()
  })
  api.use(routesOf(handlersOf(houses)))
  app.use(API, api, noSuchPath)
  const page = web ? readPage(web) : null
  if (web && page) {
    const serveStatic = { index: false, maxAge: '1h', setHeaders: cacheHashed } as const
    app.use(
      packedStatic(web, { enableBrotli: true, orderPreference: ['br', 'gz'], index: false, serveStatic }),
    )
    // Any other path is a place inside the app.
    app.get(/^\/(?!api\/)[^.]*$/, (req, res) => {
      res.set('Cache-Control', 'no-cache').type('html').send(page.at(req.path))
    })
  }
  app.use(noSuchPath, onError)
  return app
}

/** Built assets carry their content in the name. */
function cacheHashed(res: { setHeader(name: string, value: string): void }, path: string) {
  if (path.includes('/assets/')) res.setHeader('Cache-Control', 'public, max-age=31536000, immutable')
}
