/** The thread that looks for alike tunes on a whole shelf. */
import { parentPort, workerData } from 'node:worker_threads'
import { alikePairs } from '#core/melody/pairs'
import type { MelodyPrint } from '#core/melody/print'

/** What it is asked. */
export interface WhichAreAlike {
  readonly prints: ReadonlyMap<string, MelodyPrint>
  readonly most: number
}

const { prints, most } = workerData as WhichAreAlike
parentPort!.postMessage(alikePairs(prints, most))
