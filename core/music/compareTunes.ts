/** What differs between two states or two settings of a tune, measure by measure. */
import { writtenLength } from './edit/lengths'
import { formatFraction } from './fraction'
import { keyName } from './key'
import { metreName } from './metre'
import { formatPitch } from './pitch'
import { valueName } from './valueName'
import type { Measure, Tune, TuneEvent } from './tune'

export interface MeasureDifference {
  /** Number counted from 1 in each; null where the other has one more. */
  readonly before: number | null
  readonly after: number | null
  readonly was: string
  readonly is: string
}

export interface Comparison {
  readonly facts: readonly { readonly name: string; readonly was: string; readonly is: string }[]
  readonly measures: readonly MeasureDifference[]
  /** Measures that are the same in both. */
  readonly same: number
}

/** A measure for reading: "D4 eighth, E4 eighth, rest quarter". */
export function measureText(m: Measure): string {
  const event = (e: TuneEvent) =>
    `${e.kind === 'rest' ? 'rest' : e.heads.map(h => formatPitch(h.pitch)).join('+')} ${valueName(writtenLength(e))}`
  const signs = [
    m.repeatStart && 'repeat begins',
    m.segno && 'segno',
    m.coda && 'coda',
    m.endings && `ending ${m.endings.join(', ')}`,
  ].filter(Boolean)
  const ends = [
    m.repeatEnd && 'repeat ends',
    m.barline && `${m.barline} bar`,
    m.fine && 'fine',
    m.toCoda && 'to the coda',
    m.jump && (m.jump === 'dc' ? 'da capo' : 'dal segno'),
  ].filter(Boolean)
  return [...signs, m.events.map(event).join(', '), ...ends].join('; ')
}

/** Marks, words and the like of a measure, so that a change of them alone is seen. */
const whole = (m: Measure) =>
  JSON.stringify({
    ...m,
    id: '',
    events: m.events.map(e => ({ ...e, id: '', tuplet: e.tuplet && [e.tuplet.actual, e.tuplet.normal] })),
  })

/**
 * Lays two tunes side by side: the longest common subsequence of their measures is the same, the rest
 * differs. Quadratic in the measures; above 1,500 on both sides they are compared one for one.
 */
export function compareTunes(before: Tune, after: Tune): Comparison {
  const [a, b] = [before.measures, after.measures]
  const pairs =
    a.length <= 1500 && b.length <= 1500
      ? common(a.map(whole), b.map(whole))
      : a.flatMap((m, i) => (b[i] && whole(m) === whole(b[i]) ? [[i, i] as const] : []))
  const out: MeasureDifference[] = []
  let [i, j] = [0, 0]
  for (const [x, y] of [...pairs, [a.length, b.length] as const]) {
    while (i < x || j < y) {
      const [was, is] = [i < x ? a[i] : undefined, j < y ? b[j] : undefined]
      out.push({
        before: was ? i + 1 : null,
        after: is ? j + 1 : null,
        was: was ? measureText(was) : '',
        is: is ? measureText(is) : '',
      })
      if (was) i++
      if (is) j++
    }
    ;[i, j] = [x + 1, y + 1]
  }
  const facts = factsOf(before).flatMap(([name, was], k) => {
    const is = factsOf(after)[k]![1]
    return was === is ? [] : [{ name, was, is }]
  })
  return { facts, measures: out, same: pairs.length }
}

const factsOf = (t: Tune): [string, string][] => [
  ['Title', t.title],
  ['Key', keyName(t.key)],
  ['Metre', metreName(t.metre)],
  ['Kind', t.kind],
  ['Composer', t.composer],
  ['Learned from', t.learnedFrom],
  ['Tempo', t.tempo ? `${formatFraction(t.tempo.beat)} = ${t.tempo.perMinute}` : ''],
  ['Slurs', String(t.slurs.length)],
  ['Notes', t.notes],
]

function common(a: readonly string[], b: readonly string[]): (readonly [number, number])[] {
  const best = Array.from({ length: a.length + 1 }, () => new Uint16Array(b.length + 1))
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      best[i]![j] = a[i] === b[j] ? best[i + 1]![j + 1]! + 1 : Math.max(best[i + 1]![j]!, best[i]![j + 1]!)
  const pairs: [number, number][] = []
  let [i, j] = [0, 0]
  while (i < a.length && j < b.length) {
    if (a[i] === b[j]) pairs.push([i++, j++])
    else if (best[i + 1]![j]! >= best[i]![j + 1]!) i++
    else j++
  }
  return pairs
}
