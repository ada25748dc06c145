import { existsSync } from 'node:fs'
import { join } from 'node:path'
import express, { type Express } from 'express'
import { API, BACKUP_PATH, BODY_LIMIT } from '#contract/api'
import { writeBackup } from '#core/formats/backup/backup'
import { noSuchPath, onError } from './errors'
import { handlersOf, routesOf, type Houses } from './routes'
import { headers, localHostOnly, ownPageOnly } from './security'

export interface AppOptions extends Houses {
  /** Folder of the built web app; without it only the API is served. */
  readonly web?: string
}

export function createApp({ web, ...houses }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(localHostOnly, headers)
  const api = express.Router()
  api.use(ownPageOnly, express.json({ limit: BODY_LIMIT, strict: true }))
  api.get(BACKUP_PATH.slice(API.length), async (_req, res) => {
    res
      .attachment('shelf.nokta.json')
      .type('application/json')
      .send(writeBackup(await houses.shelf.all()))
  })
  api.use(routesOf(handlersOf(houses)))
  app.use(API, api, noSuchPath)
  if (web && existsSync(join(web, 'index.html'))) {
    app.use(express.static(web, { index: false, maxAge: '1h', setHeaders: cacheHashed }))
    // Any other path is a place inside the app.
    app.get(/^\/(?!api\/)[^.]*$/, (_req, res) => {
      res.set('Cache-Control', 'no-cache').sendFile('index.html', { root: web })
    })
  }
  app.use(noSuchPath, onError)
  return app
}

/** Built assets carry their content in the name. */
function cacheHashed(res: { setHeader(name: string, value: string): void }, path: string) {
  if (path.includes('/assets/')) res.setHeader('Cache-Control', 'public, max-age=31536000, immutable')
}
