/** Two servers, each with connections and memory of its own, on one PostgreSQL. */
import { afterAll, beforeAll, expect, it } from 'vitest'
import { newArrangement } from '#core/arrangement/recipe'
import { newLearner } from '#core/instruments/learner'
import { emptyTune } from '#core/music/tune'
import { urlOf } from '#contract/api'
import { tuneListSchema, tuneWithArrangementsSchema, type TuneWithArrangements } from '#contract/documents'
import { startNokta, type Nokta } from '../nokta'
import { startPostgres, type PostgresServer } from './postgresServer'

let server: PostgresServer
let a: Nokta
let b: Nokta
beforeAll(async () => {
  server = await startPostgres()
  const databaseUrl = server.fresh()
  // At once: both find empty tables, and make them one after the other.
  ;[a, b] = (await Promise.all([1, 2].map(() => startNokta({ databaseUrl, port: 0, version: 'test' })))) as [
    Nokta,
    Nokta,
  ]
})
afterAll(async () => {
  await Promise.all([a.stop(), b.stop()])
  server.stop()
})

const get = async (from: Nokta, id: string, etag = '') => {
  const answer = await fetch(from.url + urlOf('tune', { id }), { headers: { 'If-None-Match': etag } })
  const tune = answer.status === 200 ? tuneWithArrangementsSchema.parse(await answer.json()) : null
  return { status: answer.status, etag: answer.headers.get('etag')!, tune }
}
const save = (to: Nokta, { id, version, tune }: TuneWithArrangements, title: string) =>
  fetch(to.url + urlOf('saveDocuments', { id }), {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      tune: { version, source: null, tune: { ...tune, title } },
      arrangements: [],
      removed: [],
    }),
  })
const titles = async (of: Nokta) =>
  tuneListSchema.parse(await (await fetch(of.url + urlOf('shelf'))).json()).tunes.map(t => t.title)

it('what one saves the other reads at once, and a browser’s copy is good on both', async () => {
  const { id } = await a.shelf.create(null, emptyTune('First'), [newArrangement('violin', '4/4')])
  const first = await get(b, id)
  expect([first.tune!.tune.title, (await get(a, id, first.etag)).status]).toEqual(['First', 304])
  expect(await titles(b)).toEqual(['First'])
  expect((await save(a, first.tune!, 'Second')).status).toBe(200)
  const second = await get(b, id, first.etag)
  expect([second.status, second.tune!.tune.title]).toEqual([200, 'Second'])
  expect([await titles(a), await titles(b)]).toEqual([['Second'], ['Second']])
})

it('a clash of two servers ends like a clash of two windows: one is stored, the other gets what is', async () => {
  const { id } = await a.shelf.create(null, emptyTune('Both'), [newArrangement('violin', '4/4')])
  const { tune } = await get(a, id)
  const answers = await Promise.all([save(a, tune!, 'By A'), save(b, tune!, 'By B')])
  expect(answers.map(r => r.status).sort()).toEqual([200, 409])
  const told = (await answers.find(r => r.status === 409)!.json()) as { current: TuneWithArrangements }
  const stored = await get(a, id)
  expect(told.current).toEqual(stored.tune)
  expect(stored.tune!.version).toBe(2)
})

it('an erased learner is gone for both', async () => {
  const learners = [newLearner('h1', 'Quill', 'cello', '1/2')]
  expect(await a.studio.save(0, { part: 'learners', learners })).toEqual({ saved: 1 })
  expect((await b.studio.get()).studio.learners).toEqual(learners)
  expect(await b.studio.save(1, { part: 'learners', learners: [] })).toEqual({ saved: 2 })
  expect((await a.studio.get()).studio.learners).toEqual([])
})
