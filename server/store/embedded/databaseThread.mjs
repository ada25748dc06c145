/**
 * The embedded database on a thread of its own: what it works on keeps nobody waiting who is not waiting for
 * it. Plain JavaScript, so that the thread starts without anything that translates. Asked `{ id, verb, ... }`
 * it answers `{ id, done }` or `{ id, failed }`; `threadClient.ts` is the other side.
 */
import { parentPort, workerData } from 'node:worker_threads'
import { PGlite, types } from '@electric-sql/pglite'

/**
 * What the object mapper reads itself stays the text it came as: dates, and documents, which are copied from
 * thread to thread cheaper than taken apart.
 */
const asText = text => text
const parsers = Object.fromEntries(
  [types.TIMESTAMP, types.TIMESTAMPTZ, types.INTERVAL, types.DATE, types.JSON, types.JSONB].map(type => [
    type,
    asText,
  ]),
)

const client = new PGlite(workerData.folder ?? undefined)

const VERBS = {
  query: async ({ text, params, rowMode }) => {
    const { rows, fields, affectedRows } = await client.query(text, params, { rowMode, parsers })
    return { rows, fields, affectedRows }
  },
  close: () => client.close(),
}

parentPort.on('message', async asked => {
  const { id } = asked
  try {
    parentPort.postMessage({ id, done: await VERBS[asked.verb](asked) })
  } catch (e) {
    parentPort.postMessage({ id, failed: { message: String(e?.message ?? e), code: e?.code } })
  }
  if (asked.verb === 'close') parentPort.close()
})
