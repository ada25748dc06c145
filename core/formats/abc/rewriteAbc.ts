/**
 * The text of a tune that was edited elsewhere: written anew, with the information fields of the old text
 * that the tune itself does not hold.
 */
import type { Tune } from '#core/music/tune'
import { writeAbc } from './writeAbc'

/** Fields the writer makes from the tune. */
const OURS = /^[XTCRSNMLQKVP]:/
/** Fields and directions before the music that are kept as they are. */
const KEPT = /^(?:[A-Za-z]:|%%|%)/

export function rewriteAbc(old: string | null, tune: Tune): string {
  const number = Number(/^X:\s*(\d{1,9})/m.exec(old ?? '')?.[1] ?? 1)
  const { text } = writeAbc(tune, number)
  const head = (old ?? '').split(/^K:.*$/m)[0]!.split('\n')
  const kept = head.filter(line => KEPT.test(line) && !OURS.test(line))
  return kept.length === 0 ? text : text.replace(/^M:/m, () => `${kept.join('\n')}\nM:`)
}
