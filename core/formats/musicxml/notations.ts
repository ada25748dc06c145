/** What stands on a note: its marks, its words, its tie; and what is said of a measure. */
import { METRE_UNITS, metreOf, type Metre } from '#core/music/metre'
import { MOST, type Mark, type NoteEvent, type Syllable } from '#core/music/tune'
import { MARK_PLACES, OTHER_MARKS } from './words'
import { child, children, textAt, type XmlNode } from './xml'

export function marksOf(notations: readonly XmlNode[]): Mark[] {
  const groups = (name: string) => notations.flatMap(x => children(x, name))
  const has = (group: string, name: string) => groups(group).some(g => child(g, name))
  const marks = MARK_PLACES.filter(([, group, name]) => has(group, name)).map(([mark]) => mark)
  for (const [mark, group, name] of OTHER_MARKS) {
    const there = groups(group).flatMap(g => children(g, name))
    if (there.some(x => name === 'scoop' || x.text.trim() === mark)) marks.push(mark)
  }
  if (has('articulations', 'strong-accent') && !marks.includes('accent')) marks.push('accent')
  if (notations.some(x => child(x, 'fermata'))) marks.push('fermata')
  return marks
}

const KNOWN_MARKS = new Set([
  ...[...MARK_PLACES, ...OTHER_MARKS].map(([, , name]) => name),
  'strong-accent',
  'fingering',
  'string',
  // How a mark is drawn, or what it says of the sign beside it.
  'accidental-mark',
  'wavy-line',
])

/** What stands on a note and is nothing of ours, by its name; and a finger beside the first. */
export function notKeptOf(notations: readonly XmlNode[]): string[] {
  const groups = notations.flatMap(x =>
    x.children.filter(g => ['ornaments', 'technical', 'articulations'].includes(g.name)),
  )
  const unknown = groups.flatMap(g => g.children.map(c => c.name).filter(name => !KNOWN_MARKS.has(name)))
  const fingers = groups.flatMap(g => children(g, 'fingering')).length
  return [...new Set(unknown), ...(fingers > 1 ? ['a second finger on a note'] : [])]
}

export function syllablesOf(lyrics: readonly XmlNode[]): (Syllable | null)[] | undefined {
  const out: (Syllable | null)[] = []
  for (const [i, l] of lyrics.entries()) {
    const verse = Number(l.attributes.number ?? NaN)
    const at = Number.isInteger(verse) && verse >= 1 ? verse - 1 : i
    const text = children(l, 'text')
      .map(t => t.text)
      .join(' ')
    if (text === '' || at > MOST.verses) continue
    while (out.length <= at) out.push(null)
    const hyphen = ['begin', 'middle'].includes(textAt(l, 'syllabic'))
    out[at] = { text, ...(hyphen && { hyphen }) }
  }
  return out.length > 0 ? out : undefined
}

/**
 * "7", "2+2+3", and several numbers with a unit each (3/8 + 2/4), counted in the shortest; null when it is no
 * metre we write.
 */
export function metreIn(time: XmlNode): Metre | null {
  const units = children(time, 'beat-type').map(u => METRE_UNITS.find(x => x === Number(u.text)))
  const counts = children(time, 'beats').map(b => b.text.split('+').map(Number))
  if (units.length === 0 || units.length !== counts.length || units.includes(undefined)) return null
  const unit = METRE_UNITS.find(u => u === Math.max(...units.map(u => u!)))!
  const groups = counts.flatMap((numbers, i) => numbers.map(n => n * (unit / units[i]!)))
  const beats = groups.reduce((a, b) => a + b, 0)
  const fits = beats >= 1 && beats <= 64 && groups.every(g => Number.isInteger(g) && g >= 1)
  return fits ? metreOf(beats, unit, groups) : null
}

/** As a tie is heard; where a file says nothing of that, as it is drawn. */
export function startsTie(note: XmlNode): boolean {
  const heard = children(note, 'tie')
  const said = heard.length > 0 ? heard : children(note, 'notations').flatMap(x => children(x, 'tied'))
  return said.some(t => t.attributes.type === 'start')
}

/**
 * A harmonic whose note is the place where the string is touched, or the string it is taken on: another one
 * sounds.
 */
export const isTouched = (note: XmlNode) =>
  children(note, 'notations')
    .flatMap(x => children(x, 'technical'))
    .flatMap(x => children(x, 'harmonic'))
    .some(h => child(h, 'touching-pitch') || child(h, 'base-pitch'))

/** The finger and the string (0 the highest) that are written at a note. */
export function handOf(notations: readonly XmlNode[]): HandOf {
  const nodes = notations.flatMap(x => children(x, 'technical'))
  const value = (name: string) => Number(nodes.map(t => textAt(t, name)).find(t => t !== '') ?? NaN)
  const [finger, string] = [value('fingering'), value('string')]
  return {
    ...(Number.isInteger(finger) && finger >= 0 && finger <= 5 && { finger }),
    ...(Number.isInteger(string) && string >= 1 && string <= 5 && { string: string - 1 }),
  }
}

type HandOf = Pick<NoteEvent, 'finger' | 'string'>

/**
 * Of notes together the lowest keeps its finger and string: `added` is what stands at another note of them,
 * which may be the lowest.
 */
export function handOfLowest(was: HandOf, added: HandOf, lowest: boolean): { hand: HandOf; lost: boolean } {
  const [{ finger, string }, other] = lowest ? [added, was] : [was, added]
  const hand = { ...(finger !== undefined && { finger }), ...(string !== undefined && { string }) }
  return { hand, lost: other.finger !== undefined || other.string !== undefined }
}

/** Not counted: the rest of a measure that a repeat sign has cut in two. */
export const implicit = (measure: XmlNode) => measure.attributes.implicit === 'yes'

/**
 * Half steps by which a part sounds above what is written, octaves left out; 0 when it does not, or says no
 * number.
 */
export function transposedBy(attributes: XmlNode): number {
  const half = Number(textAt(attributes, 'transpose', 'chromatic') || 0)
  return Number.isInteger(half) ? half % 12 : 0
}

/** Signs that begin here and stand for notes: of these measures nothing else may be written. */
export const measureSigns = (attributes: XmlNode): string[] =>
  children(attributes, 'measure-style')
    .flatMap(s => s.children)
    .filter(c => c.name !== 'multiple-rest' && c.attributes.type === 'start')
    .map(c => c.name)
