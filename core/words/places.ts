/** Where in a tune something is, in words. */

/** "measure 3"; what comes before the first is "the pickup". */
export const measureText = (measure: number): string => (measure === 0 ? 'the pickup' : `measure ${measure}`)

/** "measure 3", "measures 3 and 5", "measures 1, 3 to 6 and 9", "the pickup and measures 3 and 5". */
export function measuresText(measures: readonly number[]): string {
  const sorted = [...new Set(measures)].sort((a, b) => a - b)
  if (sorted.length === 1) return measureText(sorted[0]!)
  if (sorted[0] === 0) return `${measureText(0)} and ${measuresText(sorted.slice(1))}`
  const runs: [number, number][] = []
  for (const m of sorted) {
    const last = runs.at(-1)
    if (last && m === last[1] + 1) last[1] = m
    else runs.push([m, m])
  }
  const said = runs.flatMap(([a, b]) =>
    b - a > 1 ? [`${a} to ${b}`] : a === b ? [`${a}`] : [`${a}`, `${b}`],
  )
  const list = said.length > 1 ? `${said.slice(0, -1).join(', ')} and ${said.at(-1)}` : said[0]!
  return `measures ${list}`
}

/** "measures 3 to 5", "the pickup to measure 2"; one measure by itself. */
export const spanText = (from: number, to: number): string =>
  from === to
    ? measureText(from)
    : from === 0
      ? `${measureText(0)} to ${measureText(to)}`
      : `measures ${from} to ${to}`

/** As a sentence begins. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
