/**
 * The first script of a bench, and the smallest: it starts the worker, named after the tune it will be asked
 * about, and asks for the tune and the studio, while the rest of the page loads. It imports nothing, so that
 * it waits for nothing. (A message would reach the worker only when the page's scripts had run; its name is
 * there from the beginning.)
 */
import type { Begun } from './worker/early'

const bench = /^\/tunes\/([^/]+)\/[a-z]+\/?$/.exec(location.pathname)?.[1]

if (bench) {
  const url = `/api/v1/tunes/${bench}`
  const worker = new Worker(new URL('./worker/core.worker.ts', import.meta.url), {
    type: 'module',
    name: url,
  })
  const studio = '/api/v1/studio'
  globalThis.noktaBegun = { worker, answers: new Map([url, studio].map(u => [u, fetch(u)])) } satisfies Begun
}
