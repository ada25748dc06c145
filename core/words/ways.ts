/** The words of other ways of playing. */
import type { Way } from '#core/fingering/alternatives'
import type { Ossia } from '#core/fingering/ossia'

export function wayWords(w: Way): string {
  switch (w.id) {
    case 'firstPosition':
      return 'all in first position'
    case 'noOpen':
      return 'no open strings'
    case 'noFourth':
      return 'no fourth finger'
    case 'openWherever':
      return 'open strings wherever they are'
    case 'string':
      return `all on the ${w.letter} string`
    case 'still':
      return 'without moving the hand'
  }
}

/** The other lines that can be printed beside the first. */
export const OSSIA_WORDS: Readonly<Record<Ossia, string>> = {
  noFourth: wayWords({ id: 'noFourth' }),
  noOpen: wayWords({ id: 'noOpen' }),
  first: wayWords({ id: 'firstPosition' }),
}
