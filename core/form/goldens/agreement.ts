/**
 * How far the analysis agrees with a teacher's: F1 of the places where phrases begin, and of the pairs of
 * phrases that are kin.
 */
import type { Form } from '#core/form/form'
import type { Expected } from './read'

export interface Agreement {
  readonly boundaries: Score
  readonly parts: Score
  readonly kinship: Score
  /** Relations named as the teacher would, of those where the kin were found. */
  readonly relations: { readonly right: number; readonly of: number }
  /** What is missed or too much, in words. */
  readonly faults: readonly string[]
}
export interface Score {
  readonly hit: number
  readonly missed: number
  readonly extra: number
}
export const f1 = ({ hit, missed, extra }: Score) =>
  hit === 0 ? (missed + extra === 0 ? 1 : 0) : (2 * hit) / (2 * hit + missed + extra)
export const sum = (list: readonly Score[]): Score => ({
  hit: list.reduce((n, s) => n + s.hit, 0),
  missed: list.reduce((n, s) => n + s.missed, 0),
  extra: list.reduce((n, s) => n + s.extra, 0),
})

const score = (expected: readonly string[], found: readonly string[]): Score => {
  const hit = expected.filter(x => found.includes(x)).length
  return { hit, missed: expected.length - hit, extra: found.length - hit }
}

/** Words of the analysed tunes for relations. */
const RELATION_WORDS: Readonly<Record<string, string>> = {
  same: 'same', ending: 'ending differs', start: 'start differs', notes: 'notes differ', moved: 'transposed', octave: 'octave',
} // prettier-ignore

export function agreement(expected: Expected, form: Form): Agreement {
  // The first phrase begins where the tune does: no merit in that.
  const wanted = expected.phrases.slice(1)
  const starts = form.phrases.slice(1).map(p => p.events[0]!)
  const boundaries = score(wanted.map(p => p.start), starts) // prettier-ignore
  const parts = score(
    expected.phrases.slice(1).filter(p => p.part !== undefined).map(p => p.start), // prettier-ignore
    form.parts.slice(1).map(p => p.phrases[0]!.events[0]!),
  )
  const pairs = (list: readonly { start: string; family: string | number }[]) =>
    list.flatMap((p, i) => list.slice(0, i).filter(q => q.family === p.family).map(q => `${q.start} ${p.start}`)) // prettier-ignore
  const found = form.phrases.map(p => ({ start: p.events[0]!, family: p.family }))
  const kinship = score(pairs(expected.phrases), pairs(found))
  let [right, of] = [0, 0]
  const faults: string[] = []
  for (const p of wanted) {
    const phrase = form.phrases.find(x => x.events[0] === p.start)
    if (!phrase) faults.push(`no phrase begins at ${p.start}`)
    const kin = phrase?.kin[0]
    if (!kin || p.relations.length === 0) continue
    of++
    if (p.relations.some(r => RELATION_WORDS[r] === kin.relation)) right++
    else faults.push(`${phrase.label}: ${kin.relation} as ${kin.phrase}, not ${p.relations.join(' or ')}`)
  }
  for (const s of starts) if (!wanted.some(p => p.start === s)) faults.push(`a phrase too many at ${s}`)
  return { boundaries, parts, kinship, relations: { right, of }, faults }
}
