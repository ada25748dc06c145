/** What the benches print: medians in rows with their budgets. */
import type { Page } from 'playwright-core'

export const middle = (times: readonly number[]) =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!

export const row = (name: string, value: string, ratio: number | null, budget: string) =>
  console.log(
    `${value.padStart(10)}   ${(ratio === null ? '–' : ratio.toFixed(1)).padStart(7)}   ${budget.padStart(10)}   ${name}`,
  )
/** Of whole milliseconds. */
export const rowOf = (name: string, ms: number, budget: string) =>
  row(name, `${ms.toFixed(0)} ms`, null, budget)

/**
 * Milliseconds in which the browser is done with a new window of its own (its address bar is a page too, and
 * takes half a second of a core).
 */
export const WINDOW_BUILT = 1500
/**
 * Waits until something is there, looking at every frame: what waits for a selector looks twice a second
 * after a while.
 */
export const seen = (p: Page, selector: string) =>
  p.waitForFunction(s => document.querySelector(s) !== null, selector, { polling: 'raf' })
