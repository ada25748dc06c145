/**
 * What begins before the app is there (start.ts): the worker, and on a bench the question for its tune. The
 * app takes them up from here; where nothing was begun it begins by itself.
 */

export interface Begun {
  worker: Worker | null
  /** By address; each is used once. */
  readonly answers: Map<string, Promise<Response>>
}

declare global {
  var noktaBegun: Begun | undefined
}

export const newWorker = () => new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' })

/** The worker that was started early, once; null when there is none. */
export function takeWorker(): Worker | null {
  const begun = globalThis.noktaBegun
  const worker = begun?.worker ?? null
  if (begun) begun.worker = null
  return worker
}

/** An answer that was asked for early, once. */
export function takeAnswer(url: string): Promise<Response> | undefined {
  const answer = globalThis.noktaBegun?.answers.get(url)
  globalThis.noktaBegun?.answers.delete(url)
  return answer
}
