/**
 * The first script of a bench, and the smallest: it starts the worker, asks for the tune and hands it over, while the rest of the page loads. It imports nothing, so
 * that it waits for nothing.
 */
import type { Begun, Warm } from './worker/early'

const bench = /^\/tunes\/([^/]+)\/[a-z]+\/?$/.exec(location.pathname)?.[1]

if (bench) {
  const worker = new Worker(new URL('./worker/core.worker.ts', import.meta.url), { type: 'module' })
  const url = `/api/v1/tunes/${bench}`
  const answer = fetch(url)
  globalThis.noktaBegun = { worker, answers: new Map([[url, answer]]) } satisfies Begun
  interface Found {
    readonly tune: Warm['warm']['tune']
    readonly arrangements: readonly { readonly arrangement: Warm['warm']['recipe'] }[]
  }
  answer
    .then(r => (r.ok ? (r.clone().json() as Promise<Found>) : null))
    .then(found => {
      const recipe = found?.arrangements[0]?.arrangement
      if (found && recipe) worker.postMessage({ warm: { tune: found.tune, recipe } } satisfies Warm)
    })
    // Whoever asks for it in earnest meets the failure.
    .catch(() => {})
}
