/** Lengths as a score counts them, in parts of a quarter. */
import {
  div,
  fromFloat,
  isCountable,
  LONGEST,
  nearestCountable,
  toNumber,
  ZERO,
  type Fraction,
} from '#core/music/fraction'
import { textAt, type XmlNode } from './xml'

/** How many parts a quarter has from here on; null where nothing usable is said. */
export function divisionsIn(attributes: XmlNode): Fraction | null {
  const divisions = fromFloat(Number(textAt(attributes, 'divisions') || NaN))
  return divisions && divisions.n > 0 ? divisions : null
}

/**
 * The length of a note, or of a way forwards or back, in quarters. A missing or impossible one counts as
 * nothing, one that is no written value as the nearest; both are told.
 */
export function lengthIn(
  node: XmlNode,
  divisions: Fraction,
  tell: (code: 'file.badLength' | 'file.rounded') => void,
): Fraction {
  const parts = fromFloat(Number(textAt(node, 'duration') || NaN))
  if (!parts || parts.n < 0 || toNumber(parts) > LONGEST * toNumber(divisions)) {
    tell('file.badLength')
    return ZERO
  }
  const length = div(parts, divisions)
  if (isCountable(length)) return length
  tell('file.rounded')
  return nearestCountable(toNumber(length))
}
