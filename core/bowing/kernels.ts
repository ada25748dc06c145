/** Lengths a stroke may have for the one it wants, and what each costs. */
import { STEPS } from './travel'

/**
 * Lengths tried for a stroke, as shares of the one it wants, and what each costs: slower is easier than
 * faster.
 */
const LENGTHS: readonly (readonly [number, number])[] = [
  [1, 0],
  [0.8, 0.12],
  [0.6, 0.4],
  [0.4, 1.1],
  [1.25, 0.15],
  [1.6, 0.5],
  [2.2, 1.2],
]
/** Share of the hair from which on a change of length is fully felt. */
const FELT = 0.5
export interface Kernel {
  readonly steps: readonly number[]
  readonly costs: readonly number[]
}

/** Kept: wanted lengths are shares of one bow, in quarters of a step. */
const KERNELS = new Map<number, Kernel>()

/** Lengths in steps for a wanted one, the cheapest for each. */
export function kernelFor(wanted: number): Kernel {
  const key = Math.round(wanted * STEPS * 4)
  const known = KERNELS.get(key)
  if (known) return known
  // A third longer or shorter is felt in a long bow; in a short one it is a matter of millimetres.
  const felt = Math.max(0.15, Math.min(1, key / 4 / STEPS / FELT))
  const best = new Map<number, number>()
  for (const [share, cost] of LENGTHS) {
    const steps = Math.max(1, Math.round((key / 4) * share))
    best.set(steps, Math.min(best.get(steps) ?? Infinity, cost * felt))
  }
  const kernel = { steps: [...best.keys()], costs: [...best.values()] }
  KERNELS.set(key, kernel)
  return kernel
}
