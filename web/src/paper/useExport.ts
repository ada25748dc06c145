/**
 * Making files one at a time: protected music asks first, a fault is told, long work shows how far it is and
 * can be stopped.
 */
import { ref, shallowRef } from 'vue'

/** What long work tells after each piece; it throws where the work is to stop, and lets the page draw. */
export type Told = (done: number, of: number) => Promise<void>

class Stopped extends Error {}

export interface Progress {
  readonly done: number
  readonly of: number
}

export function useExport(isProtected: () => boolean) {
  const problem = ref('')
  const busy = ref(false)
  const progress = shallowRef<Progress | null>(null)
  let stopped = false
  /** What waits for a yes: the rights of the tune are not ours to give. */
  const waiting = shallowRef<(() => Promise<void>) | null>(null)

  function ask(work: () => Promise<void>) {
    if (isProtected()) waiting.value = work
    else void run(work)
  }
  async function run(work: () => Promise<void>) {
    waiting.value = null
    busy.value = true
    stopped = false
    problem.value = ''
    try {
      await work()
    } catch (e) {
      if (!(e instanceof Stopped))
        problem.value = `The file could not be made: ${e instanceof Error ? e.message : String(e)}`
    } finally {
      busy.value = false
      progress.value = null
    }
  }
  const told: Told = async (done, of) => {
    progress.value = { done, of }
    await new Promise(drawn => setTimeout(drawn))
    if (stopped) throw new Stopped()
  }
  const stop = () => void (stopped = true)
  /** The file is not made after all. */
  const leave = () => void (waiting.value = null)
  return { problem, busy, progress, waiting, ask, run, told, stop, leave }
}
