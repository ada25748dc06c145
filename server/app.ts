import compression from 'compression'
import express, { type Express } from 'express'
import packedStatic from 'express-static-gzip'
import { API, BACKUP_PATH } from '#contract/api'
import { backupPieces } from '#core/formats/backup/backup'
import { LOCAL_TEACHER } from '#contract/principal'
import { errorsTo, noSuchPath, sendError } from './errors'
import { requestLog, SILENT, type Log } from './log'
import { readPage } from './page'
import { routesOf, type Houses } from './routes'
import { BackupTexts } from './store/backupTexts'
import { headers, localHostOnly, ownPageOnly } from './security'

export interface AppOptions extends Houses {
  /** Folder of the built web app; without it only the API is served. */
  readonly web?: string
  readonly log?: Log
}

export function createApp({ web, log = SILENT, ...houses }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(requestLog(log), headers, localHostOnly)
  const api = express.Router()
  // What is answered is somebody's own: nothing on the way keeps it.
  api.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store')
    next()
  })
  api.use(ownPageOnly)
  api.get(BACKUP_PATH.slice(API.length), compression(), async (req, res) => {
    const by = houses.principalOf?.(req) ?? LOCAL_TEACHER
    if (by.role !== 'teacher')
      return sendError(res, 'forbidden', 'Only a teacher takes the whole shelf along.', by.role)
    const { studio } = await houses.stores.studio(by).get()
    res.attachment('shelf.nokta.json').type('application/json')
    for await (const piece of backupPieces(new BackupTexts(houses.stores.shelf(by).tunes).plain(), studio))
      if (!res.write(piece)) await new Promise(done => res.once('drain', done))
    res.end()
  })
  api.use(routesOf(houses))
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
  app.use(noSuchPath, errorsTo(log))
  return app
}

/** Built assets carry their content in the name. */
function cacheHashed(res: { setHeader(name: string, value: string): void }, path: string) {
  if (path.includes('/assets/')) res.setHeader('Cache-Control', 'public, max-age=31536000, immutable')
}
