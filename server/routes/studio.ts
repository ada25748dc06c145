import { Router } from 'express'
import { studioRecordSchema } from '#contract/api'
import { bodyBy, sendError } from '../errors'
import type { StudioStore } from '../storage/studioStore'

const STALE = 'The studio’s settings were changed elsewhere since they were opened.'

export function studioRoutes(store: StudioStore): Router {
  const router = Router()

  router.get('/studio', async (_req, res) => {
    res.json(await store.get())
  })

  router.put('/studio', async (req, res) => {
    const body = bodyBy(studioRecordSchema, req.body, res)
    if (!body) return
    const result = await store.save(body.version, body.studio)
    if ('saved' in result) res.json({ version: result.saved })
    else if ('stale' in result) sendError(res, 'conflict', STALE, 'version', { current: result.stale })
  })

  return router
}
