import { Router } from 'express'
import {
  alikeRequestSchema,
  createArrangementSchema,
  createTuneSchema,
  importSchema,
  kinRequestSchema,
  nameVersionSchema,
  shelfQuerySchema,
  saveArrangementSchema,
  saveTuneSchema,
} from '#contract/api'
import { bodyBy, sendError } from '../errors'
import type { TuneStore } from '../storage/tuneStore'

const STALE = 'This was changed elsewhere since it was opened. Both versions are kept: choose one.'

export function tuneRoutes(store: TuneStore): Router {
  const router = Router()

  router.get('/tunes', async (req, res) => {
    const query = bodyBy(shelfQuerySchema, req.query, res)
    if (query) res.json(await store.shelf(query))
  })

  router.post('/tunes/import', async (req, res) => {
    const body = bodyBy(importSchema, req.body, res)
    if (!body) return
    const ids = await store.createAll(
      body.tunes.map(t => ({ source: t.source, tune: t.tune, recipes: [t.arrangement] })),
    )
    res.status(201).json({ ids })
  })

  router.post('/tunes/alike', async (req, res) => {
    const body = bodyBy(alikeRequestSchema, req.body, res)
    if (body) res.json({ alike: await store.alike(body.prints) })
  })

  router.post('/tunes/:id/kin', async (req, res) => {
    const body = bodyBy(kinRequestSchema, req.body, res)
    if (!body) return
    const tunes = await store.kinOf(req.params.id, body.boundaries)
    if (tunes) res.json({ tunes })
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.get('/tunes/duplicates', async (_req, res) => {
    res.json({ pairs: await store.duplicates() })
  })

  router.post('/tunes', async (req, res) => {
    const body = bodyBy(createTuneSchema, req.body, res)
    if (body) res.status(201).json(await store.create(body.source, body.tune, [body.arrangement]))
  })

  router.get('/tunes/:id', async (req, res) => {
    const tune = await store.get(req.params.id)
    if (tune) res.json(tune)
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.put('/tunes/:id', async (req, res) => {
    const body = bodyBy(saveTuneSchema, req.body, res)
    if (!body) return
    const result = await store.save(req.params.id, body.version, body.source, body.tune)
    if ('saved' in result) res.json({ version: result.saved })
    else if ('stale' in result) sendError(res, 'conflict', STALE, 'version', { current: result.stale })
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.delete('/tunes/:id', async (req, res) => {
    if (await store.putAway(req.params.id)) res.status(204).end()
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.post('/tunes/:id/restore', async (req, res) => {
    if (await store.restore(req.params.id)) res.json(await store.get(req.params.id))
    else sendError(res, 'notFound', 'There is no such tune to bring back.', req.params.id)
  })

  router.post('/tunes/:id/arrangements', async (req, res) => {
    const body = bodyBy(createArrangementSchema, req.body, res)
    if (!body) return
    const made = await store.addArrangement(req.params.id, body.arrangement)
    if (made) res.status(201).json(made)
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.get('/tunes/:id/versions', async (req, res) => {
    res.json({ versions: await store.versions.list(req.params.id) })
  })

  router.post('/tunes/:id/versions', async (req, res) => {
    const body = bodyBy(nameVersionSchema, req.body, res)
    if (!body) return
    const made = await store.versions.keep(req.params.id, body.name)
    if (made) res.status(201).json(made)
    else sendError(res, 'notFound', 'This tune is not on the shelf.', req.params.id)
  })

  router.get('/versions/:id', async (req, res) => {
    const version = await store.versions.get(req.params.id)
    if (version) res.json(version)
    else sendError(res, 'notFound', 'There is no such version.', req.params.id)
  })

  router.put('/versions/:id', async (req, res) => {
    const body = bodyBy(nameVersionSchema, req.body, res)
    if (!body) return
    if (await store.versions.rename(req.params.id, body.name)) res.status(204).end()
    else sendError(res, 'notFound', 'There is no such version.', req.params.id)
  })

  router.put('/arrangements/:id', async (req, res) => {
    const body = bodyBy(saveArrangementSchema, req.body, res)
    if (!body) return
    const result = await store.saveArrangement(req.params.id, body.version, body.arrangement)
    if ('saved' in result) res.json({ version: result.saved })
    else if ('stale' in result) sendError(res, 'conflict', STALE, 'version', { current: result.stale })
    else sendError(res, 'notFound', 'There is no such arrangement.', req.params.id)
  })

  return router
}
