/** The order of the parts of a tune, as one says it. */
import { tidy } from './edited'
import type { Tune } from '../tune'

/** Labels of the parts in the order they are written. */
export const partsOf = ({ measures }: Tune): string[] =>
  measures.flatMap(m => (m.label === undefined ? [] : [m.label]))

const MOST = 100

/**
 * Sets the order: "A B A", or "ABA" where every part is one letter; nothing is the order they are written in.
 * Null where a part is not there.
 */
export function setPartOrder(tune: Tune, said: string): Tune | null {
  const labels = partsOf(tune)
  const words = said
    .trim()
    .split(/[\s,]+/)
    .filter(Boolean)
  const apart = words.length === 1 && !labels.includes(words[0]!) && labels.every(l => [...l].length === 1)
  const parts = apart ? [...words[0]!] : words
  if (parts.length > MOST || parts.some(p => !labels.includes(p))) return null
  const written = parts.length === 0 || parts.join('\n') === labels.join('\n')
  return { ...tune, play: tidy({ ...tune.play, parts: written ? undefined : parts }) }
}
