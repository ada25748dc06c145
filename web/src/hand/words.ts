/** Components of a cost in words a teacher uses. */
export const COST_WORDS: Readonly<Record<string, string>> = {
  place: 'away from home', finger: 'finger', open: 'open string', sustained: 'long and open', shift: 'shift', crossing: 'crossing',
  hop: 'hop or block', slide: 'slide', stretch: 'stretch', handShape: 'hand opens', hold: 'finger lifted', substitution: 'change of finger',
  consistency: 'not as nearby', sound: 'sound',
} // prettier-ignore

export const signed = (x: number) => (x > 0 ? `+${x.toFixed(1)}` : x.toFixed(1).replace('-', '−'))

/** "shift +1.2, crossing −0.4": the three differences that weigh most. */
export const weighing = (differences: readonly { readonly name: string; readonly amount: number }[]) =>
  [...differences]
    .sort((p, q) => Math.abs(q.amount) - Math.abs(p.amount))
    .slice(0, 3)
    .map(d => `${COST_WORDS[d.name] ?? d.name} ${signed(d.amount)}`)
    .join(', ')
