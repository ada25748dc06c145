/** Phrases that lie at home: the hand has no call to leave it there. */
import { HOME_ANCHOR } from '#core/instruments/hands'
import type { HandState } from './candidates'

/** For each tone the number of its phrase; one phrase where nobody says where they begin. */
export function inPhrases(ids: readonly string[], starts?: ReadonlySet<string>): string[] {
  let phrase = 0
  return ids.map(id => {
    if (starts?.has(id)) phrase++
    return String(phrase)
  })
}

/** Whether a hand in first position has the tone without stretching for it. */
const atHome = (states: readonly HandState[]) =>
  states.some(s => s.anchor === HOME_ANCHOR && s.places.every(p => !p.harmonic && p.mark !== 'extended'))

/** For each tone whether everything in its phrase is there in first position. */
export function homely(
  ids: readonly string[],
  states: readonly (readonly HandState[])[],
  starts?: ReadonlySet<string>,
): boolean[] {
  const phrases = inPhrases(ids, starts)
  const beyond = new Set(phrases.filter((_, i) => !atHome(states[i]!)))
  return phrases.map(p => !beyond.has(p))
}
