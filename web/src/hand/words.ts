/** Components of a cost in words a teacher uses. */
export const COST_WORDS: Readonly<Record<string, string>> = {
  place: 'away from home',
  finger: 'finger',
  open: 'open string',
  sustained: 'long and open',
  shift: 'shift',
  crossing: 'crossing',
  hop: 'hop or block',
  slide: 'slide',
  stretch: 'stretch',
  handShape: 'hand opens',
  hold: 'finger lifted',
  substitution: 'change of finger',
  consistency: 'not as nearby',
  sound: 'sound',
}

export const signed = (x: number) => (x > 0 ? `+${x.toFixed(1)}` : x.toFixed(1).replace('-', '−'))

/** "shift +1.2, crossing −0.4": the three differences that weigh most. */
export const weighing = (differences: readonly { readonly name: string; readonly amount: number }[]) =>
  [...differences]
    .sort((p, q) => Math.abs(q.amount) - Math.abs(p.amount))
    .slice(0, 3)
    .map(d => `${COST_WORDS[d.name] ?? d.name} ${signed(d.amount)}`)
    .join(', ')

/** What weighs against it, and for it, most: where the figures a teacher reads stay the same. */
export function heavier(differences: readonly { readonly name: string; readonly amount: number }[]): string {
  const word = (d: { readonly name: string } | undefined) => d && (COST_WORDS[d.name] ?? d.name)
  const sorted = [...differences].sort((p, q) => q.amount - p.amount)
  const against = word(sorted.find(d => d.amount > 0))
  const better = word(sorted.findLast(d => d.amount < 0))
  return (
    [against && `drawback: ${against}`, better && `for it: ${better}`].filter(Boolean).join('; ') ||
    'no difference'
  )
}
