/** What differs between two states of a tune with its arrangements, in a few words: for undo and redo. */
import type { Arrangement, Played, Taught } from '#core/arrangement/recipe'
import type { Tune } from '#core/music/tune'

export interface TuneState {
  readonly source: string | null
  readonly tune: Tune
  readonly arrangements: readonly { readonly id: string; readonly arrangement: Arrangement }[]
}

const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)
/** Keys whose values differ. */
const differing = <T extends object>(a: T, b: T): (keyof T)[] =>
  a === b
    ? []
    : ([...new Set([...Object.keys(a), ...Object.keys(b)])] as (keyof T)[]).filter(k => !same(a[k], b[k]))

const FACTS: Partial<Record<keyof Tune, string>> = {
  title: 'the title',
  key: 'the key of the tune',
  metre: 'the metre of the tune',
  tempo: 'the tempo of the tune',
  measures: 'the notes',
  slurs: 'the slurs of the tune',
}
const PLAYED: Readonly<Record<keyof Played, string>> = {
  instrument: 'the instrument',
  size: 'the size',
  tuning: 'the tuning',
  key: 'the key',
  octave: 'the octave',
  level: 'the level',
  learner: 'the learner',
  tempo: 'the tempo',
  measured: 'the string length',
  span: 'the reach of the hand',
  schools: 'the style',
  bow: 'the bow',
  pins: 'the pins',
  passages: 'the rules for phrases',
  changes: 'the version',
  through: 'the time through',
  eased: 'the version',
}
const TAUGHT: Readonly<Record<keyof Taught, string>> = {
  boundaries: 'where phrases begin',
  kin: 'which phrases are related',
  names: 'the names of phrases',
  order: 'the order to learn in',
  left: 'the steps left out',
  lines: 'the lines to sing',
  remarks: 'the remarks',
  known: 'the notes that are known',
}
const PINS: Readonly<Record<keyof Played['pins'], string>> = {
  fingers: 'a finger',
  strokes: 'a bow stroke',
  joins: 'a slur',
}

function playedWords(a: Played, b: Played): string[] {
  const keys = differing(a, b)
  // A version sets much beside its changes; what else it set goes without saying.
  if (keys.includes('changes')) return [PLAYED.changes]
  return keys.flatMap(k => (k === 'pins' ? differing(a.pins, b.pins).map(p => PINS[p]) : [PLAYED[k]]))
}

function arrangementWords(a: Arrangement, b: Arrangement): string[] {
  if (a === b) return []
  return [
    ...(a.name !== b.name ? ['its name'] : []),
    ...playedWords(a.played, b.played),
    ...differing(a.taught, b.taught).map(k => TAUGHT[k]),
    ...differing(a.shown, b.shown).map(k => (k === 'sheet' ? 'the sheet' : 'how it is shown')),
  ]
}

const joined = (words: readonly string[]) => {
  const list = [...new Set(words)]
  return list.length < 2 ? list.join('') : `${list.slice(0, -1).join(', ')} and ${list.at(-1)}`
}

/** "the key of “Cello”", "the notes"; "" where nothing differs that has a name. */
export function changedWords(a: TuneState, b: TuneState): string {
  const [before, after] = [new Map(a.arrangements.map(r => [r.id, r.arrangement])), b.arrangements]
  const kept = new Set(after.map(r => r.id))
  const others = after.filter(r => !before.has(r.id)).concat(a.arrangements.filter(r => !kept.has(r.id)))
  if (others.length > 0) return joined(others.map(r => `the arrangement “${r.arrangement.name}”`))
  const several = after.length > 1
  const ofArrangements = after.flatMap(r => {
    const own = arrangementWords(before.get(r.id)!, r.arrangement)
    if (own.length === 0) return []
    const words = joined(own)
    return [
      several ? `${words} of “${r.arrangement.name}”` : words.replace(/^its name/, 'the arrangement’s name'),
    ]
  })
  const facts = differing(a.tune, b.tune).map(k => FACTS[k] ?? 'facts of the tune')
  if (facts.length === 0 && ofArrangements.length === 0) return a.source === b.source ? '' : 'the text'
  // What an edit of the notes did to the pins goes without saying.
  return joined(facts.includes(FACTS.measures!) ? facts : [...facts, ...ofArrangements])
}
