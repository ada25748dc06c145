/** Signs of a part: clef, key, tempo, the times an ending is for; none where they say nothing that holds. */
import { frac, mul } from '#core/music/fraction'
import { keyOfSignature, parseMode, type Key } from '#core/music/key'
import type { Tempo } from '#core/music/metre'
import type { Clef } from '#core/music/tune'
import { CLEFS, TYPES } from './words'
import { child, children, textAt, type XmlNode } from './xml'

/** A sign nobody knows is a treble clef. */
export function clefOf(node: XmlNode): Clef {
  const [sign, line] = [textAt(node, 'sign'), textAt(node, 'line')]
  return CLEFS.find(c => c[1] === sign && (line === '' || String(c[2]) === line))?.[0] ?? 'treble'
}

export function keyIn(node: XmlNode): Key | null {
  const fifths = Number(textAt(node, 'fifths') || NaN)
  const mode = parseMode(textAt(node, 'mode')) ?? 'major'
  return Number.isInteger(fifths) && Math.abs(fifths) <= 7 ? keyOfSignature(fifths, mode) : null
}

/** Of a metronome mark. */
export function tempoIn(node: XmlNode): Tempo | undefined {
  const quarters = TYPES.find(t => t[0] === textAt(node, 'beat-unit'))?.[1]
  const perMinute = Number(/\d+(\.\d+)?/.exec(textAt(node, 'per-minute'))?.[0] ?? NaN)
  if (quarters === undefined || !(perMinute >= 1 && perMinute <= 999)) return undefined
  const dots = Math.min(3, children(node, 'beat-unit-dot').length)
  return { beat: mul(frac(quarters * 16, 16), frac(2 ** (dots + 1) - 1, 2 ** dots)), perMinute }
}

/** The times through an ending is for, each once. */
export function endingNumbers(node: XmlNode): number[] | null {
  const numbers = (node.attributes.number ?? '')
    .split(/[,\s]+/)
    .map(Number)
    .filter(n => Number.isInteger(n) && n >= 1 && n <= 20)
  return numbers.length > 0 ? [...new Set(numbers)] : null
}

/** How often what a sign repeats is played: twice where it says nothing. */
export function repeatTimes(barline: XmlNode): number {
  const times = Number(child(barline, 'repeat')?.attributes.times ?? NaN)
  return Number.isInteger(times) && times >= 1 ? Math.min(9, times) : 2
}
