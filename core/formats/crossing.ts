import type { Tune } from '#core/music/tune'

/** Two slurs of which one begins within the other and ends after it: brackets can only nest. */
export function hasCrossingSlurs({ measures, slurs }: Tune): boolean {
  if (slurs.length < 2) return false
  const at = new Map(measures.flatMap(m => m.events).map((e, i) => [e.id as string, i]))
  const open: number[] = []
  const sorted = slurs
    .map(s => [at.get(s.from)!, at.get(s.to)!] as const)
    .sort((a, b) => a[0] - b[0] || b[1] - a[1])
  for (const [from, to] of sorted) {
    while (open.length > 0 && open.at(-1)! <= from) open.pop()
    if (open.some(end => end < to)) return true
    open.push(to)
  }
  return false
}
