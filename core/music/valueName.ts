/** Note values in words: "dotted quarter". */
import { formatFraction, type Fraction } from './fraction'
import type { Tempo } from './metre'

const NAMES: Readonly<Record<string, string>> = {
  '8': 'double whole',
  '4': 'whole',
  '2': 'half',
  '1': 'quarter',
  '1/2': 'eighth',
  '1/4': 'sixteenth',
  '1/8': 'thirty-second',
  '1/16': 'sixty-fourth',
  '6': 'dotted whole',
  '3': 'dotted half',
  '3/2': 'dotted quarter',
  '3/4': 'dotted eighth',
  '3/8': 'dotted sixteenth',
  '3/16': 'dotted thirty-second',
  '7/2': 'double-dotted half',
  '7/4': 'double-dotted quarter',
  '7/8': 'double-dotted eighth',
}

/** The name of a length in quarters; lengths no single note has are counted: "5/2 quarters". */
export function valueName(length: Fraction): string {
  const text = formatFraction(length)
  return NAMES[text] ?? `${text} quarters`
}

/** "half note = 96". */
export function tempoName({ beat, perMinute }: Tempo): string {
  const name = NAMES[formatFraction(beat)]
  return `${name ? `${name} note` : valueName(beat)} = ${perMinute}`
}
