/**
 * The first script of a bench, and the smallest: it starts the worker, tells it which tune it will be asked about, and asks for the tune and the studio, while the rest of the page
 * loads. It imports nothing, so that it waits for nothing.
 */
import type { Begun, Warm } from './worker/early'

const bench = /^\/tunes\/([^/]+)\/[a-z]+\/?$/.exec(location.pathname)?.[1]

if (bench) {
  const worker = new Worker(new URL('./worker/core.worker.ts', import.meta.url), { type: 'module' })
  const url = `/api/v1/tunes/${bench}`
  const studio = '/api/v1/studio'
  worker.postMessage({ warm: url } satisfies Warm)
  globalThis.noktaBegun = { worker, answers: new Map([url, studio].map(u => [u, fetch(u)])) } satisfies Begun
}
