/** Numbers in words. */

const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth'] // prettier-ignore

/** "first", "second" … "tenth"; beyond, and below, in figures: "11th", "22nd". */
export function ordinal(n: number): string {
  const named = ORDINALS[n]
  if (named) return named
  const end = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')
  return `${n}${end}`
}
