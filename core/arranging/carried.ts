/**
 * What is said over and under notes that a version leaves out: their words and chords go to the notes that
 * stand there now.
 */
import type { EventBody, Syllable } from '#core/music/tune'
import type { Slot } from './fillings'
import type { SourceNote } from './source'

type Verses = readonly (Syllable | null)[]

const EPS = 1e-6
/** The longest text a syllable may have. */
const LONGEST = 80

/**
 * @param by the notes that take a place, one a slot
 * @param notes of the tune that begin there
 * @param before words of notes just before that are left out whole, the first first
 */
export function withWords(
  by: readonly EventBody[],
  slots: readonly Slot[],
  notes: readonly SourceNote[],
  before: readonly Verses[],
): EventBody[] {
  const heard = new Set(slots.map(s => s.source?.id))
  const sung = by.map(b => (b.kind === 'note' && b.syllables ? [b.syllables] : []))
  const first = slots.findIndex(s => s.pitch)
  if (first < 0) return [...by]
  sung[first]!.unshift(...before)
  for (const n of notes) {
    if (heard.has(n.id) || !n.event.syllables) continue
    const last = slots.findLastIndex(s => s.pitch && s.at <= n.at + EPS)
    const at = last < 0 ? first : last
    const earlier = slots[at]!.source!.at > n.at
    sung[at]![earlier ? 'unshift' : 'push'](n.event.syllables)
  }
  const chords = new Map(notes.flatMap(n => (n.event.chord === undefined ? [] : [[n.at, n.event.chord]])))
  return by.map((b, i) => {
    const { chord: _, ...rest } = b
    const chord = [...chords].find(([at]) => Math.abs(at - (slots[i]?.at ?? -1)) < EPS)?.[1]
    const words = b.kind === 'note' && sung[i]!.length > 0 ? { syllables: together(sung[i]!) } : {}
    return { ...rest, ...words, ...(chord !== undefined && { chord }) } as EventBody
  })
}

/** Syllables of several notes on one: "O" and "come" are "O come", "a-" and "way" are "away". */
function together(verses: readonly Verses[]): Verses {
  const count = Math.max(...verses.map(v => v.length))
  return Array.from({ length: count }, (_, verse) =>
    verses
      .flatMap(v => v[verse] ?? [])
      .reduce<Syllable | null>((a, b) => (a === null ? b : joined(a, b)), null),
  )
}

function joined(a: Syllable, b: Syllable): Syllable {
  const text = `${a.text}${a.hyphen ? '' : ' '}${b.text}`.slice(0, LONGEST)
  return { text, ...(b.hyphen !== undefined && { hyphen: b.hyphen }) }
}
