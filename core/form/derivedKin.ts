/**
 * Kin that only the hand or the bow knows: the same fingers on another string, and the same notes begun on
 * the other bow.
 */
import type { Direction } from '#core/bowing/line'
import type { Finger } from '#core/instruments/hands'
import type { Form, Phrase } from './form'
import type { Kin } from './kinship'

export interface Hand {
  /** By event id: the finger of the top note and its string. */
  readonly fingers: ReadonlyMap<
    string,
    { readonly finger: Finger; readonly string: number; readonly offset: number }
  >
  /** By event id: the stroke that begins there. */
  readonly bows: ReadonlyMap<string, Direction>
}

/** Fewer notes on another string are chance. */
const LEAST = 5

/** The form with what fingers and bows add to it. */
export function withHand(form: Form, hand: Hand): Form {
  const known: Phrase[] = []
  const parts = form.parts.map(part => ({
    ...part,
    phrases: part.phrases.map(p => {
      const phrase = { ...p, kin: kinByHand(p, known, hand) }
      known.push(phrase)
      return phrase
    }),
  }))
  return { parts, phrases: known }
}

function kinByHand(p: Phrase, known: readonly Phrase[], hand: Hand): Kin[] {
  const byLabel = new Map(known.map(k => [k.label, k]))
  const told = p.kin.map(k => {
    const of = byLabel.get(k.phrase)
    return k.relation === 'same' && of && otherBow(p, of, hand) ? { ...k, otherBow: true } : k
  })
  if (told.some(k => k.relation === 'same')) return told
  for (const of of known) {
    const strings = stringsApart(p, of, hand)
    if (strings === null) continue
    const rest = told.filter(k => k.phrase !== of.label)
    const before = told.find(k => k.phrase === of.label)
    return [
      { ...(before ?? {}), phrase: of.label, relation: 'same fingers', differences: [], strings },
      ...rest,
    ]
  }
  return told
}

const first = (p: Phrase) => p.stretch.tones.find(t => t.midi !== null)?.id

function otherBow(p: Phrase, of: Phrase, { bows }: Hand): boolean {
  const [a, b] = [bows.get(first(p) ?? ''), bows.get(first(of) ?? '')]
  return a !== undefined && b !== undefined && a !== b
}

/** How many strings over, when every finger is the same and in the same rhythm; null when not. */
function stringsApart(p: Phrase, of: Phrase, { fingers }: Hand): number | null {
  const [a, b] = [p, of].map(x => x.stretch.tones.filter(t => t.midi !== null && t.at >= x.stretch.downbeat))
  if (a!.length < LEAST || a!.length !== b!.length) return null
  let by: number | null = null
  for (const [i, t] of a!.entries()) {
    const u = b![i]!
    const [x, y] = [fingers.get(t.id), fingers.get(u.id)]
    if (!x || !y || x.finger !== y.finger || x.offset !== y.offset) return null
    if (i < a!.length - 1 && t.length !== u.length) return null
    if (by !== null && x.string - y.string !== by) return null
    by = x.string - y.string
  }
  return by === 0 ? null : by
}
