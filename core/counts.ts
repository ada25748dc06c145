/** Numbers in words. */

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten']

/** "no", "one", "two" … "ten"; beyond, in figures. */
export const numberWord = (n: number): string => NUMBERS[n] ?? String(n)

const ORDINALS = [
  '',
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
]

/** "first", "second" … "tenth"; beyond, and below, in figures: "11th", "22nd". */
export function ordinal(n: number): string {
  const named = ORDINALS[n]
  if (named) return named
  const end = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th')
  return `${n}${end}`
}

/** "1 shift", "3 shifts"; the word for many where it is not the one with an s. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

/** "once", "twice", "3 times". */
export const timesText = (n: number): string => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`)
